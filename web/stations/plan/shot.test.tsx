import { fireEvent, render, screen } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { Job, PlanRow } from '../../../contract/index.ts';
import { someFrame, someJob, somePlanRow, someSetup } from '../../../contract/testing/items.ts';
import { personAt, startingPlan } from '../../../core/plan/index.ts';
import { demoPeople } from '../../../core/studio/cast.ts';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import type { PreviewShot } from './CameraPicture.tsx';
import { ShotForm } from './ShotForm.tsx';

/** What the stand-in camera takes, of whom, and into which setup. */

const plan = startingPlan('Hall', '2026-06-13');
const row = (part: Partial<PlanRow> = {}): PlanRow => somePlanRow({ id: 3, plan, ...part });
const shot: PreviewShot = { kind: 'people', people: ['maren'], seed: 4 };
const job = (part: Partial<Job> = {}): Job => someJob({ kind: 'shot', about: { planId: 3 }, ...part });
const changed = vi.fn<(shot: PreviewShot) => void>();
let heard: Asked[];
beforeEach(() => {
  changed.mockClear();
  useStore.setState({ setups: [someSetup({ id: 6 }), someSetup({ id: 7 })], frames: [], jobs: [] });
  heard = standInServer(() => job());
});
const show = (of: PlanRow, what: PreviewShot = shot): void => {
  render(<ShotForm row={of} shot={what} onShot={changed} />);
};

test('as many people can be chosen as stand there, three at most', () => {
  const people = [0, 1, 2, 3].map((n) => personAt(`n${n}`, `Guest ${n}`, n, 2));
  show(row({ plan: { ...plan, people } }));
  expect(screen.getAllByLabelText(/^Who stands there/)).toHaveLength(3);
  const names = Object.keys(demoPeople);
  fireEvent.change(screen.getByLabelText('Who stands there, 2'), { target: { value: names[5] } });
  expect(changed).toHaveBeenCalledWith({ ...shot, people: ['maren', names[5], names[2]] });
});

test('of an empty screen, a ball, a card nobody is asked for', () => {
  show(row(), { ...shot, kind: 'plate' });
  expect(screen.queryByLabelText(/^Who stands there/)).toBeNull();
  fireEvent.change(screen.getByLabelText('What is taken'), { target: { value: 'ball' } });
  expect(changed).toHaveBeenCalledWith({ ...shot, kind: 'ball' });
});

test('it is taken into the setup that the plan was built as, else into the first', async () => {
  show(row({ setupId: 7 }));
  fireEvent.click(screen.getByRole('button', { name: 'Take this frame' }));
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toEqual({
    method: 'POST',
    path: '/api/plans/3/frames',
    body: { kind: 'people', people: ['maren'], seed: 4, setupId: 7 },
  });
});

test('while it is taken its progress stands there; it failed, and says why; without a setup nothing is taken', async () => {
  useStore.setState({ jobs: [job({ state: 'running', progress: 0.4, secondsLeft: 3 })] });
  show(row());
  expect(screen.getByRole('progressbar', { name: 'Taking' }).getAttribute('aria-valuenow')).toBe('40');
  const button = screen.getByRole('button', { name: 'Take this frame' });
  expect(button.hasAttribute('disabled')).toBe(true);
  const problem = { reason: 'the disk is full', remedy: 'Make room.' };
  useStore.setState({ jobs: [job({ state: 'failed', problem })], frames: [someFrame(1)] });
  expect(await screen.findByText('The disk is full.')).toBeTruthy();
  expect(button.hasAttribute('disabled')).toBe(false);
  useStore.setState({ setups: [] });
  await expect.poll(() => button.hasAttribute('disabled')).toBe(true);
});

test('what was taken is named, also where the frame is told after its job', async () => {
  show(row());
  fireEvent.click(screen.getByRole('button', { name: 'Take this frame' }));
  await expect.poll(() => heard).toHaveLength(1);
  useStore.setState({ jobs: [job({ state: 'done', progress: 1, made: { frameId: 31 } })] });
  await expect.poll(() => changed.mock.lastCall?.[0]).toEqual({ ...shot, seed: 5 });
  expect(screen.queryByText(/is at Gather/)).toBeNull();
  useStore.setState({ frames: [someFrame(31, { name: 'STANDIN_maren_4.jpg' })] });
  expect(await screen.findByText('STANDIN_maren_4.jpg is at Gather')).toBeTruthy();
});
