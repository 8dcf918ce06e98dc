import { fireEvent, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import type { Background, BackgroundResult, Frame } from '../../../contract/index.ts';
import { someCut, someFrame, someShoot } from '../../../contract/testing/items.ts';
import { defaultPlacement } from '../../../core/place/placement.ts';
import { api } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { standInWorker } from '../../testing/worker.ts';
import { PlacePage } from './PlacePage.tsx';

/** Putting people on backgrounds: by hand, by keys, by numbers, one or all. */

const hall: Background = { id: 1, name: 'Hall', width: 600, height: 400, picture: 'b1' };
const beach: Background = { id: 2, name: 'Beach', width: 300, height: 400, picture: 'b2' };
const at = { backgroundId: 1, x: 0.5, y: 1, height: 0.8 };

let heard: Asked[];
let frames: Frame[];
beforeEach(() => {
  standInWorker({});
  // A stage of 636 × 436 pixels holds the hall at 600 × 400.
  vi.stubGlobal(
    'ResizeObserver',
    class {
      constructor(private readonly seen: () => void) {}
      observe(element: HTMLElement): void {
        Object.defineProperty(element, 'clientWidth', { value: 636, configurable: true });
        Object.defineProperty(element, 'clientHeight', { value: 436, configurable: true });
        this.seen();
      }
      disconnect(): void {
        // Nothing is kept.
      }
      unobserve(): void {
        // Nothing is kept.
      }
    },
  );
  HTMLElement.prototype.setPointerCapture = () => undefined;
});

function show(...given: Frame[]): void {
  frames = given;
  useStore.setState({
    shoot: someShoot(),
    frames: given,
    setups: [],
    backgrounds: [hall, beach],
    steps: [],
    undone: [],
    unsaved: 0,
  });
  heard = standInServer(({ body }) => {
    const { frameIds, placement } = body as { frameIds?: number[]; placement: Frame['placement'] };
    return frames.filter(({ id }) => !frameIds || frameIds.includes(id)).map((frame) => ({ ...frame, placement }));
  });
  render(
    <MemoryRouter>
      <PlacePage />
    </MemoryRouter>,
  );
}
const put = (): { frameIds: number[]; placement: NonNullable<Frame['placement']> } => {
  const last = heard.findLast(({ method }) => method === 'PUT');
  if (!last) throw new Error('nothing was placed');
  return last.body as ReturnType<typeof put>;
};
const person = (id: number, part: Partial<Frame> = {}): Frame => someFrame(id, { ...someCut(), ...part });
const outline = (): HTMLElement => screen.getByRole('application');

test('nobody extracted: what the page is for, and the way there', () => {
  show(someFrame(1));
  expect(screen.getByText('Nobody to place yet.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'extracted' }).getAttribute('href')).toBe('/extract');
});

test('only those extracted are listed, with the background that each has', () => {
  show(person(1, { placement: at }), person(2), someFrame(3));
  const list = screen.getByRole('complementary', { name: 'Frames to place' }).textContent;
  expect(list).toContain('1 of 2 have a background.');
  expect(list).toContain('F1.jpgHall');
  expect(list).toContain('F2.jpgno background yet');
  expect(list).not.toContain('F3.jpg');
});

test('a background is chosen for this frame alone, at the usual place', async () => {
  show(person(1), person(2));
  expect(screen.getByText(/has no background yet/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Beach' }));
  await expect.poll(put).toEqual({ frameIds: [1], placement: { backgroundId: 2, ...defaultPlacement } });
  expect(await screen.findByRole('img', { name: 'F1.jpg on Beach' })).toBeTruthy();
});

test('another background keeps the place that was found', async () => {
  show(person(1, { placement: { ...at, x: 0.3 } }));
  fireEvent.click(screen.getByRole('button', { name: 'Beach' }));
  await expect.poll(put).toMatchObject({ placement: { backgroundId: 2, x: 0.3, height: 0.8 } });
});

test('all frames go where this one stands, those not extracted yet as well', async () => {
  show(person(1, { placement: at }), person(2), someFrame(3));
  fireEvent.click(screen.getByRole('button', { name: 'Put all 3 frames here, like this' }));
  await expect.poll(put).toEqual({ frameIds: [1, 2, 3], placement: at });
  await expect.poll(() => useStore.getState().steps.at(-1)?.label).toBe('background of 3 frames');
});

test('the person is dragged by shares of the background, saved once on letting go', async () => {
  show(person(1, { placement: at }));
  const held = outline();
  fireEvent.pointerDown(held, { pointerId: 1, clientX: 100, clientY: 100 });
  fireEvent.pointerMove(held, { pointerId: 1, clientX: 130, clientY: 100 });
  fireEvent.pointerMove(held, { pointerId: 1, clientX: 160, clientY: 60 });
  expect(heard).toEqual([]);
  fireEvent.pointerUp(held);
  await expect.poll(put).toMatchObject({ placement: { x: 0.6, y: 0.9, height: 0.8 } });
  expect(heard).toHaveLength(1);
});

test('a press without a move saves nothing', () => {
  show(person(1, { placement: at }));
  fireEvent.pointerDown(outline(), { pointerId: 1, clientX: 100, clientY: 100 });
  fireEvent.pointerUp(outline());
  fireEvent.pointerMove(outline(), { pointerId: 1, clientX: 300, clientY: 100 });
  expect(heard).toEqual([]);
});

test('a corner drags the height: up is larger', async () => {
  show(person(1, { placement: at }));
  const [corner] = screen.getAllByTitle('Drag to scale');
  fireEvent.pointerDown(corner, { pointerId: 1, clientX: 0, clientY: 100 });
  fireEvent.pointerMove(corner, { pointerId: 1, clientX: 40, clientY: 60 });
  fireEvent.pointerUp(corner);
  await expect.poll(put).toMatchObject({ placement: { x: 0.5, y: 1 } });
  expect(put().placement.height).toBeCloseTo(0.9);
});

test.each([
  ['ArrowLeft', false, { x: 0.495 }],
  ['ArrowRight', true, { x: 0.55 }],
  ['ArrowUp', false, { y: 0.995 }],
  ['+', false, { height: 0.805 }],
  ['-', true, { height: 0.75 }],
])('%s, with Shift: %s', async (key, shiftKey, expected) => {
  show(person(1, { placement: at }));
  fireEvent.keyDown(outline(), { key, shiftKey });
  await expect.poll(() => heard.length).toBeGreaterThan(0);
  for (const [name, value] of Object.entries(expected))
    expect(put().placement[name as 'x'], name).toBeCloseTo(value, 6);
});

test('keys with Ctrl are the page’s, not the person’s', () => {
  show(person(1, { placement: at }));
  fireEvent.keyDown(outline(), { key: 'ArrowLeft', ctrlKey: true });
  fireEvent.keyDown(outline(), { key: 'x' });
  expect(heard).toEqual([]);
});

test('a number is typed in percent', async () => {
  show(person(1, { placement: at }));
  const height = screen.getByRole('spinbutton', { name: /^Frame height/ });
  fireEvent.change(height, { target: { value: '62,5' } });
  fireEvent.blur(height);
  await expect.poll(put).toMatchObject({ placement: { height: 0.625 } });
});

test('files for backgrounds: what is refused or already here is said by name, the others are taken', async () => {
  const results: Record<string, BackgroundResult> = {
    'a.txt': { outcome: 'refused', name: 'a.txt', reason: 'it is no picture', remedy: 'Export it as JPEG.' },
    'b.jpg': { outcome: 'duplicate', name: 'b.jpg', of: 'Hall' },
    'c.jpg': { outcome: 'stored', name: 'c.jpg', background: beach },
  };
  vi.spyOn(api, 'uploadBackground').mockImplementation(({ name }) => Promise.resolve(results[name]));
  show(person(1));
  const files = Object.keys(results).map((name) => new File(['x'], name, { type: 'image/jpeg' }));
  fireEvent.change(screen.getByLabelText('Background files'), { target: { files } });
  expect(await screen.findByText('a.txt: it is no picture. Export it as JPEG.')).toBeTruthy();
  expect(screen.getByText('b.jpg is already here as Hall.')).toBeTruthy();
  expect(screen.queryByText(/c\.jpg/)).toBeNull();
});
