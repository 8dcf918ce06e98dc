import { describe, expect, test } from 'vitest';
import { bounceOn } from './bounce.ts';
import { beamExponent, lampLight, shiftMired, temperatureToRgb } from './lampLight.ts';
import { blockersOf, illuminance, sourcesOf, type Source } from './light.ts';
import { lampModels, entry } from './library.ts';
import type { Lamp, Plan } from './plan.ts';
import { lampFrom, startingPlan } from './startingPlan.ts';
import { unit, vec } from './vector.ts';

const base = startingPlan('Test', '2026-06-13');
const bare = entry(lampModels, 'Bare reflector, LED', 'lamp');
const at = (change: Partial<Lamp>, plan: Partial<Plan> = {}, fineness = 4): Source =>
  sourcesOf(
    {
      ...base,
      ...plan,
      lamps: [
        lampFrom(bare, 'l', 'key', vec(0, 1, 4), vec(0, 1, 0), { width: 0.02, height: 0.02, beam: 120, ...change }),
      ],
    },
    fineness,
  )[0];
const facing = vec(0, 0, 1);

describe('small source', () => {
  test('candela over distance squared, straight on: 1000 cd at 2 m are 250 lx', () => {
    expect(illuminance(at({ unit: 'candela', output: 1000 }), vec(0, 1, 2), facing)).toBeCloseTo(250, 1);
  });
  test('twice the distance is two stops less, half the lamp one stop', () => {
    const near = illuminance(at({}), vec(0, 1, 2), facing);
    expect(Math.log2(near / illuminance(at({}), vec(0, 1, 0), facing))).toBeCloseTo(2, 3);
    expect(Math.log2(near / illuminance(at({ power: 0.5 }), vec(0, 1, 2), facing))).toBeCloseTo(1, 6);
  });
  test('a surface turned by 60° gets half; turned away, nothing', () => {
    const straight = illuminance(at({}), vec(0, 1, 2), facing);
    expect(illuminance(at({}), vec(0, 1, 2), vec(Math.sin(Math.PI / 3), 0, 0.5)) / straight).toBeCloseTo(0.5, 3);
    expect(illuminance(at({}), vec(0, 1, 2), vec(0, 0, -1))).toBe(0);
  });
  test('a flat emitter follows cos⁴ on a wall: a quarter at 45°', () => {
    const middle = illuminance(at({ beam: 120 }), vec(0, 1, 0), facing);
    expect(illuminance(at({ beam: 120 }), vec(4, 1, 0), facing) / middle).toBeCloseTo(0.25, 3);
  });
  test('all its light arrives on a sphere round it', () => {
    for (const beam of [30, 60, 120]) {
      const source = at({ unit: 'lumen', output: 1000, beam });
      let flux = 0;
      const steps = 400;
      for (let n = 0; n < steps; n++) {
        const theta = ((n + 0.5) / steps) * (Math.PI / 2);
        const direction = vec(Math.sin(theta), 0, -Math.cos(theta));
        const e = illuminance(source, vec(3 * direction.x, 1, 4 + 3 * direction.z), vec(-direction.x, 0, -direction.z));
        flux += e * 2 * Math.PI * Math.sin(theta) * 9 * (Math.PI / 2 / steps);
      }
      expect(flux).toBeGreaterThan(990);
      expect(flux).toBeLessThan(1010);
    }
  });
  test('half the intensity at half the beam angle', () => {
    expect(Math.pow(Math.cos(Math.PI / 9), beamExponent(40))).toBeCloseTo(0.5, 9);
    expect(beamExponent(120)).toBeCloseTo(1, 9);
  });
});

test('a rectangle a metre wide and high, flat emitter, a metre off: the published form factor', () => {
  // Small plane facing the centre of a rectangle: four corner factors F = 1/2π (A/√(1+A²)·atan(B/√(1+A²)) +
  // B/√(1+B²)·atan(A/√(1+B²))).
  const a = 0.5;
  const corner = (2 * (a / Math.sqrt(1 + a * a)) * Math.atan(a / Math.sqrt(1 + a * a))) / (2 * Math.PI);
  const factor = 4 * corner;
  const source = at({ width: 1, height: 1, beam: 120, unit: 'lumen', output: 1000, kind: 'bare' }, {}, 16);
  expect(illuminance(source, vec(0, 1, 3), facing)).toBeCloseTo(1000 * factor, 0);
  const bounced = bounceOn(
    { screen: { ...base.screen, width: 1, height: 1, bottom: 0.5, red: 1, green: 1, blue: 1 } },
    vec(0, 1, 1),
    vec(0, 0, -1),
    () => [1, 1, 1],
    24,
  );
  expect(bounced[0]).toBeCloseTo(factor, 2);
});

test('a very large screen fills the whole view of what faces it, and half of what looks along it', () => {
  const screen = { ...base.screen, width: 60, height: 60, bottom: -30, red: 1, green: 1, blue: 1 };
  expect(bounceOn({ screen }, vec(0, 0, 2), vec(0, 0, -1), () => [1, 1, 1], 160)[1]).toBeCloseTo(1, 1);
  expect(bounceOn({ screen }, vec(0, 0, 2), vec(1, 0, 0), () => [1, 1, 1], 160)[1]).toBeCloseTo(0.5, 1);
});

test('sun is parallel, an overcast sky gives an upright wall half of what the ground gets, and the ground gives some back', () => {
  const sun = at({ kind: 'sun', unit: 'lux', output: 80000, position: vec(0, 10, 10), aim: vec(0, 0, 0) });
  const tilted = illuminance(sun, vec(0, 1, 0), facing);
  expect(tilted).toBeCloseTo(80000 * Math.SQRT1_2, 0);
  expect(illuminance(sun, vec(2, 2, -3), facing)).toBeCloseTo(tilted, 6);
  const sky = at({ kind: 'overcast', unit: 'lux', output: 10000 });
  expect(illuminance(sky, vec(0, 1, 0), vec(0, 1, 0))).toBeCloseTo(10000, 6);
  expect(illuminance(sky, vec(0, 1, 0), facing)).toBeCloseTo(6000, 6);
});

test('a flash counts by its energy: the shutter does not matter, twice the energy is a stop', () => {
  const exposure = (shutter: number, output: number): number =>
    illuminance(at({ unit: 'joule', output }, { camera: { ...base.camera, shutter } }), vec(0, 1, 2), facing) * shutter;
  expect(exposure(1 / 60, 100)).toBeCloseTo(exposure(1 / 250, 100), 6);
  expect(exposure(1 / 60, 200) / exposure(1 / 60, 100)).toBeCloseTo(2, 6);
});

test('a flag cuts off one side and leaves the other', () => {
  // Looking at the screen, the lamp's right is the camera's right.
  const flagged = at({ cutRight: 20 });
  const open = at({});
  expect(illuminance(flagged, vec(3, 1, 0), facing)).toBe(0);
  expect(illuminance(flagged, vec(-3, 1, 0), facing)).toBeCloseTo(illuminance(open, vec(-3, 1, 0), facing), 9);
});

test('a person in the beam shades what is straight behind, and a large lamp less than a small one', () => {
  const people = [{ ...base.people[0], z: 2 }];
  const plan = { ...base, people };
  const behind = vec(0, 1, 0);
  const shade = (size: number): number => {
    const source = at({ width: size, height: size }, { people }, 9);
    return illuminance(source, behind, facing, blockersOf(plan)) / illuminance(source, behind, facing);
  };
  expect(shade(0.02)).toBe(0);
  expect(shade(2)).toBeGreaterThan(0.3);
  expect(illuminance(at({}, { people }), vec(2, 1, 0), facing, blockersOf(plan))).toBeGreaterThan(0);
});

describe('colour of lamps', () => {
  test('correction gels shift reciprocal temperature: 3200 K with −131 mired is about 5500 K', () => {
    expect(shiftMired(3200, -131)).toBeCloseTo(5510, -1);
    expect(shiftMired(5600, 159)).toBeCloseTo(2962, -1);
  });
  test('Planckian light: red below 6500 K, blue above, luminance 1', () => {
    for (const kelvin of [1800, 2856, 4000, 5500, 6504, 10000]) {
      const [r, g, b] = temperatureToRgb(kelvin);
      expect(0.2126 * r + 0.7152 * g + 0.0722 * b).toBeCloseTo(1, 9);
    }
    const [r, , b] = temperatureToRgb(6504);
    expect(Math.abs(r - b)).toBeLessThan(0.12);
    expect(temperatureToRgb(3000)[0]).toBeGreaterThan(2 * temperatureToRgb(3000)[2]);
  });
  test('the losses of gel, diffusion and dimmer add up in stops', () => {
    const lamp = at({ kind: 'softbox', gel: 'full blue correction', diffusion: 'full frost', power: 0.5 }).lamp;
    const { losses, flux } = lampLight(lamp);
    const plain = lampLight({ ...lamp, kind: 'bare', gel: 'none', diffusion: 'none', power: 1 }).flux;
    expect(Math.log2(plain / flux)).toBeCloseTo(losses.modifier + losses.gel + losses.diffusion + losses.dimmer, 9);
    expect(losses.gel).toBeGreaterThan(0.9);
  });
  test('an unknown gel is named with what there is', () => {
    expect(() => lampLight({ ...at({}).lamp, gel: 'mauve' })).toThrow(/gel: expected one of none, .*received mauve/);
  });
});

test('unit of nothing is a direction all the same', () => {
  expect(unit(vec(0, 0, 0))).toEqual(vec(0, 0, 1));
});
