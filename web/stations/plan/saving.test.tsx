import { fireEvent, render, screen, within } from '@testing-library/react';
import { expect, onTestFinished, test, vi } from 'vitest';
import { startingPlan, wholeFreedom, type Freedom, type Improvement, type Plan } from '../../../core/plan/index.ts';
import { standInWorker } from '../../testing/worker.ts';
import type { Factors } from '../../../core/log/index.ts';
import { useFactors } from '../../state/factors.ts';
import { SavePanel } from './SavePanel.tsx';

/** What saves most, and the search: what is offered, what is taken, and what a change meanwhile is worth. */

const plan = startingPlan('Hall', '2026-06-13');
const brighter: Plan = { ...plan, camera: { ...plan.camera, iso: 200 } };
const school = {
  question: 'How bright is the screen?',
  answers: [
    { words: 'As bright as the person', minutes: 12.2, plan },
    { words: 'Half as bright', minutes: 15.7, plan: brighter },
  ],
};
const moved: Improvement = {
  plan: brighter,
  before: 40.4,
  after: 22.6,
  moves: [
    { words: 'Screen 0.5 m farther back', minutes: 15.25 },
    { words: 'Key 0.3 m higher', minutes: -1.2 },
  ],
};

test('single changes stand with their minutes, and are taken as they were priced', async () => {
  standInWorker({
    savings: () => [
      { words: 'Person 0.5 m nearer', minutes: 7.25, plan: brighter, moves: 'person' as const },
      { words: 'Lower the gain', minutes: 0.5, plan, moves: 'person' as const },
    ],
    schools: () => [],
  });
  const changed = vi.fn();
  render(<SavePanel plan={plan} onChange={changed} />);
  expect(screen.getByText('Trying every change …')).toBeTruthy();
  const row = (await screen.findByText('Person 0.5 m nearer')).closest('li') as HTMLElement;
  expect(within(row).getByText(/7\.[23] min/)).toBeTruthy();
  expect(screen.queryByText('Trying every change …')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Do it: Person 0.5 m nearer' }));
  expect(changed).toHaveBeenCalledWith(brighter, 'person 0.5 m nearer');
});

test('that nothing saves is said; a school’s answer is taken under its question', async () => {
  standInWorker({ savings: () => [], schools: () => [school] });
  const changed = vi.fn();
  render(<SavePanel plan={plan} onChange={changed} />);
  expect(await screen.findByText('No single change saves half a minute or more.')).toBeTruthy();
  const take = await screen.findByRole('button', { name: 'Take it: Half as bright' });
  await vi.waitFor(() => expect(take.hasAttribute('disabled')).toBe(false));
  fireEvent.click(take);
  expect(changed).toHaveBeenCalledWith(brighter, 'how bright is the screen?');
});

test('no more than a dozen changes are listed, the first of them', async () => {
  const many = Array.from({ length: 20 }, (_, n) => ({
    words: `Change ${n}`,
    minutes: 20 - n,
    plan,
    moves: 'person' as const,
  }));
  standInWorker({ savings: () => many, schools: () => [] });
  render(<SavePanel plan={plan} onChange={vi.fn()} />);
  await screen.findByText('Change 0');
  expect(screen.getAllByRole('button', { name: /^Do it/ })).toHaveLength(12);
  expect(screen.queryByText('Change 12')).toBeNull();
});

test('a search moves only what may move, shows how far it is, and tells what each move is worth', async () => {
  let finish: (found: Improvement) => void = () => undefined;
  const asked = vi.fn<(plan: Plan, freedom: Freedom, factors: Factors) => void>();
  standInWorker({
    savings: () => [],
    schools: () => [],
    improve: (of, freedom, factors, onRound) => {
      asked(of, freedom, factors);
      onRound(0.25, 30);
      return new Promise((resolve) => (finish = resolve));
    },
  });
  // The coefficients of the own log are what it searches by.
  const own: Factors = { causes: { spread: 1.6 }, doubts: {} };
  useFactors.setState({ taken: own });
  onTestFinished(() => useFactors.setState({ taken: null }));
  const changed = vi.fn();
  render(<SavePanel plan={plan} onChange={changed} />);
  await screen.findByText(/No single change/);
  const [first] = Object.keys(wholeFreedom);
  fireEvent.click(screen.getByRole('checkbox', { name: first }));
  const button = screen.getByRole('button', { name: 'Improve this' });
  fireEvent.click(button);
  const bar = await screen.findByRole('progressbar', { name: 'Search for a better layout' });
  await expect.poll(() => bar.getAttribute('aria-valuenow')).toBe('25');
  expect(button.hasAttribute('disabled')).toBe(true);
  expect(asked.mock.calls).toEqual([[plan, { ...wholeFreedom, [first]: false }, own]]);
  finish(moved);
  expect(await screen.findByText('40 → 23 min')).toBeTruthy();
  expect(screen.getByText('saves 15.3 min')).toBeTruthy();
  expect(screen.getByText('costs 1.2 min by itself')).toBeTruthy();
  expect(changed).toHaveBeenCalledWith(brighter, 'improve');
  expect(button.hasAttribute('disabled')).toBe(false);
});

test('a search that finds nothing changes nothing and says so', async () => {
  standInWorker({
    savings: () => [],
    schools: () => [],
    improve: () => Promise.resolve({ ...moved, plan, after: 40.4, moves: [] }),
  });
  const changed = vi.fn();
  render(<SavePanel plan={plan} onChange={changed} />);
  await screen.findByText(/No single change/);
  fireEvent.click(screen.getByRole('button', { name: 'Improve this' }));
  expect(await screen.findByText(/Nothing better was found/)).toBeTruthy();
  expect(changed).not.toHaveBeenCalled();
});

test('what is changed by hand while the search runs stays; what was found for the plan before is dropped', async () => {
  let finish: (found: Improvement) => void = () => undefined;
  standInWorker({
    savings: () => [],
    schools: () => [],
    improve: () => new Promise((resolve) => (finish = resolve)),
  });
  const changed = vi.fn();
  const { rerender } = render(<SavePanel plan={plan} onChange={changed} />);
  await screen.findByText(/No single change/);
  fireEvent.click(screen.getByRole('button', { name: 'Improve this' }));
  await screen.findByRole('progressbar', { name: 'Search for a better layout' });
  rerender(<SavePanel plan={{ ...plan, name: 'Hall, evening' }} onChange={changed} />);
  await vi.waitFor(() => {
    finish(moved);
    expect(screen.getByText('The plan was changed while the search ran.')).toBeTruthy();
  });
  expect(changed).not.toHaveBeenCalled();
  expect(screen.queryByText('40 → 23 min')).toBeNull();
});
