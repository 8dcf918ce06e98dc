import { fireEvent, screen, within } from '@testing-library/react';
import { beforeEach, describe, expect, test } from 'vitest';
import type { BackgroundChange, Frame, Subject } from '../../../contract/index.ts';
import { somePlanRow, someSubject } from '../../../contract/testing/items.ts';
import { eyesAbove, figureOf, onHorizon, type StandingModel } from '../../../core/place/index.ts';
import type { Face } from '../../../core/persons/faces.ts';
import { undoLast } from '../../state/change.ts';
import { useStore } from '../../state/store.ts';
import {
  at,
  cutWith,
  hall,
  person,
  prepareBench,
  put,
  show,
  showStyled,
  writes,
  type Told,
} from '../../testing/placePage.tsx';

/** Standing by heads and by the horizon, and what is known of a background. */

let told: Told;
beforeEach(() => {
  told = prepareBench();
});

const face = (eyesY: number, height: number): Face => ({
  x: 0.45,
  y: eyesY - 0.05,
  width: 0.1,
  height,
  eyesX: 0.5,
  eyesY,
  sure: 0.9,
});
const half = { x: 0.2, y: 0.1, width: 0.6, height: 0.9 };
const size = { width: 600, height: 900 };
const tab = (name: string): void => void fireEvent.click(screen.getByRole('tab', { name: new RegExp(`^${name}`) }));
const changes = () =>
  writes()
    .filter(({ path }) => path.startsWith('/api/backgrounds/'))
    .map(({ body }) => body as BackgroundChange & { seen: BackgroundChange });

describe('all alike', () => {
  test('by heads: faces become as large and lie at the same place', async () => {
    show(
      person(1, { ...size, cut: cutWith(half, [face(0.25, 0.15)]), placement: at }),
      person(2, { ...size, cut: cutWith(half, [face(0.4, 0.1)]) }),
    );
    fireEvent.change(screen.getByLabelText('All alike in'), { target: { value: 'heads' } });
    fireEvent.click(screen.getByRole('button', { name: 'Put all 2 frames here, like this' }));
    await expect.poll(() => put().places).toHaveLength(1);
    const [{ y, height }] = put().places as unknown as { y: number; height: number }[];
    expect(height).toBeCloseTo(0.8 * 1.5);
    expect(y - (1 - 0.4) * height, 'the eyes').toBeCloseTo(1 - (1 - 0.25) * 0.8);
  });

  test('in whose frames no face was found is said', () => {
    show(
      person(1, { ...size, cut: cutWith(half, [face(0.25, 0.15)]), placement: at }),
      person(2, { ...size, cut: cutWith(half) }),
    );
    fireEvent.change(screen.getByLabelText('All alike in'), { target: { value: 'eyes' } });
    expect(screen.getByText(/stand by scale/).textContent).toContain('F2.jpg');
  });
});

describe('the standing of a style', () => {
  const tall = () => person(1, { ...size, cut: cutWith(half, [face(0.25, 0.15)]), placement: at });
  const small = (part: Partial<Frame> = {}) =>
    person(2, { ...size, cut: cutWith(half, [face(0.4, 0.1)]), placement: { ...at, x: 0.2 }, ...part });
  const model = (): StandingModel => ({
    cut: size,
    extent: half,
    faces: [face(0.25, 0.15)],
    way: 'heads',
    placement: { x: 0.5, y: 1, height: 0.8 },
  });
  const heights = () => put().places as unknown as { id: number; height: number }[];

  test('all on a background stand as one does, whoever follows moves with it, and it is one step', async () => {
    showStyled(tall(), small());
    fireEvent.change(screen.getByLabelText('All alike in'), { target: { value: 'heads' } });
    fireEvent.click(screen.getByRole('button', { name: 'All 2 here stand like this' }));
    await expect.poll(() => writes().map(({ path }) => path)).toContain('/api/shoots/1/styles/1');
    expect(told.standing).toEqual(model());
    await expect
      .poll(() => heights().map(({ id, height }) => [id, Math.round(1000 * height)]))
      .toEqual([
        [1, 800],
        [2, 1200],
      ]);
    expect(await screen.findByText(/^Stands as everybody is to stand here/)).toBeTruthy();
    expect(useStore.getState().steps.map(({ label }) => label)).toEqual(['standing']);
    await undoLast();
    expect(told.standing).toBeNull();
    expect(put().places).toMatchObject([{ id: 1 }, { id: 2, x: 0.2, height: 0.8 }]);
  });

  test('who stands otherwise is told, and is brought to the others or they to them', async () => {
    told.standing = model();
    showStyled(tall(), small());
    expect(await screen.findByText('Stands as everybody is to stand here; 1 frame does not.')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'That one too' }));
    await expect.poll(() => put().frameIds).toEqual([2]);
    expect(heights()[0].height).toBeCloseTo(1.2);
  });

  test('whoever is put there later stands so; the place of another background is not kept', async () => {
    told.standing = model();
    showStyled(small({ placement: { ...at, backgroundId: 2, height: 0.4 } }));
    // The style was told a moment ago.
    await screen.findByRole('button', { name: 'Whoever comes here stands like this' });
    fireEvent.click(screen.getByRole('button', { name: 'Hall' }));
    await expect.poll(() => put().placement.backgroundId).toBe(1);
    expect(put().placement.height).toBeCloseTo(1.2);
  });
});

describe('the scene’s ground', () => {
  const stands = { horizon: 0.8, cameraHeight: 1.4, focal: null, lightFrom: null, ball: null, by: {}, notes: '' };
  beforeEach(() => {
    told.backgrounds = [{ ...hall, scene: stands }];
  });
  const one = () => person(1, { ...size, cut: cutWith(half, [face(0.25, 0.15)]), placement: at });
  const grounded = () => {
    const figure = figureOf(size, [face(0.25, 0.15)], 0.1, null, eyesAbove.default);
    if (!figure) throw new Error('no figure');
    return onHorizon(figure, 0.8, 1.4, eyesAbove.default, at);
  };

  test('whom the horizon meets where it meets nobody is told, with a way out', async () => {
    show(one());
    expect(
      screen.getByText(/the horizon meets the person/, { selector: '[role=status], [role=status] *' }).textContent,
    ).toContain('1.40 m');
    fireEvent.click(screen.getByRole('button', { name: 'Stand on that ground' }));
    await expect.poll(() => put().placement.y).toBeCloseTo(grounded().y);
    expect(screen.queryByText('Nobody stands there like this:')).toBeNull();
  });

  test('kept on it, a larger person is moved with it', async () => {
    show(one());
    fireEvent.click(screen.getByLabelText('Keep on the scene’s ground'));
    await expect.poll(() => put().placement.y).toBeCloseTo(grounded().y);
    fireEvent.keyDown(screen.getByRole('application'), { key: '+' });
    await expect.poll(() => put().placement.height).toBeCloseTo(0.805);
    expect(put().placement.y).not.toBeCloseTo(grounded().y, 4);
    expect(screen.getByRole('slider', { name: 'Horizon from top' })).toBeTruthy();
  });
});

describe('how far away somebody stands', () => {
  beforeEach(() => {
    told.backgrounds = [{ ...hall, scene: { ...hall.scene, focal: 50 } }];
    useStore.setState({ plans: [] });
  });
  const one = () => person(1, { ...size, cut: cutWith(half, [face(0.25, 0.15)]), placement: at });

  test('is said by the lens and their size', () => {
    show(one());
    expect(screen.getByText(/By its size the person stands/).textContent).not.toContain('photographed');
  });

  test('where the plan of their setup has another distance that is told, with a way out', async () => {
    const row = somePlanRow({ setupId: 1 });
    const [{ x, z }] = row.plan.people;
    const camera = { ...row.plan.camera, position: { ...row.plan.camera.position, x, z: z + 9 } };
    useStore.setState({ plans: [{ ...row, plan: { ...row.plan, camera } }] });
    show(one());
    const said = screen.getByText('Seen from another distance:').parentElement?.textContent ?? '';
    const [there, photographed] = [...said.matchAll(/([\d.]+) m/g)].map(([, metres]) => Number(metres));
    expect(photographed).toBe(9);
    fireEvent.click(screen.getByRole('button', { name: 'Stand as far away' }));
    await expect.poll(() => put().placement.height).toBeCloseTo((at.height * there) / photographed, 1);
    expect(screen.getByText(/By its size the person stands/).textContent).toMatch(/photographed from 9.0 m/);
  });
});

describe('what is known of a background', () => {
  test('a horizon is marked, typed, moved by keys, and taken back', async () => {
    showStyled(person(1, { placement: at }));
    tab('Scene');
    const horizon = screen.getByText('Horizon from top').parentElement as HTMLElement;
    fireEvent.click(within(horizon).getByRole('button', { name: 'Mark it' }));
    await expect.poll(() => changes().at(-1)?.scene?.horizon).toBe(0.5);
    const line = screen.getByRole('slider', { name: 'Horizon from top' });
    fireEvent.keyDown(line, { key: 'ArrowUp' });
    await expect.poll(() => changes().at(-1)?.scene?.horizon).toBeCloseTo(0.495);
    await undoLast();
    expect(changes().at(-1)).toMatchObject({ scene: { horizon: 0.5 } });
  });

  test('its horizon is told by two lines along edges, and how it is known; uprights tell the lens then', async () => {
    showStyled(person(1, { placement: at }));
    tab('Scene');
    fireEvent.click(screen.getByRole('button', { name: 'By uprights' }));
    expect(screen.getByText(/need the horizon or the focal length/)).toBeTruthy();
    expect(screen.queryByRole('application')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Leave it' }));
    fireEvent.click(screen.getByRole('button', { name: 'By lines that run away' }));
    const end = screen.getByRole('button', { name: /^Line 1, other end/ });
    const before = screen.getByText(/The horizon lies/).textContent;
    fireEvent.keyDown(end, { key: 'ArrowUp', shiftKey: true });
    expect(screen.getByText(/The horizon lies/).textContent).not.toBe(before);
    fireEvent.click(screen.getByRole('button', { name: 'Take it' }));
    await expect.poll(() => changes().at(-1)?.scene?.by).toEqual({ horizon: 'lines' });
    const horizon = changes().at(-1)?.scene?.horizon ?? 0;
    expect(horizon).toBeGreaterThan(0.3);
    expect(horizon).toBeLessThan(0.6);
    expect(await screen.findByText(/Known by lines/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'By uprights' }));
    fireEvent.click(screen.getByRole('button', { name: 'Take it' }));
    await expect.poll(() => changes().at(-1)?.scene?.by).toEqual({ horizon: 'lines', focal: 'lines' });
    expect(await screen.findByText(/That is a lens of \d+ mm, looking [\d.]+° down/)).toBeTruthy();
    // What a hand types is no longer known by lines.
    const typed = screen.getByLabelText(/^Horizon from top/, { selector: 'input' });
    fireEvent.change(typed, { target: { value: '40' } });
    fireEvent.blur(typed);
    await expect.poll(() => changes().at(-1)?.scene?.by).toEqual({ focal: 'lines' });
  });

  test('how it was taken is written down, for whoever lights the people', async () => {
    showStyled(person(1, { placement: at }));
    tab('Scene');
    const field = screen.getByLabelText('How it was taken');
    fireEvent.change(field, { target: { value: ' 85 mm, 4 m, ISO 100 ' } });
    fireEvent.blur(field);
    await expect.poll(() => changes().at(-1)?.scene?.notes).toBe('85 mm, 4 m, ISO 100');
    fireEvent.blur(field);
    expect(changes()).toHaveLength(1);
  });

  test('it is called anew, and removed but still stood on', async () => {
    showStyled(person(1, { placement: at }));
    tab('Scene');
    const name = screen.getByLabelText('Name of the background');
    fireEvent.change(name, { target: { value: 'Great hall' } });
    fireEvent.blur(name);
    await expect.poll(() => changes().at(-1)).toMatchObject({ name: 'Great hall', seen: { name: 'Hall' } });
    fireEvent.click(screen.getByRole('button', { name: 'Remove from the library' }));
    expect(await screen.findByText(/no longer offered/)).toBeTruthy();
    expect(screen.getByRole('img', { name: 'F1.jpg on Great hall' })).toBeTruthy();
  });

  test('in a large library they are found by name and by word', () => {
    told.backgrounds = Array.from({ length: 9 }, (_, n) => ({
      ...hall,
      id: n + 1,
      name: `Place ${n + 1}`,
      tags: n % 2 ? ['sea'] : ['indoors', 'old'],
      removed: n === 8,
    }));
    show(person(1));
    const offered = (): string[] =>
      screen.getAllByRole('button', { name: /^Place/ }).map(({ textContent }) => textContent ?? '');
    expect(offered()).toHaveLength(8);
    fireEvent.click(screen.getByRole('button', { name: 'sea' }));
    expect(offered()).toEqual(['Place 2', 'Place 4', 'Place 6', 'Place 8']);
    fireEvent.change(screen.getByRole('searchbox', { name: 'Search backgrounds' }), { target: { value: 'sea 4' } });
    expect(offered()).toEqual(['Place 4']);
    fireEvent.change(screen.getByRole('searchbox', { name: 'Search backgrounds' }), { target: { value: 'attic' } });
    expect(screen.getByText('No background is called so or has this word.')).toBeTruthy();
  });
});

describe('over all', () => {
  const open = (part: string): void => {
    tab('Over all');
    fireEvent.click(screen.getByRole('button', { name: new RegExp(`^${part}`) }));
  };
  const last = () => writes().at(-1)?.body as { extras: Told['extras']; seen: { extras: Partial<Told['extras']> } };

  test('a look-up table is chosen from the library', async () => {
    showStyled(person(1, { placement: at }));
    open('Look-up table');
    const choice = await screen.findByLabelText('Table');
    await expect.poll(() => choice.textContent).toContain('Warm print (17³)');
    // Its strength stands by it, and only where there is one.
    expect(screen.queryByRole('slider', { name: /Strength of the look-up table/ })).toBeNull();
    fireEvent.change(choice, { target: { value: '5' } });
    await expect.poll(last).toEqual({ extras: { lut: 5 }, seen: { extras: { lut: null } } });
    expect(screen.getAllByRole('slider', { name: /Strength of the look-up table/ })).toHaveLength(1);
    expect(screen.getByRole('link', { name: 'Hall.cube' }).getAttribute('href')).toBe(
      '/api/shoots/1/styles/1/grade.cube',
    );
  });

  test('layers are laid before the person, put behind, and taken off', async () => {
    showStyled(person(1, { placement: at }));
    open('Layers');
    fireEvent.change(screen.getByLabelText('Add'), { target: { value: '2' } });
    await expect.poll(() => last().extras.layers).toMatchObject([{ backgroundId: 2, where: 'front', way: 'over' }]);
    const layer = within(await screen.findByRole('group', { name: 'Beach' }));
    fireEvent.change(layer.getByLabelText('Where'), { target: { value: 'behind' } });
    await expect.poll(() => last().extras.layers).toMatchObject([{ where: 'behind' }]);
    fireEvent.change(layer.getByLabelText('Size'), { target: { value: 'placed' } });
    const height = await layer.findByLabelText(/^Height/);
    fireEvent.change(height, { target: { value: '30' } });
    fireEvent.blur(height);
    await expect.poll(() => last().extras.layers).toMatchObject([{ at: { x: 0.5, y: 0.75, height: 0.3 } }]);
    fireEvent.change(layer.getByLabelText('Size'), { target: { value: 'fills' } });
    await expect.poll(() => last().extras.layers).toMatchObject([{ at: null }]);
    fireEvent.click(layer.getByRole('button', { name: 'Take Beach off' }));
    await expect.poll(() => last().extras.layers).toEqual([]);
  });

  test('a card is proposed; a line is written, an unknown field is told, and the card is taken off', async () => {
    showStyled(person(1, { placement: at }));
    open('Card');
    fireEvent.click(screen.getByRole('button', { name: 'Add a card' }));
    await expect.poll(() => last().extras.card?.lines.map(({ text }) => text)).toEqual(['{name}', '{shoot}, {date}']);
    const first = within(await screen.findByRole('group', { name: 'Line 1' }));
    fireEvent.change(first.getByRole('textbox', { name: 'Line 1' }), { target: { value: 'For {nmae}' } });
    fireEvent.blur(first.getByRole('textbox', { name: 'Line 1' }));
    await expect.poll(() => last().extras.card?.lines[0].text).toBe('For {nmae}');
    expect(await screen.findByText('{nmae}')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take the card off' }));
    await expect.poll(() => last().extras.card).toBeNull();
  });
});

describe('several people in one picture', () => {
  const two = () => [
    person(1, { ...size, cut: cutWith(half), placement: at }),
    person(2, { ...size, cut: cutWith(half), placement: at }),
  ];
  const others = () => put().placement.others;

  test('somebody is added from another frame, moved by keys, put in front, and taken out', async () => {
    show(...two());
    const panel = within(screen.getByRole('region', { name: 'Others in the picture' }));
    fireEvent.change(panel.getByLabelText('Add'), { target: { value: '2' } });
    await expect.poll(others).toMatchObject([{ frameId: 2, where: 'behind', mirrored: false, height: 0.8 }]);
    const [{ x }] = others() ?? [];
    fireEvent.keyDown(screen.getByRole('application'), { key: 'ArrowRight' });
    await expect.poll(() => others()?.[0].x).toBeCloseTo(x + 0.005);
    expect(put().placement.x, 'the frame’s own person').toBe(0.5);
    const other = within(panel.getByRole('group', { name: 'F2.jpg' }));
    fireEvent.change(other.getByLabelText('Stands'), { target: { value: 'front' } });
    await expect.poll(() => others()?.[0].where).toBe('front');
    fireEvent.click(panel.getByRole('radio', { name: 'Move F1.jpg' }));
    fireEvent.keyDown(screen.getByRole('application'), { key: 'ArrowRight' });
    await expect.poll(() => put().placement.x).toBeCloseTo(0.505);
    expect(others()).toHaveLength(1);
    fireEvent.click(other.getByRole('button', { name: 'Take F2.jpg out' }));
    await expect.poll(others).toEqual([]);
  });

  test('a group of the roster is gathered in a row, without whoever said no', async () => {
    const named = (id: number, subject: string, part: Partial<Frame> = {}) =>
      person(id, { ...size, cut: cutWith(half), placement: at, subject, ...part });
    show(
      named(1, 'Ada'),
      named(2, 'Bo', { pick: 'reserve' }),
      named(3, 'Bo', { pick: 'keep' }),
      named(4, 'Cy'),
      named(5, 'Di'),
    );
    const subject = (name: string, part: Partial<Subject> = {}) =>
      someSubject(name.charCodeAt(0), { name, group: 'Table 4', ...part });
    useStore.setState({
      subjects: [subject('Ada'), subject('Bo'), subject('Cy', { consent: 'no' }), subject('Di', { group: 'Table 5' })],
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Add 1 other of “Table 4”' }));
    await expect.poll(others).toMatchObject([{ frameId: 3, where: 'behind', height: 0.8 }]);
    // Both stand about the middle of the hall, and within it.
    const [{ x }] = others() ?? [];
    expect(put().placement.x).toBeLessThan(0.5);
    expect(x).toBeGreaterThan(0.5);
    expect(useStore.getState().steps.map(({ label }) => label)).toEqual(['a group in the picture']);
  });

  test('gathered later, who is there already stays as they are but for the place', async () => {
    const beside = [{ frameId: 2, x: 0.1, y: 1, height: 0.8, mirrored: true, where: 'front' as const }];
    const named = (id: number, subject: string, part: Partial<Frame> = {}) =>
      person(id, { ...size, cut: cutWith(half), placement: at, subject, ...part });
    show(named(1, 'Ada', { placement: { ...at, others: beside } }), named(2, 'Eve'), named(3, 'Bo'));
    useStore.setState({
      subjects: ['Ada', 'Bo'].map((name, n) => someSubject(n + 1, { name, group: 'Table 4' })),
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Add 1 other of “Table 4”' }));
    await expect.poll(others).toMatchObject([
      { frameId: 2, mirrored: true, where: 'front' },
      { frameId: 3, mirrored: false, where: 'behind' },
    ]);
  });

  test('putting all here copies nobody into the other pictures', async () => {
    const [first, second] = two();
    const beside = [{ frameId: 2, x: 0.2, y: 1, height: 0.8, mirrored: false, where: 'front' as const }];
    show({ ...first, placement: { ...at, others: beside } }, second);
    fireEvent.click(screen.getByRole('button', { name: 'Put all 2 frames here, like this' }));
    await expect.poll(() => put().frameIds).toEqual([1, 2]);
    fireEvent.click(screen.getByRole('button', { name: /^F2/ }));
    expect(screen.queryByRole('radio')).toBeNull();
  });
});
