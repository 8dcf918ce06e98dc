import { fireEvent, screen } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { BackgroundResult } from '../../../contract/index.ts';
import { someFrame, someSubject } from '../../../contract/testing/items.ts';
import { defaultLook, defaultPlacement, noExtras } from '../../../core/place/index.ts';
import { api } from '../../state/api.ts';
import { undoLast } from '../../state/change.ts';
import { takeItems, useStore } from '../../state/store.ts';
import {
  at,
  beach,
  cutWith,
  person,
  prepareBench,
  put,
  show,
  showStyled,
  writes,
  type Told,
} from '../../testing/placePage.tsx';
import { standInWorker } from '../../testing/worker.ts';

/** Putting people on backgrounds: by hand, by keys, by numbers, one or all. */

let told: Told;
beforeEach(() => {
  told = prepareBench();
});
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
  await expect
    .poll(put)
    .toEqual({ frameIds: [1], placement: { backgroundId: 2, ...defaultPlacement, look: {} }, places: [] });
  expect(await screen.findByRole('img', { name: 'F1.jpg on Beach' })).toBeTruthy();
});

test('everybody goes to the background that they chose, at the place that was found; what is called so by none is said', async () => {
  useStore.setState({
    subjects: [
      someSubject(1, { name: 'Ada', background: 'beach' }),
      someSubject(2, { name: 'Bo', background: 'Moon' }),
      someSubject(3, { name: 'Cy', background: 'Dusk' }),
    ],
  });
  show(
    person(1, { subject: 'Ada', placement: { ...at, x: 0.3 } }),
    person(2, { subject: 'Bo' }),
    person(3, { subject: 'Cy' }),
  );
  const note = screen.getByText(/2 frames not on the background that was chosen/).closest('[role="note"]');
  expect(note?.textContent).toContain('“Moon” (Bo)');
  fireEvent.click(screen.getByRole('button', { name: 'Place as chosen' }));
  await expect
    .poll(() =>
      writes()
        .filter(({ method }) => method === 'PUT')
        .map(({ body }) => body),
    )
    .toMatchObject([
      {
        frameIds: [1],
        placement: { backgroundId: 2 },
        places: [{ id: 1, x: 0.3, y: at.y, height: at.height }],
      },
      { frameIds: [3], placement: { backgroundId: 3, ...defaultPlacement } },
    ]);
  expect(screen.queryByRole('button', { name: 'Place as chosen' })).toBeNull();
  expect(useStore.getState().steps.map(({ label }) => label)).toEqual(['backgrounds as chosen']);
});

test('another background keeps the place that was found', async () => {
  show(person(1, { placement: { ...at, x: 0.3 } }));
  fireEvent.click(screen.getByRole('button', { name: 'Beach' }));
  await expect.poll(put).toMatchObject({ placement: { backgroundId: 2, x: 0.3, height: 0.8, look: {} } });
});

test('all frames stand as this one does, each by where its person is; those not extracted yet as well', async () => {
  show(
    person(1, { placement: at }),
    person(2, { cut: cutWith({ x: 0, y: 0.1, width: 0.4, height: 0.8 }) }),
    someFrame(3),
  );
  fireEvent.click(screen.getByRole('button', { name: 'Put all 3 frames here, like this' }));
  await expect.poll(put).toMatchObject({ frameIds: [1, 2, 3], placement: at, places: [{ id: 2, height: 0.8 }] });
  // Farther left in the frame: the frame stands farther right, and as much lower as there is room below the person.
  const [{ x, y }] = put().places;
  expect(x).toBeGreaterThan(0.5);
  expect(y).toBeCloseTo(1 + 0.1 * 0.8, 6);
  await expect.poll(() => useStore.getState().steps.at(-1)?.label).toBe('background of 3 frames');
});

test('the person is dragged by shares of the background, saved once on letting go', async () => {
  show(person(1, { placement: at }));
  const held = outline();
  fireEvent.pointerDown(held, { pointerId: 1, clientX: 100, clientY: 100 });
  fireEvent.pointerMove(held, { pointerId: 1, clientX: 130, clientY: 100 });
  fireEvent.pointerMove(held, { pointerId: 1, clientX: 160, clientY: 60 });
  expect(writes()).toEqual([]);
  fireEvent.pointerUp(held);
  await expect.poll(put).toMatchObject({ placement: { x: 0.6, y: 0.9, height: 0.8 } });
  expect(writes()).toHaveLength(1);
});

test('a press without a move saves nothing', () => {
  show(person(1, { placement: at }));
  fireEvent.pointerDown(outline(), { pointerId: 1, clientX: 100, clientY: 100 });
  fireEvent.pointerUp(outline());
  fireEvent.pointerMove(outline(), { pointerId: 1, clientX: 300, clientY: 100 });
  expect(writes()).toEqual([]);
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
  await expect.poll(() => writes().length).toBeGreaterThan(0);
  for (const [name, value] of Object.entries(expected))
    expect(put().placement[name as 'x'], name).toBeCloseTo(value, 6);
});

test('keys with Ctrl are the page’s, not the person’s', () => {
  show(person(1, { placement: at }));
  fireEvent.keyDown(outline(), { key: 'ArrowLeft', ctrlKey: true });
  fireEvent.keyDown(outline(), { key: 'x' });
  expect(writes()).toEqual([]);
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

describe('the look', () => {
  const open = (name: string): void => void fireEvent.click(screen.getByRole('tab', { name: new RegExp(`^${name}`) }));
  const type = (name: RegExp, value: string): void => {
    const field = screen.getByRole('spinbutton', { name });
    fireEvent.change(field, { target: { value } });
    fireEvent.blur(field);
  };

  test('where nothing is matched yet, one press proposes', async () => {
    show(person(1, { placement: at }));
    open('Match');
    fireEvent.click(screen.getByRole('button', { name: 'Match and join them' }));
    await expect.poll(() => writes().at(-1)?.body).toEqual({ look: defaultLook, seen: {} });
    expect(writes().at(-1)?.path).toBe('/api/shoots/1/styles/1');
  });

  test('what is measured stands side by side, with what is proposed', async () => {
    showStyled(person(11, { placement: at }));
    open('Match');
    const table = await screen.findByRole('table', { name: 'Measured' });
    expect(table.textContent).toContain('Grain ‰4.04.0');
    expect(screen.getByText(/Proposed for the person/).textContent).toMatch(/stops, 0 mired/);
  });

  test('a change holds for all on the background, is taken back, and says only what it changed', async () => {
    showStyled(person(1, { placement: at }));
    open('Joining');
    type(/^Light round the edge/, '60');
    await expect
      .poll(() => writes().at(-1)?.body)
      .toEqual({ look: { wrap: 0.6 }, seen: { look: { wrap: defaultLook.wrap } } });
    await undoLast();
    expect(writes().at(-1)?.body).toEqual({ look: { wrap: defaultLook.wrap }, seen: { look: { wrap: 0.6 } } });
  });

  test('or for this frame alone; then it is listed, and goes back with one press', async () => {
    showStyled(person(1, { placement: { ...at, look: { haze: 0.3 } } }));
    open('Joining');
    expect(screen.getByRole('list', { name: 'Differs from the style' }).textContent).toContain(
      'Haze before the person 30 %',
    );
    fireEvent.click(screen.getByRole('button', { name: 'this frame' }));
    type(/^Shadow at the feet/, '80');
    await expect.poll(put).toMatchObject({ frameIds: [1], placement: { look: { haze: 0.3, contact: 0.8 } } });
    fireEvent.click(screen.getByRole('button', { name: 'Haze before the person as the style' }));
    await expect.poll(() => put().placement.look).toEqual({ contact: 0.8 });
  });

  test('where a frame differs already, the change is the frame’s', async () => {
    showStyled(person(1, { placement: { ...at, look: { haze: 0.3 } } }));
    open('Joining');
    type(/^Haze/, '10');
    await expect.poll(() => put().placement.look).toEqual({ haze: 0.1 });
  });

  test('a mirrored person is cut off at the other side, and is told so', async () => {
    const waving = { width: 600, height: 900, cut: cutWith({ x: 0.3, y: 0.1, width: 0.7, height: 0.9 }) };
    showStyled(person(1, { ...waving, placement: { ...at, look: { mirrorPerson: true } } }));
    expect((await screen.findByText(/photographed cut off at the/)).textContent).toContain('at the left,');
  });

  test('light from the other side is told, and mirroring offered', async () => {
    told.sides = { person: 0.2, hall: -0.3 };
    showStyled(person(12, { placement: { ...at, backgroundId: 3 } }));
    takeItems(undefined, {
      styles: [{ id: 10, revision: 1, backgroundId: 3, look: told.look, extras: noExtras, standing: null }],
    });
    expect(await screen.findByText(/seems to come from the other side/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Mirror the background' }));
    await expect
      .poll(() => writes().at(-1)?.body)
      .toEqual({ look: { mirrorBackground: true }, seen: { look: { mirrorBackground: false } } });
  });

  test('all as proposed, for one frame: only what is not as the style is kept', async () => {
    told.look = { ...defaultLook, wrap: 0.7, haze: 0.2 };
    showStyled(person(1, { placement: at }));
    open('Joining');
    fireEvent.click(screen.getByRole('button', { name: 'this frame' }));
    fireEvent.click(screen.getByRole('button', { name: 'All as proposed' }));
    await expect.poll(() => put().placement.look).toEqual({ wrap: defaultLook.wrap, haze: defaultLook.haze });
  });

  test('panel and view stay from frame to frame', async () => {
    showStyled(person(1, { placement: at }), person(2, { placement: at }));
    open('Match');
    fireEvent.click(screen.getByRole('button', { name: 'Brightness' }));
    fireEvent.click(screen.getByRole('button', { name: /^F2/ }));
    expect(await screen.findByRole('img', { name: 'F2.jpg on Hall' })).toBeTruthy();
    expect(screen.getByRole('tab', { name: /^Match/ }).getAttribute('aria-selected')).toBe('true');
    expect(screen.getByRole('button', { name: 'Brightness' }).getAttribute('aria-pressed')).toBe('true');
  });

  test('views by key: what is asked of the worker', async () => {
    const asked: unknown[] = [];
    standInWorker({
      loadCutout: () => Promise.resolve({ width: 1, height: 1 }),
      loadBackground: () => Promise.resolve({ width: 1, height: 1 }),
      place: (...given: unknown[]) => {
        asked.push(given[3]);
        return Promise.resolve(undefined);
      },
    });
    showStyled(person(1, { placement: at }));
    await expect.poll(() => asked.at(-1)).toBe('finished');
    fireEvent.keyDown(document.body, { key: '2', code: 'Digit2' });
    await expect.poll(() => asked.at(-1)).toBe('before');
    fireEvent.click(screen.getByRole('button', { name: 'Squint' }));
    await expect.poll(() => asked.at(-1)).toBe('squint');
  });
});

describe('all finished pictures', () => {
  test('by key; what is to be looked at comes first; a picture leads to its frame', async () => {
    const wide = cutWith({ x: 0, y: 0.1, width: 1, height: 0.9 });
    const large = { width: 600, height: 900 };
    show(
      person(1, { ...large, placement: at }),
      person(2),
      person(3, { ...large, placement: { ...at, x: -0.3 }, cut: wide }),
    );
    fireEvent.keyDown(document.body, { key: 'e', code: 'KeyE' });
    const sheet = await screen.findByRole('region', { name: 'All finished pictures' });
    expect(sheet.textContent).toContain('3 finished pictures');
    expect(sheet.textContent).toContain('2 to look at come first');
    fireEvent.keyDown(document.body, { key: 'Escape', code: 'Escape' });
    expect(await screen.findByText('People extracted')).toBeTruthy();
  });

  test('light from the other side, and much more fringe than the others have, are said', async () => {
    told.sides = { person: 0.3, hall: -0.3 };
    told.fringe = { 14: 300, 15: 60, 16: 60 };
    // What is measured of a picture is kept; this one is new.
    told.backgrounds = told.backgrounds.map((one) => ({ ...one, picture: `side ${one.id}` }));
    const large = { width: 600, height: 900, placement: at };
    const mirrored = { ...large, placement: { ...at, look: { mirrorPerson: true } } };
    show(person(13, large), person(14, mirrored), person(15, mirrored), person(16, mirrored));
    fireEvent.keyDown(document.body, { key: 'e', code: 'KeyE' });
    const sheet = await screen.findByRole('region', { name: 'All finished pictures' });
    await expect.poll(() => sheet.textContent).toContain('2 to look at come first');
  });
});
