import { describe, expect, test } from 'vitest';
import { broughtBack } from './broughtBack.ts';
import { driftsOf, type DriftKind } from './drift.ts';
import type { ScreenSigns } from './facts.ts';
import { proposeSetups, type Signs } from './setups.ts';
import { shootOf } from './testing/shootOf.ts';

describe('setups', () => {
  test('three setups of an event are found as they were, whatever the seed', () => {
    for (let seed = 1; seed <= 10; seed++) {
      const { frames } = shootOf({ seed, guests: 100, slates: true });
      const found = proposeSetups(frames);
      const truth = [0, 1, 2].map((setup) => frames.filter((frame) => frame.setup === setup).map(({ id }) => id));
      expect(found.map((group) => group.frames)).toEqual(truth);
      expect(found[0].reasons).toEqual([]);
      expect(found[1].reasons.join()).toContain('light falls');
      expect(found[2].reasons.join()).toContain('50 mm instead of 85');
    }
  });
  test('frames that match an earlier setup go back to it', () => {
    const { frames } = shootOf({ seed: 2, guests: 30, slates: false });
    const again = frames.slice(0, 10).map((frame, n) => ({ ...frame, id: 1000 + n, at: 90_000 + 20 * n }));
    const found = proposeSetups([...frames, ...again]);
    expect(found).toHaveLength(3);
    expect(found[0].frames).toContain(1000);
  });
  test('another camera has setups of its own', () => {
    const { frames } = shootOf({ seed: 2, guests: 9, slates: false });
    const second = frames
      .filter(({ setup }) => setup === 0)
      .map((frame) => ({ ...frame, id: frame.id + 500, camera: 'B' }));
    const found = proposeSetups([...frames, ...second]);
    expect(found).toHaveLength(4);
    expect(found[3].reasons[0]).toContain('camera: B');
  });
  test('a lamp that goes out between two frames is no new setup', () => {
    const { frames } = shootOf({ seed: 4, guests: 20, slates: false });
    const one = frames.filter(({ setup }) => setup === 0);
    expect(proposeSetups(one.map((frame, n) => (n < 8 ? frame : dimmed(frame))))).toHaveLength(1);
  });
});

const onScreen = (frame: Signs, part: Partial<NonNullable<Signs['screen']>>): Signs => ({
  ...frame,
  screen: frame.screen && { ...frame.screen, ...part },
});
const dimmed = (frame: Signs): Signs =>
  onScreen(frame, {
    level: (frame.screen?.level ?? 0) - 0.6,
    grid: frame.screen?.grid.map((v, n) => v - 0.15 * ((n % 6) - 2.5)),
  });
const faults: Record<DriftKind, (frame: Signs) => Signs> = {
  exposure: (frame) => onScreen(frame, { level: (frame.screen?.level ?? 0) + 0.5 }),
  whiteBalance: (frame) =>
    onScreen(frame, { chroma: [(frame.screen?.chroma[0] ?? 0) + 0.02, frame.screen?.chroma[1] ?? 0] }),
  lamp: dimmed,
  camera: (frame) => onScreen(frame, { missing: { left: 0.08, right: 0, top: 0, bottom: 0 } }),
  moved: (frame) =>
    onScreen(frame, {
      level: (frame.screen?.level ?? 0) - 0.4,
      grid: frame.screen?.grid.map((v, n) => v - 0.045 * ((n % 6) - 2.5)),
    }),
  cloth: (frame) => onScreen(frame, { grid: frame.screen?.grid.map((v, n) => v + (n === 8 || n === 15 ? 0.7 : 0)) }),
};

describe('drift', () => {
  const even = (seed: number): Signs[] =>
    shootOf({ seed, guests: 30, slates: false, grain: 0.005 }).frames.filter(({ setup }) => setup === 0);
  test.each(Object.entries(faults))('%s is named, with the frame where it begins', (kind, fault) => {
    for (let seed = 1; seed <= 10; seed++) {
      const frames = even(seed);
      const from = 5 + (seed % 7);
      const found = driftsOf(frames.map((frame, n) => (n < from ? frame : fault(frame))));
      expect(found.map((drift) => [drift.kind, drift.frameId])).toEqual([[kind, frames[from].id]]);
    }
  });
  test('a single odd frame is no drift, nor is an even setup', () => {
    for (let seed = 1; seed <= 10; seed++) {
      const frames = even(seed);
      expect(driftsOf(frames)).toEqual([]);
      expect(driftsOf(frames.map((frame, n) => (n === 7 ? faults.lamp(frame) : frame)))).toEqual([]);
    }
  });
  test('what the camera was set to explains is no drift', () => {
    const frames = even(1);
    const brighter = (frame: Signs): Signs => ({
      ...onScreen(frame, { level: (frame.screen?.level ?? 0) + 0.7 }),
      exposure: (frame.exposure ?? 0) + 0.7,
    });
    expect(driftsOf(frames.map((frame, n) => (n < 8 ? frame : brighter(frame))))).toEqual([]);
  });
});

test('a camera that is turned for a group sees the same setup', () => {
  const { frames } = shootOf({ seed: 6, guests: 12, slates: false });
  const one = frames.filter(({ setup }) => setup === 0);
  const turned = one.map((frame, n) =>
    n === 4 ? { ...onScreen(frame, { grid: frame.screen?.grid.map((v) => -v) }), upright: false, at: frame.at } : frame,
  );
  expect(proposeSetups(turned)).toHaveLength(1);
});

describe('light that the camera changed', () => {
  const { frames } = shootOf({ seed: 3, guests: 24, slates: false });
  const own = frames.filter(({ setup }) => setup === 0);
  const from = 9;
  const spoilt = (spoil: (frame: Signs) => Signs): Signs[] => own.map((frame, n) => (n < from ? frame : spoil(frame)));

  test('is brought back to the first frames, by as much as it changed, and nothing else is', () => {
    const back = broughtBack(spoilt(faults.exposure));
    expect(back.filter(({ gains }) => Math.abs(Math.log2(gains[1])) > 0.3).map(({ frameId }) => frameId)).toEqual(
      own.slice(from).map(({ id }) => id),
    );
    for (const { gains, lighter } of back.slice(-5)) {
      expect(lighter).toBeGreaterThan(0.3);
      expect(gains[1]).toBeCloseTo(2 ** -lighter, 6);
    }
  });

  test('of another colour gets the colour of the first ones: the screen is as it was', () => {
    const back = broughtBack(spoilt(faults.whiteBalance)).filter(({ tinted }) => tinted > 0.015);
    expect(back.map(({ frameId }) => frameId)).toEqual(own.slice(from).map(({ id }) => id));
    // A screen that turned redder is given less red against green.
    for (const { gains } of back) expect(gains[0] / gains[1]).toBeLessThan(0.95);
  });

  test('a lamp that went out is none of the camera’s doing', () => {
    const back = broughtBack(spoilt(faults.lamp)).map(({ frameId }) => frameId);
    for (const { id } of own.slice(from)) expect(back).not.toContain(id);
  });

  test('too few frames say nothing, but for a test frame that was signed off', () => {
    const few = own.slice(0, 3).map(faults.exposure);
    expect(broughtBack(few)).toEqual([]);
    const { camera, upright, exposure, focal, screen } = own[0];
    const reference = { camera, upright, exposure, focal, screen: screen as ScreenSigns };
    expect(broughtBack(few, reference).map(({ frameId }) => frameId)).toEqual(few.map(({ id }) => id));
    expect(broughtBack(few, { ...reference, camera: 'another' })).toEqual([]);
  });
});
