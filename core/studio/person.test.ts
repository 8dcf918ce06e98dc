import { describe, expect, test } from 'vitest';
import type { LinearRaster } from '../image/raster.ts';
import { createLinear } from '../image/raster.ts';
import { demoPlans } from '../plan/demoPlans.ts';
import { reportOn } from '../plan/report.ts';
import { demoPeople, type SubjectName } from './cast.ts';
import type { Subject } from './figure.ts';
import { layOver } from './layOver.ts';
import { lightsOn, type Lights } from './lights.ts';
import type { View } from './march.ts';
import { paintPerson } from './person.ts';
import { paintPlannedScreen } from './plannedScreen.ts';

const view: View = { width: 140, height: 200, scale: 190, originX: 70, originY: 50 };
const frontal: Lights = {
  key: { direction: [0, 0, 1], colour: [0.8, 0.8, 0.8] },
  others: [],
  ambient: [0.1, 0.1, 0.1],
  bounce: [0, 0, 0],
};
const paint = (change: Partial<Subject> = {}, lights = frontal, name: SubjectName = 'otto'): LinearRaster =>
  paintPerson({ ...demoPeople[name], ...change }, view, lights, 0.7);
const alpha = (picture: LinearRaster, x: number, y: number): number => picture.data[(y * view.width + x) * 4 + 3];
const covered = (picture: LinearRaster): number => {
  let sum = 0;
  for (let i = 3; i < picture.data.length; i += 4) sum += picture.data[i];
  return sum;
};
/** Mean colour where the person is solid, in a box. */
function meanColour(
  picture: LinearRaster,
  left: number,
  top: number,
  right: number,
  bottom: number,
): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  let count = 0;
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      const o = (y * view.width + x) * 4;
      if (picture.data[o + 3] < 0.99) continue;
      for (let c = 0; c < 3; c++) sum[c] += picture.data[o + c];
      count++;
    }
  }
  return sum.map((v) => v / Math.max(1, count)) as [number, number, number];
}

describe('paintPerson', () => {
  test('every one of the cast is a whole person: values in range, head at the origin, nothing at the corners', () => {
    for (const name of Object.keys(demoPeople) as SubjectName[]) {
      const picture = paint({}, frontal, name);
      expect(
        picture.data.every((v) => v >= 0 && v < 3),
        name,
      ).toBe(true);
      expect(alpha(picture, 70, 52), name).toBeGreaterThan(0.99);
      expect(alpha(picture, 1, 1), name).toBe(0);
      expect(
        picture.data.every((v, i) => i % 4 !== 3 || v < 1.0001),
        name,
      ).toBe(true);
    }
  });
  test('premultiplied: no light where nothing is covered', () => {
    const { data } = paint();
    let light = 0;
    for (let o = 0; o < data.length; o += 4) if (data[o + 3] === 0) light += data[o] + data[o + 1] + data[o + 2];
    expect(light).toBe(0);
  });
  test('twice the light is twice as bright', () => {
    const double: Lights = { ...frontal, key: { ...frontal.key, colour: [1.6, 1.6, 1.6] }, ambient: [0.2, 0.2, 0.2] };
    const one = meanColour(paint(), 60, 120, 80, 160);
    const two = meanColour(paint({}, double), 60, 120, 80, 160);
    for (let c = 0; c < 3; c++) expect(two[c] / one[c]).toBeCloseTo(2, 3);
  });
  test('the side towards the key is lighter; a fill evens it out', () => {
    const fromLeft: Lights = { ...frontal, key: { direction: [-0.9, 0, 0.44], colour: [0.9, 0.9, 0.9] } };
    const sides = (lights: Lights): number => {
      const picture = paint({ moment: 0 }, lights);
      return meanColour(picture, 35, 110, 62, 150)[0] / meanColour(picture, 78, 110, 105, 150)[0];
    };
    expect(sides(fromLeft)).toBeGreaterThan(1.3);
    expect(sides({ ...fromLeft, others: [{ direction: [0.9, 0, 0.44], colour: [0.6, 0.6, 0.6] }] })).toBeLessThan(
      sides(fromLeft) - 0.2,
    );
  });
  test('screen light colours edges, multiplied by what it falls on, and hardly the front', () => {
    const green: Lights = { ...frontal, bounce: [0.02, 0.3, 0.03] };
    const plain = paint({}, frontal, 'bram');
    const spilt = paint({}, green, 'bram');
    let edge = 0;
    let least = 0;
    for (let o = 0; o < plain.data.length; o += 4) {
      const added = spilt.data[o + 1] - plain.data[o + 1];
      least = Math.min(least, added);
      edge = Math.max(edge, added);
    }
    expect(least).toBeGreaterThan(-1e-6);
    const front = meanColour(spilt, 64, 120, 76, 150)[1] - meanColour(plain, 64, 120, 76, 150)[1];
    expect(edge).toBeGreaterThan(0.02);
    expect(front).toBeLessThan(edge / 4);
  });
  test('poses open gaps and reach out; the arms of one who stands do not', () => {
    const row = (picture: LinearRaster, y: number): number => {
      let runs = 0;
      for (let x = 1; x < view.width; x++) if (alpha(picture, x, y) > 0.5 && alpha(picture, x - 1, y) <= 0.5) runs++;
      return runs;
    };
    const hips = paint({ pose: 'hips' });
    expect(Math.max(...Array.from({ length: 60 }, (_, n) => row(hips, 120 + n)))).toBeGreaterThanOrEqual(3);
    const edge = (picture: LinearRaster): number => {
      for (let x = view.width - 1; x > 0; x--) for (let y = 60; y < 140; y++) if (alpha(picture, x, y) > 0.5) return x;
      return 0;
    };
    expect(edge(paint({ pose: 'wave' }))).toBeGreaterThan(edge(paint({ pose: 'down' })) + 15);
  });
  test('headwear, glasses, jewellery, props and a wind each change the picture; the same moment does not', () => {
    const base = paint();
    const differs = (change: Partial<Subject>): boolean =>
      paint(change).data.some((v, i) => Math.abs(v - base.data[i]) > 0.01);
    expect(differs({})).toBe(false);
    for (const change of [
      { glasses: false },
      { jewellery: true },
      { headwear: { kind: 'brim' as const, colour: [0.3, 0.2, 0.1] as const } },
      { prop: 'lattice' as const },
      { prop: 'kite' as const, pose: 'raised' as const },
      { moment: 9 },
      { age: 0 },
    ])
      expect(differs(change), JSON.stringify(change)).toBe(true);
    const still = paint({}, frontal, 'gale');
    const blown = paint({ hair: { ...demoPeople.gale.hair, wind: 1 } }, frontal, 'gale');
    const right = (picture: LinearRaster): number =>
      Array.from({ length: 40 }, (_, x) => alpha(picture, 95 + x, 45)).reduce((a, b) => a + b, 0);
    expect(right(blown)).toBeGreaterThan(right(still));
  });
  test('hair under a head scarf does not show, and a cap keeps down what is under it', () => {
    const loose = paint({}, frontal, 'maren');
    const scarf = paint({ headwear: { kind: 'scarf', colour: [0.5, 0.3, 0.1] } }, frontal, 'maren');
    expect(covered(scarf)).toBeLessThan(covered(loose));
    const cap = paint({ headwear: { kind: 'cap', colour: [0.5, 0.3, 0.1] } }, frontal, 'maren');
    const above = (picture: LinearRaster): number =>
      Array.from({ length: view.width }, (_, x) => alpha(picture, x, 24)).reduce((a, b) => a + b, 0);
    expect(above(cap)).toBeLessThan(above(loose));
  });
  test('full length: the legs reach the ground', () => {
    const small: View = { width: 80, height: 200, scale: 105, originX: 40, originY: 20 };
    const picture = paintPerson(demoPeople.pim, small, frontal, 0.5);
    const at = (y: number): number =>
      Array.from({ length: 80 }, (_, x) => picture.data[(y * 80 + x) * 4 + 3]).reduce((a, b) => Math.max(a, b), 0);
    expect(at(20 + Math.round(1.5 * 105))).toBeGreaterThan(0.9);
    expect(at(20 + Math.round(1.69 * 105))).toBe(0);
  });
});

describe('lightsOn', () => {
  const { tent, window } = demoPlans();
  test('the key of the plan is the painter’s key, from its side, as bright as the report says', () => {
    const lights = lightsOn(tent, tent.people[0]);
    const key = tent.lamps.find((lamp) => lamp.role === 'key');
    expect(Math.sign(lights.key.direction[0])).toBe(Math.sign(key?.position.x ?? 0));
    expect(Math.hypot(...lights.key.direction)).toBeCloseTo(1, 6);
    expect(lights.others).toHaveLength(2);
    const { person, exposure, evenness } = reportOn(tent);
    // The screen's green level over its reflectance is the level of white under the screen's light.
    const white = (exposure?.mean[1] ?? 0) / tent.screen.green;
    expect(lights.key.colour[1] / white).toBeCloseTo((person?.keyLux ?? 0) / (evenness?.mean ?? 1), 0);
  });
  test('nearer to the screen it bounces more; without lamps it is dark', () => {
    const at = (z: number): number => lightsOn(tent, { ...tent.people[0], z }).bounce[1];
    expect(at(1)).toBeGreaterThan(1.5 * at(2.5));
    const dark = lightsOn({ ...window, lamps: [] }, window.people[0]);
    expect(dark.key.colour).toEqual([0, 0, 0]);
    expect(dark.others).toEqual([]);
  });
  test('a gelled edge light keeps its colour', () => {
    const gelled = {
      ...tent,
      lamps: tent.lamps.map((lamp) => (lamp.role === 'edge' ? { ...lamp, gel: 'weak magenta', power: 1 } : lamp)),
    };
    const edge = lightsOn(gelled, gelled.people[0]).others.find((beam) => beam.direction[2] < 0);
    expect((edge?.colour[0] ?? 0) / (edge?.colour[1] ?? 1)).toBeGreaterThan(1.2);
  });
});

describe('paintPlannedScreen', () => {
  const { tent } = demoPlans();
  const green = (plan = tent, people = false, seed = 1): Float32Array =>
    paintPlannedScreen(plan, 80, 120, seed, people).data.filter((_, i) => i % 3 === 1);
  const deviation = (values: Float32Array): number => {
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    return Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length) / mean;
  };
  test('deeper creases show more, an open aperture hides them, one-sided light brings them out', () => {
    const sharp = { ...tent, camera: { ...tent.camera, aperture: 32 } };
    const creased = (depth: number, plan = sharp): number => {
      const of = (wrinkleDepth: number): Float32Array =>
        green({ ...plan, screen: { ...plan.screen, wrinkleDepth, wrinklePeriod: 0.1 } });
      const flat = of(0);
      return deviation(of(depth).map((v, p) => v / flat[p]));
    };
    expect(creased(0)).toBe(0);
    expect(creased(0.02)).toBeGreaterThan(1.5 * creased(0.01));
    expect(creased(0.02, { ...tent, camera: { ...tent.camera, aperture: 1.2 } })).toBeLessThan(0.7 * creased(0.02));
    const oneSided = { ...sharp, lamps: sharp.lamps.filter((lamp) => lamp.id !== 'screen-right') };
    expect(creased(0.02, oneSided)).toBeGreaterThan(1.2 * creased(0.02));
  });
  test('a person close to the screen darkens it behind them; a plate has no shadow', () => {
    const close = {
      ...tent,
      people: [{ ...tent.people[0], z: 0.6 }],
      lamps: tent.lamps.map((lamp) => (lamp.id === 'key' ? { ...lamp, position: { x: 0, y: 1.6, z: 4.8 } } : lamp)),
    };
    const shaded = green(close, true);
    const plate = green(close, false);
    let deepest = 1;
    shaded.forEach((v, p) => (deepest = Math.min(deepest, v / plate[p])));
    expect(deepest).toBeLessThan(0.8);
  });
  test('the same number gives the same creases, another one others', () => {
    expect(green()).toEqual(green());
    expect(green(tent, false, 2)).not.toEqual(green());
  });
});

test('layOver: half over full, empty over anything, full over anything', () => {
  const below = createLinear(3, 1, 4);
  below.data.set([0.8, 0.8, 0.8, 1, 0.8, 0.8, 0.8, 1, 0.8, 0.8, 0.8, 1]);
  const above = createLinear(3, 1, 4);
  above.data.set([0.1, 0, 0, 0.5, 0, 0, 0, 0, 0.3, 0.2, 0.1, 1]);
  layOver(below, { left: 0, top: 0, picture: above });
  const expected = [0.5, 0.4, 0.4, 1, 0.8, 0.8, 0.8, 1, 0.3, 0.2, 0.1, 1];
  below.data.forEach((v, i) => expect(v).toBeCloseTo(expected[i], 6));
});
