import { act, fireEvent, render, screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { ask, Questioner } from './ask.tsx';

const question = { title: 'Remove “Pier”?', text: 'It goes with 9 frames.', action: 'Remove it' };

test('the question names what is lost; its button is the only yes', async () => {
  render(<Questioner />);
  let answer: Promise<boolean>;
  act(() => void (answer = ask(question)));
  expect(screen.getByRole('dialog', { name: question.title }).textContent).toContain('9 frames');
  fireEvent.click(screen.getByRole('button', { name: 'Remove it' }));
  expect(await answer!).toBe(true);
});

test('leaving it, by button or by key, is a no', async () => {
  render(<Questioner />);
  let answer: Promise<boolean>;
  act(() => void (answer = ask(question)));
  fireEvent.click(screen.getByRole('button', { name: 'Leave it' }));
  expect(await answer!).toBe(false);
  act(() => void (answer = ask(question)));
  fireEvent.keyDown(screen.getByRole('dialog'), { key: 'Escape' });
  expect(await answer!).toBe(false);
});
