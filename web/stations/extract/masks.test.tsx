import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Frame, Job, Setup } from '../../../contract/index.ts';
import { someFrame, someJob, someSetup } from '../../../contract/testing/items.ts';
import { noGuidance, type HandMask } from '../../../core/cut/guidance.ts';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { areaOf, effects, keepMask, outlineOf, withLine, type Drawing } from './maskFacts.ts';
import { MasksPanel } from './MasksPanel.tsx';
import type { Gestures } from './useGestures.ts';

/** Masks by hand, who is on the frame, and the plates. */

const triangle = [
  { x: 0.1, y: 0.1 },
  { x: 0.5, y: 0.1 },
  { x: 0.1, y: 0.6 },
];
const mask = (part: Partial<HandMask> = {}): HandMask => ({ effect: 'clear', polygon: triangle, ...part });
const plateJob = (part: Partial<Job>): Job =>
  someJob({ id: 5, kind: 'plate', about: { setupId: 1 }, state: 'running', progress: 0.5, secondsLeft: 12, ...part });

let heard: Asked[];
const drawn = vi.fn<(drawing: Drawing | undefined) => void>();
beforeEach(() => {
  drawn.mockClear();
  useStore.setState({ jobs: [], steps: [], subjects: [] });
});

const gone = vi.fn<(frameId: number) => void>();

function show(setup: Setup, frames: Frame[], drawing?: Drawing, gestures?: Gestures): void {
  useStore.setState({ setups: [setup], frames });
  heard = standInServer(({ method, path, body }) => {
    if (method === 'POST') return plateJob({ state: 'queued' });
    if (method === 'PUT') return frames;
    const item = path.includes('/setups/') ? setup : frames.find(({ id }) => path.endsWith(`/${id}`));
    return { ...item, ...(body as object) };
  });
  render(
    <MasksPanel
      setup={setup}
      frame={frames[0]}
      frames={frames}
      drawing={drawing}
      onDraw={drawn}
      gestures={gestures}
      onGo={gone}
    />,
  );
}
const sent = (): unknown => heard.findLast(({ method }) => method === 'PATCH');

test('every effect can be begun, and says what it does to whoever only hears it', () => {
  show(someSetup(), [someFrame(1)]);
  for (const [effect, { title, words }] of Object.entries(effects)) {
    const button = screen.getByRole('button', { name: title });
    expect(button.getAttribute('title')).toBe(words);
    fireEvent.click(button);
    expect(drawn).toHaveBeenLastCalledWith({ effect, scope: 'setup', corners: [] });
  }
});

test('a mask is kept from its third corner on; its share of the frame is told', () => {
  const drawing: Drawing = { effect: 'solid', scope: 'setup', corners: triangle.slice(0, 2) };
  show(someSetup(), [someFrame(1)], drawing);
  expect(screen.getByRole('button', { name: 'Keep the mask' }).hasAttribute('disabled')).toBe(true);
  expect(screen.queryByText(/of the frame/)).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Give up' }));
  expect(drawn).toHaveBeenLastCalledWith(undefined);
});

test('a mask for the setup joins those that it has, and the drawing is over', async () => {
  const setup = someSetup({ masks: [mask({ effect: 'crop' })] });
  show(setup, [someFrame(1)], { effect: 'solid', scope: 'setup', corners: triangle });
  expect(screen.getByText('10.0 %')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Keep the mask' }));
  expect(drawn).toHaveBeenLastCalledWith(undefined);
  await expect.poll(sent).toMatchObject({
    path: '/api/setups/1',
    body: { masks: [mask({ effect: 'crop' }), mask({ effect: 'solid' })], seen: { masks: [mask({ effect: 'crop' })] } },
  });
});

test('a border may be soft, by pixels of the file', async () => {
  const setup = someSetup();
  const frame = someFrame(1, { height: 1000 });
  const drawing: Drawing = { effect: 'clear', scope: 'setup', corners: triangle };
  show(setup, [frame], drawing);
  const soft = screen.getByRole('spinbutton', { name: /^Border soft over/ });
  fireEvent.change(soft, { target: { value: '12' } });
  fireEvent.blur(soft);
  expect(drawn).toHaveBeenLastCalledWith({ ...drawing, soft: 0.012 });
  keepMask({ ...drawing, soft: 0.012 }, setup, frame);
  await expect.poll(sent).toMatchObject({ body: { masks: [{ effect: 'clear', soft: 0.012 }] } });
});

test('for this frame it is said on the frame; for its subject too, and marked so', async () => {
  const frame = someFrame(1, { subject: 'Ada' });
  show(someSetup(), [frame], { effect: 'sheer', scope: 'subject', corners: triangle });
  fireEvent.click(screen.getByRole('button', { name: 'Keep the mask' }));
  await expect.poll(sent).toMatchObject({
    path: '/api/frames/1',
    body: { guidance: { masks: [mask({ effect: 'sheer', wholeSubject: true })] } },
  });
});

test('effect and reach of a mask can still be chosen while it is drawn; a subject’s only where there is one', () => {
  const drawing: Drawing = { effect: 'solid', scope: 'setup', corners: [] };
  show(someSetup(), [someFrame(1)], drawing);
  const reach = screen.getByLabelText('Holds for');
  expect(within(reach).queryByText('all frames of this subject')).toBeNull();
  fireEvent.change(reach, { target: { value: 'frame' } });
  expect(drawn).toHaveBeenLastCalledWith({ ...drawing, scope: 'frame' });
  fireEvent.change(screen.getByLabelText('Effect'), { target: { value: 'crop' } });
  expect(drawn).toHaveBeenLastCalledWith({ ...drawing, effect: 'crop' });
});

describe('a crop for all gestures of a setup', () => {
  const frames = [someFrame(1, { subject: 'Ada' }), someFrame(2, { name: 'B.jpg' }), someFrame(3)];
  /** Two who fill a part of the frame each, from the left. */
  const gestures = (...widths: number[]): Gestures => ({
    shown: widths.map((width, n) => ({
      frame: frames[n],
      figure: {
        width: 10,
        height: 10,
        data: Uint8Array.from({ length: 100 }, (_, p) => (p % 10 < 10 * width ? 255 : 0)),
      },
    })),
    left: 0,
    missing: 1,
    all: { width: 1, height: 1, data: Uint8Array.of(255) },
  });
  const crop = (right: number): Drawing => ({
    effect: 'crop',
    scope: 'setup',
    corners: [
      { x: 0, y: 0 },
      { x: right, y: 0 },
      { x: right, y: 1 },
      { x: 0, y: 1 },
    ],
  });

  test('names whom it would cut, worst first, and goes there', () => {
    show(someSetup(), frames, crop(0.4), gestures(0.5, 0.8));
    const list = screen.getByRole('list', { name: 'Whom the crop would cut' });
    expect([...list.children].map(({ textContent }) => textContent)).toEqual([
      'B.jpg50.0 % of the figure',
      'Ada20.0 % of the figure',
    ]);
    fireEvent.click(within(list).getByRole('button', { name: 'Ada' }));
    expect(gone).toHaveBeenLastCalledWith(1);
  });

  test('says how many are still to be read, and nothing of whom it cuts until then', () => {
    show(someSetup(), frames, crop(0.4), { ...gestures(), left: 7 });
    expect(screen.getByText(/Reading all gestures/).textContent).toContain('7 frames to go');
    expect(screen.queryByText('It cuts nobody.')).toBeNull();
  });

  test('says so where it cuts nobody, and how many frames it does not know', () => {
    show(someSetup(), frames, crop(0.9), gestures(0.5, 0.8));
    expect(screen.getByText('It cuts nobody.')).toBeTruthy();
    expect(screen.getByText(/1 frame is not extracted yet/).textContent).toContain('All 2 gestures');
  });

  test('one frame’s crop needs nobody else', () => {
    show(someSetup(), frames, { ...crop(0.4), scope: 'frame' });
    expect(screen.queryByText(/gestures/)).toBeNull();
  });
});

test('the list holds the setup’s masks, the frame’s, and those drawn on others of the subject, each with its reach', () => {
  const frame = someFrame(1, {
    subject: 'Ada',
    guidance: { masks: [mask({ effect: 'solid' })], verdicts: [], touches: [], departures: [] },
  });
  const alike = someFrame(2, {
    subject: 'Ada',
    guidance: {
      masks: [mask({ effect: 'sheer', wholeSubject: true }), mask({ effect: 'crop' })],
      verdicts: [],
      touches: [],
      departures: [],
    },
  });
  const other = someFrame(3, {
    subject: 'Ben',
    guidance: { masks: [mask({ wholeSubject: true })], verdicts: [], touches: [], departures: [] },
  });
  show(someSetup({ masks: [mask()] }), [frame, alike, other]);
  const rows = within(screen.getByRole('list', { name: 'Masks' })).getAllByRole('listitem');
  expect(rows.map((row) => row.textContent)).toEqual([
    'Clear, 3 cornersall frames of the setup',
    'Solid, 3 cornersthis frame',
    'See-through, 3 cornersall frames of this subject, drawn on F2.jpg',
  ]);
});

test('a mask is taken away where it was drawn, the others there stay', async () => {
  const two = [mask({ effect: 'sheer', wholeSubject: true }), mask({ effect: 'crop' })];
  const frame = someFrame(1, { subject: 'Ada' });
  const alike = someFrame(2, { subject: 'Ada', guidance: { masks: two, verdicts: [], touches: [], departures: [] } });
  show(someSetup(), [frame, alike]);
  fireEvent.click(within(screen.getByRole('list', { name: 'Masks' })).getByRole('button', { name: 'Remove' }));
  await expect.poll(sent).toMatchObject({ path: '/api/frames/2', body: { guidance: { masks: [two[1]] } } });
  await expect.poll(() => useStore.getState().unsaved).toBe(0);
  expect(useStore.getState().steps.at(-1)?.label).toBe('mask');
});

test('a subject is kept trimmed when the field is left, and not sent when it is as it was', async () => {
  const frame = someFrame(1, { subject: 'Ada' });
  show(someSetup(), [frame]);
  const field = screen.getByLabelText('Subject');
  fireEvent.blur(field);
  expect(sent()).toBeUndefined();
  fireEvent.change(field, { target: { value: '  Ada Brook ' } });
  fireEvent.blur(field);
  await expect.poll(sent).toMatchObject({ path: '/api/frames/1', body: { subject: 'Ada Brook' } });
});

test('subjects of the other frames are offered', async () => {
  show(someSetup(), [someFrame(1), someFrame(2, { subject: 'Ben' }), someFrame(3, { subject: 'Ada' })]);
  const field = screen.getByLabelText('Subject');
  fireEvent.focus(field);
  fireEvent.keyDown(field, { key: 'ArrowDown' });
  const options = await screen.findAllByRole('option');
  expect(options.map((option) => option.textContent)).toEqual(['Ada', 'Ben']);
  fireEvent.click(options[1]);
  await expect.poll(sent).toMatchObject({ body: { subject: 'Ben' } });
});

test('this frame becomes a plate beside the others, unless it is one', async () => {
  show(someSetup(), [someFrame(1), someFrame(2, { plate: true })]);
  expect(screen.getByText('F2.jpg', { selector: 'strong' })).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'This frame is a plate' }));
  await expect
    .poll(() => heard.at(-1))
    .toMatchObject({ path: '/api/shoots/1/sorting', body: { changes: [{ frameIds: [1], plate: true }] } });
  fireEvent.click(screen.getByLabelText('No plate'));
  await expect
    .poll(() => heard.at(-1))
    .toMatchObject({ path: '/api/shoots/1/sorting', body: { changes: [{ frameIds: [2], plate: false }] } });
});

test('from one frame alone no plate is put together', () => {
  show(someSetup(), [someFrame(1)]);
  expect(screen.getByRole('button', { name: 'Put one together' }).hasAttribute('disabled')).toBe(true);
});

test('while a plate is put together it is said, and can be ended', async () => {
  show(someSetup(), [someFrame(1), someFrame(2)]);
  fireEvent.click(screen.getByRole('button', { name: 'Put one together' }));
  await expect.poll(() => heard.map(({ path }) => path)).toContain('/api/setups/1/plate');
  useStore.setState({ jobs: [plateJob({})] });
  expect((await screen.findByRole('progressbar', { name: 'Plate' })).getAttribute('aria-valuenow')).toBe('50');
  expect(screen.getByText(/50 %, 12 s left/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Cancel: Putting the screen together' }));
  await expect.poll(() => heard.at(-1)).toMatchObject({ method: 'DELETE', path: '/api/jobs/5' });
});

test('a plate that failed says why and what to do, until it is put away', async () => {
  show(someSetup(), [someFrame(1), someFrame(2)]);
  const problem = { reason: 'the frames show no screen in common', remedy: 'Take one of the empty screen.' };
  useStore.setState({ jobs: [plateJob({ state: 'failed', problem })] });
  expect(await screen.findByText(/no screen in common/)).toBeTruthy();
  expect(screen.getByText(/Take one of the empty screen/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Put away' }));
  await expect.poll(() => heard.at(-1)).toMatchObject({ method: 'DELETE', path: '/api/jobs/5' });
  useStore.setState({ jobs: [plateJob({ state: 'done', made: { seen: 0.874 } })] });
  expect(await screen.findByText('87 %')).toBeTruthy();
});

test('the area of a polygon does not ask for its direction', () => {
  const square = [
    { x: 0, y: 0 },
    { x: 1, y: 0 },
    { x: 1, y: 1 },
    { x: 0, y: 1 },
  ];
  expect(areaOf(square)).toBe(1);
  expect(areaOf([...square].reverse())).toBe(1);
  expect(areaOf(triangle)).toBeCloseTo(0.1);
  expect(areaOf([])).toBe(0);
});

test('a matte of one’s own is brought in, its use chosen, and taken off', async () => {
  const file = 'b'.repeat(64);
  const sends: [string, string][] = [];
  vi.stubGlobal(
    'XMLHttpRequest',
    class {
      upload = {};
      status = 201;
      responseText = JSON.stringify({ file });
      onload?: () => void;
      open(method: string, path: string): void {
        sends.push([method, path]);
      }
      setRequestHeader(): void {
        // Nothing depends on it.
      }
      send(): void {
        this.onload?.();
      }
    },
  );
  const frame = someFrame(1);
  show(someSetup(), [frame]);
  const given = new File(['x'], 'matte.png', { type: 'image/png' });
  fireEvent.change(screen.getByLabelText('Matte file'), { target: { files: [given] } });
  await expect.poll(sent).toMatchObject({ body: { guidance: { matte: { file, use: 'instead' } } } });
  expect(sends).toEqual([['POST', expect.stringMatching(/^\/api\/frames\/1\/matte\?name=matte\.png/)]]);
  const own = { ...frame, guidance: { ...noGuidance, matte: { file, use: 'instead' as const } } };
  cleanup();
  show(someSetup(), [own]);
  fireEvent.change(screen.getByLabelText('It is taken'), { target: { value: 'core' } });
  await expect.poll(sent).toMatchObject({ body: { guidance: { matte: { file, use: 'core' } } } });
  fireEvent.click(screen.getByRole('button', { name: 'Take it off' }));
  await expect.poll(sent).toMatchObject({ body: { guidance: { matte: null } } });
});

describe('settings of a region', () => {
  const region = mask({ effect: 'own', settings: { spill: 0.2 } });
  const own = (masks: HandMask[]): Frame => someFrame(1, { guidance: { ...noGuidance, masks } });

  test('what differs is set there, and starts from what is around it', async () => {
    show(someSetup(), [own([mask({ effect: 'crop' }), region])]);
    const group = screen.getByRole('group', { name: 'Settings in this region' });
    const spill = within(group).getByRole('spinbutton', { name: /^Spill removed/ });
    fireEvent.change(spill, { target: { value: '0,5' } });
    fireEvent.blur(spill);
    await expect
      .poll(sent)
      .toMatchObject({ body: { guidance: { masks: [{ effect: 'crop' }, { settings: { spill: 0.5 } }] } } });
  });

  test('another one begins as it is around it; light on the person is none of them', async () => {
    show(someSetup(), [own([region])]);
    const others = screen.getByLabelText('Another setting');
    expect(within(others).queryByText('Person’s exposure')).toBeNull();
    fireEvent.change(others, { target: { value: 'hairReach' } });
    await expect.poll(sent).toMatchObject({
      body: { guidance: { masks: [{ settings: { spill: 0.2, hairReach: someSetup().recipe.hairReach } }] } },
    });
  });

  test('a setting goes back to what is around it; ways are chosen', async () => {
    show(someSetup(), [own([mask({ effect: 'own', settings: { method: 'difference' } })])]);
    fireEvent.change(screen.getByLabelText('Method'), { target: { value: 'layers' } });
    await expect.poll(sent).toMatchObject({ body: { guidance: { masks: [{ settings: { method: 'layers' } }] } } });
    fireEvent.click(screen.getByRole('button', { name: 'Method, as around it' }));
    await expect.poll(sent).toMatchObject({ body: { guidance: { masks: [{ settings: {} }] } } });
  });

  test('of the setup: kept with the setup', async () => {
    show(someSetup({ masks: [region] }), [someFrame(1)]);
    fireEvent.click(screen.getByRole('button', { name: 'Spill removed, as around it' }));
    await expect
      .poll(sent)
      .toMatchObject({ path: '/api/setups/1', body: { masks: [{ effect: 'own', settings: {} }] } });
  });
});

describe('outlines', () => {
  const drawing: Drawing = { effect: 'solid', scope: 'frame', corners: triangle };

  test('drawn in one go they keep their shape with few corners, within the frame, and never more than a mask holds', () => {
    const wave = Array.from({ length: 3000 }, (_, n) => ({
      x: 0.5 + 0.45 * Math.cos(n / 477) + 0.02 * Math.sin(n * 0.37),
      y: 0.5 + 0.6 * Math.sin(n / 477),
    }));
    const { corners } = withLine({ ...drawing, corners: [] }, wave);
    expect(corners.length).toBeGreaterThan(50);
    expect(corners.length).toBeLessThanOrEqual(200);
    expect(corners.every(({ x, y }) => x >= 0 && x <= 1 && y >= 0 && y <= 1)).toBe(true);
    const line = [0, 0.2, 0.4, 0.6].map((x) => ({ x, y: 0.5 }));
    expect(withLine(drawing, line).corners).toEqual([...triangle, line[0], line[3]]);
  });

  test('rounded, they are kept as curves through the corners', async () => {
    const frame = someFrame(1);
    show(someSetup(), [frame], drawing);
    fireEvent.click(screen.getByLabelText('Rounded through its corners'));
    expect(drawn).toHaveBeenLastCalledWith({ ...drawing, rounded: true });
    const curved = { ...drawing, rounded: true };
    keepMask(curved, someSetup(), frame);
    await expect.poll(sent).toMatchObject({ body: { guidance: { masks: [{ polygon: outlineOf(curved) }] } } });
    expect(outlineOf(curved).length).toBe(36);
    expect(areaOf(outlineOf(curved))).toBeGreaterThan(areaOf(triangle));
  });
});
