import { fireEvent, render, screen, within } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { Frame } from '../../../contract/index.ts';
import { verdictOn } from '../../../core/cut/guidance.ts';
import { useStore } from '../../state/store.ts';
import { someBatch, someCut, someEntry, someFrame, someQuality, someSetup } from '../../../contract/testing/items.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { BatchControl } from './BatchControl.tsx';
import { DoubtsPanel } from './DoubtsPanel.tsx';
import { noteOf, orderFrames, stateOf } from './frameStates.ts';
import { LedgerPanel } from './LedgerPanel.tsx';

let heard: Asked[];
beforeEach(() => {
  heard = standInServer(() => someBatch());
});

const frames = [1, 2, 3].map((id) => someFrame(id));

test('the batch says how many of the setup’s frames it is for, and asks for those alone', async () => {
  render(<BatchControl setup={someSetup()} frames={frames} stale={frames.slice(1)} batches={[]} others={[]} />);
  fireEvent.click(screen.getByRole('button', { name: 'Extract 2 of 3 frames' }));
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toEqual({ method: 'POST', path: '/api/setups/1/cut', body: { frameIds: [2, 3] } });
  expect(screen.queryByRole('button', { name: /All setups/ })).toBeNull();
});

test('nothing stale: the button rests and the line says why; other setups are still offered', async () => {
  const others = [
    { id: 2, frames: [], stale: [someFrame(7, { setupId: 2 })] },
    { id: 3, frames: [], stale: [] },
  ];
  render(<BatchControl setup={someSetup()} frames={frames} stale={[]} batches={[]} others={others} />);
  expect(screen.getByRole('button', { name: 'Extract 3 frames' }).hasAttribute('disabled')).toBe(true);
  expect(screen.getByText('all extracted as they stand')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'All setups, 1' }));
  await expect.poll(() => heard.map(({ path }) => path)).toEqual(['/api/setups/2/cut']);
});

test('cuts of an earlier version are offered to be extracted anew, those alone', async () => {
  const cut = [someFrame(1, someCut({}, 'now', 0)), someFrame(2, someCut())];
  render(<BatchControl setup={someSetup()} frames={cut} stale={[]} batches={[]} others={[]} />);
  expect(screen.getByText(/^1 cut of an earlier version/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Extract it anew' }));
  await expect.poll(() => heard.map(({ body }) => body)).toEqual([{ frameIds: [1] }]);
});

test('cuts of an earlier version in other setups are extracted anew with these', async () => {
  const old = (id: number, setupId: number) => someFrame(id, { setupId, ...someCut({}, 'now', 0) });
  const others = [
    { id: 2, frames: [old(7, 2), someFrame(8, { setupId: 2, ...someCut() })], stale: [] },
    { id: 3, frames: [old(9, 3)], stale: [] },
  ];
  render(<BatchControl setup={someSetup()} frames={[old(1, 1)]} stale={[]} batches={[]} others={others} />);
  expect(screen.getByText(/^3 cuts in 3 setups of an earlier version/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Extract them anew' }));
  await expect.poll(() => heard).toHaveLength(3);
  expect(heard.map(({ path, body }) => [path, body])).toEqual([
    ['/api/setups/1/cut', { frameIds: [1] }],
    ['/api/setups/2/cut', { frameIds: [7] }],
    ['/api/setups/3/cut', { frameIds: [9] }],
  ]);
});

test('batches of several setups are one: their sums, the time of all that is open, one cancel for each', async () => {
  const batches = [
    someBatch({ id: 4, total: 10, done: 5, failed: 1, open: 4, secondsLeft: 40 }),
    someBatch({ id: 5, total: 10, open: 10, secondsLeft: null }),
  ];
  render(<BatchControl setup={someSetup()} frames={frames} stale={[]} batches={batches} others={[]} />);
  expect(screen.getByText(/Extracting/).textContent).toBe('Extracting 6 of 20');
  // Ten seconds a frame, as the first batch measured: fourteen are open.
  expect(screen.getByText('2 min 20 s left')).toBeTruthy();
  expect(screen.getByText('1 failed')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Cancel the rest' }));
  await expect.poll(() => heard.map(({ path }) => path)).toEqual(['/api/batches/4', '/api/batches/5']);
});

test('rows: failed first, then the costliest, then what is not cut, the plate last; each says how it stands', () => {
  const failed = someFrame(1, { job: { state: 'failed', problem: { reason: 'The file is gone', remedy: 'Again.' } } });
  const cheap = someFrame(2, someCut({ minutes: 0.2 }));
  const costly = someFrame(3, someCut({ minutes: 4, doubts: [{ kind: 'plateUnlike', minutes: 4, places: [] }] }));
  const waiting = someFrame(4, { job: { state: 'queued', problem: null } });
  const plate = someFrame(9, { plate: true });
  const ordered = orderFrames([plate, waiting, cheap, costly, failed]);
  expect(ordered.map(({ id }) => id)).toEqual([1, 3, 2, 4, 9]);
  const note = (frame: Frame): string => noteOf(frame);
  expect(note(failed)).toBe('failed: The file is gone');
  expect(note(cheap)).toBe('nothing doubtful');
  expect(note(costly)).toMatch(/plate/i);
  expect(note(waiting)).toBe('waits its turn');
  expect(note(plate)).toBe('a plate of its setup');
  expect(stateOf(failed, false)).toBe('The file is gone. Again.');
  expect(stateOf(costly, true)).toBe('extracted, 4 min by hand');
  expect(stateOf(costly, false)).toContain('extract again');
});

test('a place of a doubt is looked at by its number, and left by the same', () => {
  const place = { x: 0.1, y: 0.2, width: 0.1, height: 0.1 };
  const quality = someQuality({ minutes: 2.5, doubts: [{ kind: 'plateUnlike', minutes: 2.5, places: [place] }] });
  const looked = vi.fn();
  const { rerender } = render(
    <DoubtsPanel frame={someFrame(1)} quality={quality} looking={undefined} onLook={looked} />,
  );
  const button = (): HTMLElement => screen.getByRole('button', { name: /^See place 1/ });
  fireEvent.click(button());
  expect(looked).toHaveBeenLastCalledWith(place);
  rerender(<DoubtsPanel frame={someFrame(1)} quality={quality} looking={{ ...place }} onLook={looked} />);
  expect(button().getAttribute('aria-pressed')).toBe('true');
  fireEvent.click(button());
  expect(looked).toHaveBeenLastCalledWith(undefined);
});

test('a frame without doubts says so', () => {
  render(<DoubtsPanel frame={someFrame(1)} quality={someQuality()} looking={undefined} onLook={() => undefined} />);
  expect(screen.getByText('Nothing doubtful was found.')).toBeTruthy();
});

const ledger = [
  someEntry({ share: 0.05, centre: { x: 0.2, y: 0.3 } }),
  someEntry({ share: 0.02, verdict: 'remove', doubtful: true, centre: { x: 0.8, y: 0.3 }, chroma: [0.3, 0.1] }),
  someEntry({ share: 0.0004, centre: { x: 0.5, y: 0.9 }, chroma: [0.1, 0.3] }),
];

test('patches: verdict, source and size in a row; small ones left out until they are chosen', () => {
  const list = (chosen: number | undefined) => (
    <LedgerPanel frame={someFrame(1)} ledger={ledger} chosen={chosen} onChoose={() => undefined} />
  );
  const { rerender } = render(list(undefined));
  const rows = (): string[] => screen.getAllByRole('listitem').map((row) => row.textContent ?? '');
  expect(rows()).toHaveLength(2);
  expect(rows()[0]).toMatch(/^Keeps by evidence.*5\.0 %$/);
  expect(rows()[1]).toMatch(/^Goes in doubt.*2\.0 %$/);
  expect(screen.getByText(/One small patch is left out/)).toBeTruthy();
  expect(screen.getByText(/3 patches come near the screen’s colour, 1 of them in doubt/)).toBeTruthy();
  rerender(list(2));
  expect(rows()).toHaveLength(3);
  expect(rows()[2]).toContain('0.04 %');
});

test('a verdict of the hand replaces the one before on the same patch and leaves the others’', async () => {
  const other = verdictOn(ledger[1], true);
  const frame = someFrame(1, {
    guidance: { masks: [], verdicts: [verdictOn(ledger[0], true), other], touches: [], departures: [] },
  });
  heard = standInServer(({ body }) => ({ ...frame, ...(body as Partial<Frame>) }));
  useStore.setState({ frames: [frame], setups: [someSetup()] });
  render(
    <LedgerPanel
      frame={frame}
      ledger={[{ ...ledger[0], byHand: true }, ...ledger.slice(1)]}
      chosen={0}
      onChoose={() => undefined}
    />,
  );
  const open = within(screen.getAllByRole('listitem')[0]);
  expect(open.getByText(/by hand/)).toBeTruthy();
  fireEvent.click(open.getByRole('button', { name: 'It goes' }));
  await expect.poll(() => heard.find(({ method }) => method === 'PATCH')).toBeTruthy();
  const { body } = heard.find(({ method }) => method === 'PATCH') as Asked;
  const { verdicts } = (body as Pick<Frame, 'guidance'>).guidance;
  expect(verdicts).toEqual([other, verdictOn(ledger[0], false)]);
});
