import { fireEvent, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { Rehearsal } from '../../../contract/index.ts';
import { readingFacts } from '../../../core/plan/readings.ts';
import { standInServer } from '../../testing/server.ts';
import { Exercise } from './Exercise.tsx';

const set: Rehearsal = {
  id: 4,
  level: 1,
  createdAt: '2026-06-13T10:00:00.000Z',
  pictures: [
    { kind: 'people', name: 'people', width: 40, height: 60, version: 'v' },
    { kind: 'plate', name: 'plate', width: 40, height: 60, version: 'v' },
  ],
  findings: {
    found: true,
    inView: [],
    patches: [],
    causes: [],
    ready: false,
    readings: ['spread', 'noise', 'edge'].map((id) => ({
      id: id as 'spread',
      value: 3,
      verdict: 'beyond',
      reason: `By ${id}.`,
      minutes: 1,
      evidence: [],
    })),
  },
  answer: null,
  truth: null,
};
const box = (name: string): HTMLInputElement => screen.getByRole('checkbox', { name });

test('at most three causes can be named; the answer goes as it was given', async () => {
  const heard = standInServer(() => ({ ...set, answer: { causes: [], remedy: null } }));
  const answered = vi.fn();
  render(<Exercise rehearsal={set} onAnswered={answered} />);
  for (const name of ['Gain is too high', 'The person moved', 'Creases in the screen']) fireEvent.click(box(name));
  expect(box('White balance is off').disabled).toBe(true);
  fireEvent.click(box('The person moved'));
  expect(box('White balance is off').disabled).toBe(false);
  fireEvent.change(screen.getByLabelText('What would you do first?'), { target: { value: 'shorter' } });
  fireEvent.click(screen.getByRole('button', { name: 'That is my answer' }));
  await expect.poll(() => answered).toHaveBeenCalledOnce();
  expect(heard).toEqual([
    { method: 'POST', path: '/api/rehearsals/4/answer', body: { causes: ['gain', 'wrinkles'], remedy: 'shorter' } },
  ]);
});

test('nothing is an answer as well', async () => {
  const heard = standInServer(() => set);
  render(<Exercise rehearsal={set} onAnswered={() => undefined} />);
  fireEvent.click(screen.getByRole('button', { name: 'That is my answer' }));
  await expect.poll(() => heard[0]?.body).toEqual({ causes: [], remedy: null });
});

test('the truth: what it was, what was said, what would have helped; the readings that show it come first', () => {
  const told: Rehearsal = {
    ...set,
    answer: { causes: ['motion'], remedy: 'focus' },
    truth: {
      causes: ['defocus'],
      remedies: ['focus'],
      shownBy: ['edge'],
      causesRight: false,
      remedyRight: true,
    },
  };
  render(<Exercise rehearsal={told} onAnswered={() => undefined} />);
  const words = screen.getByRole('status').textContent ?? '';
  expect(words).toContain('Not what it was.');
  expect(words).toContain('It was: The person is out of focus. You said: The person moved.');
  expect(words).toContain('You chose one of these.');
  expect(screen.queryByRole('button', { name: 'That is my answer' })).toBeNull();
  const [first] = screen.getAllByRole('button').filter((button) => button.textContent?.includes('shows it'));
  const readings = screen.getAllByRole('button').filter((button) => button.hasAttribute('aria-expanded'));
  expect(readings).toHaveLength(3);
  expect(readings[0]).toBe(first);
  expect(first.textContent).toContain(readingFacts.edge.title);
});

test('a set without a fault that was left alone is praised for it', () => {
  render(
    <Exercise
      rehearsal={{
        ...set,
        answer: { causes: [], remedy: null },
        truth: { causes: [], remedies: [], shownBy: [], causesRight: true, remedyRight: true },
      }}
      onAnswered={() => undefined}
    />,
  );
  const words = screen.getByRole('status').textContent ?? '';
  expect(words).toContain('Right.');
  expect(words).toContain('It was: nothing. You said: nothing.');
  expect(words).toContain('Nothing needed changing, and you left it alone.');
});
