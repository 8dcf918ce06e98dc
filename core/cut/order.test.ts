import { describe, expect, test } from 'vitest';
import { noGuidance, type Guided, type HandMask, type HandVerdict } from './guidance.ts';
import {
  fingerprintOf,
  isCurrent,
  orderOf,
  type Order,
  plateFor,
  type OrderedFrame,
  type OrderingSetup,
  type Shot,
} from './order.ts';
import { defaultRecipe, settingNames, type Departure } from './recipe.ts';

const corner = { x: 0, y: 0 };
const mask: HandMask = { effect: 'clear', polygon: [corner, { x: 0.1, y: 0 }, { x: 0.1, y: 0.1 }] };
const verdict: HandVerdict = { x: 0.5, y: 0.5, chroma: [0.2, 0.3], share: 0.1, keep: false };
const plain: Order = { recipe: defaultRecipe, guidance: noGuidance, plate: null };
const shot = (id: number, more: Partial<Shot> = {}): Shot => ({
  id,
  width: 40,
  height: 60,
  body: '',
  at: null,
  ...more,
});
const frame = (id: number, more: Partial<OrderedFrame> = {}): OrderedFrame => ({
  setupId: 1,
  subject: '',
  guidance: noGuidance,
  ...shot(id),
  plate: false,
  ...more,
});
const setup = (more: Partial<OrderingSetup> = {}): OrderingSetup => ({
  recipe: defaultRecipe,
  masks: [],
  plates: [{ ...shot(9), picture: 'empty' }],
  ...more,
});

describe('plateFor', () => {
  const plates = [shot(7, { at: 100 }), shot(8, { at: 900 }), shot(9)];
  const of = (more: Partial<Shot>, all = plates) => plateFor(shot(1, more), all)?.id;
  test('of several the one nearest in time, before and after; one without a time comes last', () => {
    expect([0, 499, 501, 2000].map((at) => of({ at }))).toEqual([7, 7, 8, 8]);
    expect(of({ at: 5 }, plates.slice(2))).toBe(9);
  });
  test('a frame that no clock is known of takes the first that fits', () => {
    expect(of({})).toBe(7);
  });
  test('one of its own camera comes before a nearer one of another', () => {
    const two = [shot(7, { at: 100, body: 'A' }), shot(8, { at: 900, body: 'B' }), shot(9, { at: 500 })];
    expect(of({ at: 120, body: 'B' }, two)).toBe(9);
    expect(of({ at: 120, body: 'B' }, two.slice(0, 2))).toBe(8);
    expect(of({ at: 120, body: 'C' }, two.slice(0, 2))).toBe(7);
  });
  test('held the other way up, only one that was held so too', () => {
    expect(of({ width: 60, height: 40, at: 100 })).toBeUndefined();
    expect(of({ width: 60, height: 40, at: 100 }, [...plates, shot(6, { width: 60, height: 40 })])).toBe(6);
  });
  test('none is laid under itself', () => {
    expect(plateFor(plates[0], plates)?.id).toBe(8);
  });
});

describe('orderOf', () => {
  test('takes a plate of the frame’s size, and no other', () => {
    expect(orderOf(frame(1), setup(), [])?.plate).toBe('empty');
    expect(orderOf(frame(1, { width: 60, height: 40 }), setup(), [])?.plate).toBeNull();
  });
  test('asks for no cut of the plate itself', () => {
    expect(orderOf(frame(9, { plate: true }), setup(), [])).toBeNull();
  });
  test('gathers what setup, subject and frame say', () => {
    const other: Guided = {
      id: 2,
      setupId: 1,
      subject: 'Ana',
      guidance: { masks: [], verdicts: [verdict], touches: [], departures: [] },
    };
    const order = orderOf(frame(1, { subject: 'Ana' }), setup({ masks: [mask] }), [other]);
    expect(order?.guidance).toEqual({ masks: [mask], verdicts: [verdict], touches: [], departures: [] });
  });
});

describe('departures', () => {
  const departing = (id: number, subject: string, ...departures: Departure[]): OrderedFrame =>
    frame(id, { subject, guidance: { ...noGuidance, departures } });
  const recipe = { ...defaultRecipe, spill: 0.4 };

  test('a frame’s own settings take the place of its setup’s; another subject’s do not', () => {
    const one = departing(1, '', { id: 'spill', to: 0.1 }, { id: 'method', to: 'distance' });
    expect(orderOf(one, setup({ recipe }), [])?.recipe).toEqual({ ...recipe, spill: 0.1, method: 'distance' });
    expect(orderOf(frame(2), setup({ recipe }), [one])?.recipe).toEqual(recipe);
  });
  test('one for the whole subject holds on its other frames, under their own', () => {
    const said = departing(1, 'Ana', { id: 'spill', to: 0.1, wholeSubject: true }, { id: 'edge', to: 1 });
    const other = departing(2, 'Ana', { id: 'floor', to: 0.2 });
    const own = departing(3, 'Ana', { id: 'spill', to: 0.9 });
    const spillOf = (one: OrderedFrame) => orderOf(one, setup({ recipe }), [said, other, own])?.recipe;
    expect(spillOf(other)).toEqual({ ...recipe, spill: 0.1, floor: 0.2 });
    expect(spillOf(own)).toEqual({ ...recipe, spill: 0.9 });
  });
});

describe('fingerprintOf', () => {
  test('changes with every setting and every other part, and with nothing else', () => {
    const orders: Order[] = [
      plain,
      ...settingNames.map((name) => ({
        ...plain,
        recipe: { ...defaultRecipe, [name]: defaultRecipe[name] + 0.25 },
      })),
      { ...plain, guidance: { ...noGuidance, masks: [{ ...mask, soft: 0.01 }] } },
      { ...plain, recipe: { ...defaultRecipe, method: 'distance' } },
      { ...plain, plate: 'empty' },
      { ...plain, guidance: { masks: [mask], verdicts: [], touches: [], departures: [] } },
      { ...plain, guidance: { masks: [], verdicts: [verdict], touches: [], departures: [] } },
      { ...plain, guidance: { masks: [], verdicts: [{ ...verdict, keep: true }], touches: [], departures: [] } },
    ];
    expect(new Set(orders.map(fingerprintOf)).size).toBe(orders.length);
    const { recipe } = plain;
    const turned = Object.fromEntries(Object.entries(recipe).reverse()) as unknown as Order['recipe'];
    expect(fingerprintOf({ ...plain, recipe: turned })).toBe(fingerprintOf(plain));
    const forSubject = { masks: [{ ...mask, wholeSubject: true }], verdicts: [], touches: [], departures: [] };
    expect(fingerprintOf({ ...plain, guidance: forSubject })).toBe(
      fingerprintOf({ ...plain, guidance: { masks: [mask], verdicts: [], touches: [], departures: [] } }),
    );
  });
});

test('what was cut before a setting was known keeps its name', () => {
  expect(fingerprintOf(plain)).toBe('ed626e745b6b662a');
});

test('a cut is current by the order it was made by; a frame that needs none always is', () => {
  const fingerprint = fingerprintOf(plain);
  expect(isCurrent({ fingerprint }, fingerprint)).toBe(true);
  expect(isCurrent({ fingerprint: 'other' }, fingerprint)).toBe(false);
  expect(isCurrent(null, fingerprint)).toBe(false);
  expect(isCurrent(null, null)).toBe(true);
});
