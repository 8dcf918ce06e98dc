import { fireEvent, render, screen, within } from '@testing-library/react';
import { HotkeysProvider } from 'react-hotkeys-hook';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Frame } from '../../../contract/index.ts';
import { someCut, someFrame, someSetup } from '../../../contract/testing/items.ts';
import { noGuidance } from '../../../core/cut/guidance.ts';
import type { Doubt, Quality } from '../../../core/cut/quality.ts';
import { noExperience, noReview } from '../../../core/touch/review.ts';
import type { Touch } from '../../../core/touch/touch.ts';
import { undoLast } from '../../state/change.ts';
import { changeFrame } from '../../state/changes.ts';
import { kept, useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { standInWorker } from '../../testing/worker.ts';
import { DoubtsPanel } from './DoubtsPanel.tsx';
import { TouchesPanel } from './TouchesPanel.tsx';
import type { Brush } from './touches.ts';
import { TriageBar } from './TriageBar.tsx';
import { WalkPage } from './walk/WalkPage.tsx';

/** Touches listed and changed; frames by what they ask for; the walk through doubtful places. */

const place = (x: number) => ({ x, y: 0.4, width: 0.1, height: 0.1 });
const doubt = (kind: Doubt['kind'], minutes: number, ...xs: number[]): Doubt => ({
  kind,
  minutes,
  places: xs.map(place),
});
const frameWith = (id: number, doubts: Doubt[], part: Partial<Frame> = {}): Frame =>
  someFrame(id, {
    ...someCut({ doubts, minutes: doubts.reduce((sum, { minutes }) => sum + minutes, 0) }),
    ...part,
  });

let heard: Asked[];
beforeEach(() => {
  useStore.setState({ steps: [], undone: [], backgrounds: [] });
});

function serve(frames: Frame[]): void {
  kept.frames.takeAll(frames, 1);
  useStore.setState({ setups: [someSetup()], frames });
  heard = standInServer(({ method, path, body }) => {
    if (method === 'POST') return { path: 'a'.repeat(64) };
    if (path.includes('/paths/')) return { closed: false, points: [{ x: 0.2, y: 0.2, pressure: 1 }] };
    return { ...frames.find(({ id }) => path.endsWith(`/${id}`)), ...(body as object) };
  });
}
const sent = (): { guidance?: Frame['guidance']; review?: Frame['review'] }[] =>
  heard.filter(({ method }) => method === 'PATCH').map(({ body }) => body as never);

const touch = (part: Partial<Touch> = {}): Touch => ({
  id: 'one',
  at: 1,
  kind: 'take',
  on: true,
  size: 0.02,
  softness: 0.5,
  strength: 1,
  path: 'a'.repeat(64),
  ...part,
});

test('touches are listed with the latest above; each is switched, moved or removed by itself', async () => {
  const touches = [touch(), touch({ id: 'two', at: 2, kind: 'add' }), touch({ id: 'three', at: 3, kind: 'hair' })];
  const frame = someFrame(1, { height: 2000, guidance: { masks: [], verdicts: [], touches, departures: [] } });
  serve([frame]);
  render(<TouchesPanel frame={frame} brush={undefined} onHold={() => undefined} />);
  const rows = screen.getAllByRole('listitem');
  expect(rows.map((row) => row.textContent)).toEqual([
    expect.stringContaining('Hair here'),
    expect.stringContaining('Add'),
    expect.stringContaining('Take away'),
  ]);
  expect(rows[0].textContent).toContain('40 px');
  fireEvent.click(within(rows[1]).getByRole('checkbox', { name: 'Add holds' }));
  await expect.poll(sent).toHaveLength(1);
  expect(sent()[0].guidance?.touches.map(({ on }) => on)).toEqual([true, false, true]);
  fireEvent.click(within(rows[2]).getByRole('button', { name: 'Lay on later' }));
  await expect.poll(sent).toHaveLength(2);
  expect(sent()[1].guidance?.touches.find(({ id }) => id === 'one')?.at).toBe(2.5);
  expect(within(rows[0]).getByRole('button', { name: 'Lay on later' }).hasAttribute('disabled')).toBe(true);
  fireEvent.click(within(rows[0]).getByRole('button', { name: 'Remove' }));
  await expect.poll(sent).toHaveLength(3);
  expect(sent()[2].guidance?.touches.map(({ id }) => id)).not.toContain('three');
});

test('touches that change nothing any more say so, but for those that are switched off', () => {
  const touches = [touch(), touch({ id: 'two', at: 2, kind: 'add', on: false }), touch({ id: 'three', at: 3 })];
  const frame = someFrame(1, { guidance: { masks: [], verdicts: [], touches, departures: [] } });
  render(<TouchesPanel frame={frame} brush={undefined} onHold={() => undefined} idle={['one', 'two']} />);
  expect(screen.getByRole('status').textContent).toContain('One changes nothing any more');
  const said = screen.getAllByRole('listitem').map(({ textContent }) => textContent?.includes('nothing any more'));
  expect(said).toEqual([false, false, true]);
});

test('a brush keeps its width when another kind is taken; pressed again it is put down', () => {
  serve([someFrame(1)]);
  const hold = vi.fn();
  const brush = { kind: 'take', zone: false, size: 0.1, softness: 0.2, strength: 0.5 } as const;
  render(<TouchesPanel frame={someFrame(1, { height: 1000 })} brush={brush} onHold={hold} />);
  expect(screen.getByRole<HTMLInputElement>('spinbutton', { name: /^Width/ }).value).toBe('100');
  fireEvent.click(screen.getByRole('button', { name: 'Greys up' }));
  expect(hold).toHaveBeenLastCalledWith({ ...brush, kind: 'greysUp' });
  fireEvent.click(screen.getByRole('button', { name: 'Outline of a zone' }));
  expect(hold).toHaveBeenLastCalledWith({ ...brush, zone: true });
  fireEvent.click(screen.getByRole('button', { name: 'Take away' }));
  expect(hold).toHaveBeenLastCalledWith(undefined);
});

test('frames by what they ask for; a group is chosen and left again', () => {
  const frames = [
    frameWith(1, []),
    frameWith(2, [doubt('holes', 0.6, 0.1)]),
    frameWith(3, [doubt('holes', 3, 0.1, 0.3, 0.5)]),
    frameWith(4, [doubt('holes', 3, 0.1)], { review: { ...noReview, state: 'accepted', of: 'f4' } }),
  ].map((frame) => ({ ...frame, cut: frame.cut && { ...frame.cut, fingerprint: `f${frame.id}` } }));
  const show = vi.fn();
  const bar = (shown: 'all' | 'hand') => (
    <TriageBar
      frames={frames}
      experience={noExperience}
      shown={shown}
      onShow={show}
      onWalk={() => undefined}
      onSheet={() => undefined}
    />
  );
  const { rerender } = render(bar('all'));
  const group = screen.getByRole('group', { name: 'Frames listed' });
  expect(
    within(group)
      .getAllByRole('button')
      .map((button) => button.textContent?.replace(/\s/g, ' ')),
  ).toEqual(['Hand 1', 'Look 1', 'Clean 1', 'Accepted 1']);
  expect(screen.getByText(/All looked at in/).textContent).toContain('4 min');
  expect(screen.getByRole('button', { name: 'Walk through 4 doubtful places' })).toBeTruthy();
  fireEvent.click(within(group).getByRole('button', { name: /^Hand/ }));
  expect(show).toHaveBeenLastCalledWith('hand');
  rerender(bar('hand'));
  fireEvent.click(within(group).getByRole('button', { name: /^Hand/ }));
  expect(show).toHaveBeenLastCalledWith('all');
});

test('the walk asks place by place; an answer settles it and lays its touch; skipping and all alike go on', async () => {
  const frames = [frameWith(1, [doubt('holes', 3, 0.1, 0.7)]), frameWith(2, [doubt('holes', 1, 0.11)])];
  serve(frames);
  standInWorker({ looks: () => new Promise(() => undefined) });
  const end = vi.fn();
  const Walk = () => (
    <WalkPage frames={useStore((state) => state.frames)} setups={[someSetup()]} experience={noExperience} onEnd={end} />
  );
  render(
    <HotkeysProvider>
      <Walk />
    </HotkeysProvider>,
  );
  expect(screen.getByText('Is this a gap, thin cloth, or solid?')).toBeTruthy();
  expect(screen.getByText(/^Place/).textContent).toBe('Place 1 of 3');
  fireEvent.click(screen.getByRole('button', { name: /It is solid/ }));
  await expect.poll(() => screen.getByText(/^Place/).textContent).toBe('Place 2 of 3');
  await expect.poll(sent).toHaveLength(1);
  expect(sent()[0].guidance?.touches).toMatchObject([{ kind: 'add', path: 'a'.repeat(64) }]);
  expect(sent()[0].review).toMatchObject({ state: 'looked', settled: [{ kind: 'holes', good: false }] });
  fireEvent.click(screen.getByRole('button', { name: /Skip/ }));
  expect(screen.getByText(/F2\.jpg/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: /It is good so/ }));
  await expect.poll(() => screen.queryByText(/Every doubtful place has been looked at/)).toBeTruthy();
  // Only what a hand has changed is shown.
  expect(screen.getByRole('button', { name: /F1\.jpg/ })).toBeTruthy();
  expect(screen.queryByRole('button', { name: /F2\.jpg/ })).toBeNull();
});

test('a brush that moves the outline begins with a pixel, others with their whole strength', () => {
  serve([someFrame(1)]);
  const held = vi.fn<(brush: Brush | undefined) => void>();
  const panel = (brush?: Brush) => <TouchesPanel frame={someFrame(1)} brush={brush} onHold={held} />;
  const { rerender } = render(panel());
  const take = (title: string): Brush => {
    fireEvent.click(screen.getByRole('button', { name: title }));
    return held.mock.lastCall?.[0] as Brush;
  };
  const out = take('Outline out');
  expect(out).toMatchObject({ kind: 'edgeOut', strength: expect.closeTo(1 / 3) });
  rerender(panel({ ...out, strength: 0.1 }));
  expect(take('Outline in').strength).toBe(0.1);
  expect(take('Add').strength).toBe(1);
});

test('places with one cause are shown and answered together, as one step; one that is pressed is left out', async () => {
  const frames = [
    frameWith(1, [doubt('holes', 3, 0.1)]),
    frameWith(2, [doubt('holes', 2, 0.11)]),
    frameWith(3, [doubt('holes', 1, 0.12)]),
    frameWith(4, [doubt('holes', 1, 0.8)]),
  ];
  serve(frames);
  standInWorker({ looks: () => new Promise(() => undefined) });
  const Walk = () => (
    <WalkPage
      frames={useStore((state) => state.frames)}
      setups={[someSetup()]}
      experience={noExperience}
      onEnd={() => undefined}
    />
  );
  render(
    <HotkeysProvider>
      <Walk />
    </HotkeysProvider>,
  );
  fireEvent.click(screen.getByRole('button', { name: /All 3 like this/ }));
  const strip = screen.getByRole('group', { name: 'All like this' });
  expect(within(strip).getAllByRole('button')).toHaveLength(3);
  const press = (name: string): boolean => fireEvent.click(within(strip).getByRole('button', { name }));
  for (const name of ['F1.jpg', 'F2.jpg', 'F3.jpg']) press(name);
  expect(screen.getByRole('button', { name: /It is solid, all 0/ }).hasAttribute('disabled')).toBe(true);
  for (const name of ['F1.jpg', 'F2.jpg']) press(name);
  fireEvent.click(screen.getByRole('button', { name: /It is solid, all 2/ }));
  await expect.poll(sent).toHaveLength(2);
  for (const { guidance, review } of sent()) {
    expect(guidance?.touches).toMatchObject([{ kind: 'add' }]);
    expect(review).toMatchObject({ state: 'looked', settled: [{ kind: 'holes', good: false }] });
  }
  expect(useStore.getState().steps).toMatchObject([{ label: 'it is solid, 2 places' }]);
  // The one that was left out is still asked, by itself.
  await expect.poll(() => screen.getByText(/^Place/).textContent).toBe('Place 3 of 4');
  await undoLast();
  await expect.poll(sent).toHaveLength(4);
  expect(sent()[3].guidance?.touches).toEqual([]);
  await expect.poll(() => screen.getByText(/^Place/).textContent).toBe('Place 1 of 4');
});

test('a doubt’s place that is good is said so where it is seen, and marked', async () => {
  const frame = frameWith(1, [doubt('holes', 3, 0.1, 0.7)]);
  serve([frame]);
  const quality = frame.cut?.quality as Quality;
  const panel = (one: Frame, looking?: Doubt['places'][number]) => (
    <DoubtsPanel frame={one} quality={quality} looking={looking} onLook={() => undefined} />
  );
  const { rerender } = render(panel(frame));
  expect(screen.queryByRole('button', { name: 'It is good so' })).toBeNull();
  rerender(panel(frame, place(0.7)));
  fireEvent.click(screen.getByRole('button', { name: 'It is good so' }));
  await expect.poll(sent).toHaveLength(1);
  const [{ review }] = sent();
  expect(review?.settled).toMatchObject([{ kind: 'holes', good: true }]);
  rerender(panel({ ...frame, review: review ?? null }, place(0.7)));
  expect(screen.getByRole('button', { name: /^See place 2: .*settled$/ })).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'It is good so' })).toBeNull();
});

test('what is said of a frame keeps its stored cut in sight while it is saved; who is on it does not', async () => {
  const frame = frameWith(1, []);
  serve([frame]);
  const { unsaved, unsavedOrders } = useStore.getState();
  const now = () => {
    const state = useStore.getState();
    return [state.unsaved - unsaved, state.unsavedOrders - unsavedOrders];
  };
  void changeFrame(frame, () => ({ review: { ...noReview, state: 'accepted' } }), null);
  expect(now()).toEqual([1, 0]);
  void changeFrame(frame, () => ({ subject: 'Ana' }), null);
  expect(now()).toEqual([2, 1]);
  await expect.poll(now).toEqual([0, 0]);
  // Neither was a step of the hand.
  expect(useStore.getState().steps).toEqual([]);
});

describe('touches are carried to the subject’s other frames', () => {
  const ada = (id: number, touches: Touch[] = []): Frame =>
    someFrame(id, { subject: 'Ada', guidance: { ...noGuidance, touches } });
  const frames = [ada(1, [touch({ id: 'a' }), touch({ id: 'b', kind: 'add', on: false })]), ada(2), ada(3)];
  const panel = () => <TouchesPanel frame={frames[0]} brush={undefined} onHold={() => undefined} />;

  test('those that are surely found are laid on, as one step; others only if a hand says so', async () => {
    serve(frames);
    const asked: unknown[] = [];
    standInWorker({
      carry: (_own: string, other: string, strokes: readonly unknown[]) => {
        asked.push(strokes.length);
        const there = { closed: false, points: [{ x: 0.6, y: 0.4, pressure: 1 }] };
        return Promise.resolve([{ line: there, scale: 1.5, sure: other.includes('/2/') ? 0.9 : 0.3 }]);
      },
    });
    render(panel());
    fireEvent.click(screen.getByRole('button', { name: 'Carry to 2 other frames of Ada' }));
    const sure = await screen.findByRole('checkbox', { name: 'Take away, F2.jpg' });
    const unsure = await screen.findByRole('checkbox', { name: 'Take away, F3.jpg' });
    // What is switched off is not carried.
    expect(asked).toEqual([1, 1]);
    expect((sure as HTMLInputElement).checked).toBe(true);
    expect((unsure as HTMLInputElement).checked).toBe(false);
    fireEvent.click(screen.getByRole('button', { name: 'Lay on 1 touch' }));
    await expect.poll(sent).toHaveLength(1);
    expect(sent()[0].guidance?.touches).toMatchObject([{ kind: 'take', path: 'a'.repeat(64), size: 0.03, at: 1 }]);
    expect(useStore.getState().steps.map(({ label }) => label)).toEqual(['touches carried over']);
  });

  test('a frame that cannot be read is named, and where nothing is found that is said', async () => {
    serve(frames);
    standInWorker({
      carry: (_own: string, other: string) =>
        other.includes('/2/') ? Promise.reject(new Error('broken')) : Promise.resolve([undefined]),
    });
    render(panel());
    fireEvent.click(screen.getByRole('button', { name: 'Carry to 2 other frames of Ada' }));
    expect(await screen.findByText(/Could not be looked through: F2\.jpg/)).toBeTruthy();
    expect(await screen.findByText(/Nowhere is the same place found/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Lay on 0 touches' }).hasAttribute('disabled')).toBe(true);
  });

  test('nobody else on the roster, nothing to carry to', () => {
    serve([frames[0], someFrame(4, { subject: 'Ben' })]);
    render(panel());
    expect(screen.queryByRole('button', { name: /^Carry to/ })).toBeNull();
  });
});
