import { describe, expect, test } from 'vitest';
import { verdictOn } from './again.ts';
import type { FrameFacts } from './facts.ts';
import type { Reference, Signs } from './setups.ts';
import { someFacts as facts } from './testing/someFacts.ts';
import { warningsOf, type Judged } from './warnings.ts';

const frame = (id: number, part: Partial<FrameFacts> = {}, subject = 'Ada'): Judged & Signs => {
  const own = facts(part);
  return {
    id,
    subject,
    setupId: 1,
    upright: true,
    exposure: 0,
    camera: 'A',
    at: 10 * id,
    focal: 85,
    facts: own,
    screen: own.screen,
  };
};
const usual = [1, 2, 3, 4].map((id) => frame(id));
const kindsOn = (one: Judged & Signs): string[] =>
  (warningsOf([...usual, one]).get(one.id) ?? []).map(({ kind }) => kind);
const screen = facts().screen as NonNullable<FrameFacts['screen']>;

describe('warnings', () => {
  test.each<[string, Partial<FrameFacts>]>([
    ['soft', { sharp: 0.2 }],
    ['clipped', { clipped: 0.2 }],
    ['light', { screen: { ...screen, level: -2.6 } }],
    ['tint', { screen: { ...screen, chroma: [0.2, 0.16] } }],
    ['uneven', { screen: { ...screen, grid: screen.grid.map((_, n) => 0.2 * ((n % 6) - 2.5)) } }],
    ['beyond', { person: { share: 0.3, looks: [], beyond: 0.1, near: 0 } }],
    ['near', { person: { share: 0.3, looks: [], beyond: 0, near: 0.2 } }],
    ['shadow', { shadow: 1.1 }],
    ['eyes', { eyes: 0.2 }],
    ['costly', { minutes: 4 }],
    ['others', { faces: [...facts().faces, ...facts().faces] }],
  ])('%s, and nothing else', (kind, part) => expect(kindsOn(frame(9, part))).toEqual([kind]));
  test('none on a frame like the others; the gravest comes first', () => {
    expect(kindsOn(frame(9))).toEqual([]);
    expect(kindsOn(frame(9, { sharp: 0.25, clipped: 0.5 }))).toEqual(['clipped', 'soft']);
  });
  test('frames are compared with those of their own person: one alone is never called soft', () => {
    expect(kindsOn(frame(9, { sharp: 0.2 }, 'Bo'))).toEqual([]);
    expect(kindsOn(frame(9, { sharp: 0.2 }, ''))).toEqual([]);
  });
});

describe('a test frame that was signed off', () => {
  const reference: Reference = { camera: 'A', upright: true, exposure: 0, focal: 85, screen: { ...screen, level: -1 } };
  const kinds = (one: Judged & Signs): string[] =>
    (warningsOf([...usual, one], new Map([[1, reference]])).get(one.id) ?? []).map(({ kind }) => kind);
  test('is what the light of frames is compared with, if the same camera took it, held the same way', () => {
    expect(kinds(frame(9))).toEqual(['light']);
    expect(kinds(frame(9, { screen: reference.screen }))).toEqual([]);
    expect(kinds({ ...frame(9), camera: 'B' })).toEqual([]);
    expect(kinds({ ...frame(9), upright: false })).toEqual([]);
  });
  test('tells of the very first frame that it is not as the set was', () => {
    expect(verdictOn([frame(1)], reference)?.reasons[0]).toContain('1.0 steps darker');
    expect(verdictOn([frame(1)])?.good).toBe(true);
  });
});

describe('the sign at the set', () => {
  test('good, or again with what is wrong; nothing while it is not read or nobody is on it', () => {
    expect(verdictOn([...usual, frame(9)])).toEqual({ good: true, reasons: [] });
    const soft = verdictOn([...usual, frame(9, { sharp: 0.2 })]);
    expect(soft?.good).toBe(false);
    expect(soft?.reasons[0]).toMatch(/^out of focus or shaken \(50 %.*\)\. Focus on/);
    expect(verdictOn([...usual, frame(9, { minutes: 9, eyes: 0.1 })]), 'only to be looked at').toEqual({
      good: true,
      reasons: [],
    });
    expect(verdictOn([...usual, frame(9, { kind: 'plate' })])).toBeUndefined();
    expect(verdictOn([...usual, { ...frame(9), facts: null }])).toBeUndefined();
    expect(verdictOn([])).toBeUndefined();
  });
  test('a lamp that went out is told with the second frame that shows it', () => {
    const dim = { screen: { ...screen, level: -2.3, grid: screen.grid.map((_, n) => 0.12 * ((n % 6) - 2.5)) } };
    const verdict = verdictOn([...usual, frame(8, dim), frame(9, dim)]);
    expect(verdict?.reasons.join()).toContain('lamp');
  });
});
