import { describe, expect, test } from 'vitest';
import { reportOn } from '../plan/index.ts';
import { demoBackgrounds, demoFrames, demoShot, paintBackground, takeFrame } from './index.ts';
import { capsule, ellipsoid, Part, SolidField } from './solids.ts';

describe('solids', () => {
  test('distance to a ball and along a capsule is exact', () => {
    const field = new SolidField([capsule(Part.skin, [0, 0, 0], [0, 1, 0], 0.2, 0.2, 0)]);
    expect(field.distance(1, 0.5, 0)).toBeCloseTo(0.8, 9);
    expect(field.distance(0, 2, 0)).toBeCloseTo(0.8, 9);
    expect(field.distance(0, 0.5, 0)).toBeCloseTo(-0.2, 9);
  });
  test('the nearest part is named', () => {
    const field = new SolidField([
      ellipsoid(Part.skin, [0, 0, 0], [0.1, 0.1, 0.1], 0),
      ellipsoid(Part.garment, [1, 0, 0], [0.1, 0.1, 0.1], 0),
    ]);
    field.distance(0.9, 0, 0);
    expect(field.part).toBe(Part.garment);
  });
});

describe('takeFrame', () => {
  const { plan, shot } = demoShot(demoFrames[3], 300);
  const taken = takeFrame(plan, shot);

  test('the same plan and shot give the same picture, another number another one', () => {
    expect(takeFrame(plan, shot).frame.data).toEqual(taken.frame.data);
    expect(takeFrame(plan, { ...shot, seed: 999 }).frame.data).not.toEqual(taken.frame.data);
  });
  test('the truth explains the frame: I = premultiplied F + (1 − a)·B, up to noise', () => {
    const { frame, foreground, screen, matte } = takeFrame(plan, { ...shot, noiseless: true });
    for (let p = 0; p < matte.data.length; p += 37) {
      for (let c = 0; c < 3; c++) {
        const level = Math.min(1, foreground.data[p * 4 + c] + (1 - matte.data[p]) * screen.data[p * 3 + c]);
        const encoded = level <= 0.0031308 ? level * 12.92 : 1.055 * level ** (1 / 2.4) - 0.055;
        expect(Math.abs(frame.data[p * 3 + c] / 65535 - encoded)).toBeLessThan(1e-4);
      }
    }
  });
  test('coverage lies in 0–1, with person, screen and sheer cloth in the frame', () => {
    const share = (test: (a: number) => boolean): number =>
      taken.matte.data.filter(test).length / taken.matte.data.length;
    expect(taken.matte.data.every((a) => a >= 0 && a <= 1)).toBe(true);
    expect(share((a) => a > 0.99)).toBeGreaterThan(0.2);
    expect(share((a) => a < 0.01)).toBeGreaterThan(0.3);
    expect(share((a) => a > 0.3 && a < 0.8)).toBeGreaterThan(0.02);
  });
  test('the screen has the level that the plan computes', () => {
    const report = reportOn(plan);
    const plate = takeFrame(plan, { ...shot, kind: 'plate', noiseless: true });
    expect(plate.matte.data.every((a) => a === 0)).toBe(true);
    for (let c = 0; c < 3; c++) {
      let mean = 0;
      for (let p = 0; p < 200 * 300; p++) mean += plate.screen.data[p * 3 + c] / (200 * 300);
      expect(mean / (report.exposure?.mean[c] ?? 0)).toBeCloseTo(1, 1);
    }
  });
  test('a stop less exposure halves the light; a weaker lamp darkens its own side', () => {
    const level = (changed: typeof plan, from: number): number => {
      const { screen } = takeFrame(changed, { ...shot, kind: 'plate', width: 60, height: 90 });
      let sum = 0;
      for (let y = 0; y < 90; y++) for (let x = from; x < from + 12; x++) sum += screen.data[(y * 60 + x) * 3 + 1];
      return sum;
    };
    expect(level({ ...plan, camera: { ...plan.camera, iso: plan.camera.iso / 2 } }, 0) / level(plan, 0)).toBeCloseTo(
      0.5,
      2,
    );
    const weak = {
      ...plan,
      lamps: plan.lamps.map((lamp) => (lamp.id === 'screen-left' ? { ...lamp, power: lamp.power / 4 } : lamp)),
    };
    expect(level(weak, 0) / level(weak, 48)).toBeLessThan(0.85 * (level(plan, 0) / level(plan, 48)));
  });
  test('the matt ball is lightest towards the key; the grey card is neutral', () => {
    const ball = takeFrame(plan, { ...shot, kind: 'ball', noiseless: true });
    let side = 0;
    ball.matte.data.forEach((a, p) => {
      if (a > 0.99) side += ball.foreground.data[p * 4 + 1] * (Math.floor(p % 200) - 100);
    });
    const key = plan.lamps.find((lamp) => lamp.role === 'key');
    expect(Math.sign(side)).toBe(Math.sign(key?.position.x ?? 0));
    const card = takeFrame(plan, { ...shot, kind: 'grey card', noiseless: true });
    const middle = card.matte.data.findIndex((a) => a > 0.999);
    const [r, g, b] = card.foreground.data.subarray(middle * 4, middle * 4 + 3);
    expect(r / g).toBeCloseTo(1, 1);
    expect(b / g).toBeCloseTo(1, 1);
  });
  test('where the screen ends the room shows, and it is not green', () => {
    const narrow = { ...plan, screen: { ...plan.screen, width: 0.8 } };
    const { screen } = takeFrame(narrow, { ...shot, kind: 'plate' });
    const corner = 150 * 200 * 3 + 6;
    expect(screen.data[corner + 1] / screen.data[corner]).toBeLessThan(1.3);
    expect(screen.data[corner + 1]).toBeGreaterThan(0);
  });
  test('groups stand side by side', () => {
    const group = demoFrames.find((frame) => frame.subjects.length === 3);
    if (!group) throw new Error('no group of three');
    const three = demoShot(group, 210);
    const { matte } = takeFrame(three.plan, three.shot);
    const heads = Array.from({ length: 210 }, (_, x) => matte.data[38 * 210 + x] > 0.9);
    expect(heads.filter((a, x) => a && !heads[x - 1]).length).toBeGreaterThanOrEqual(2);
  });
});

test('the demo: 48 frames of 18 people, two setups, every pose and headwear among them', () => {
  expect(demoFrames).toHaveLength(48);
  expect(new Set(demoFrames.flatMap((frame) => frame.subjects.map((s) => s.name))).size).toBe(18);
  expect(new Set(demoFrames.map((frame) => frame.name)).size).toBe(48);
  expect(new Set(demoFrames.flatMap((frame) => frame.subjects.map((s) => s.pose))).size).toBe(6);
});

test('backgrounds are repeatable and not flat', () => {
  for (const { scene } of demoBackgrounds) {
    const picture = paintBackground(scene(), 30, 40, 1);
    expect(paintBackground(scene(), 30, 40, 1).data).toEqual(picture.data);
    expect(new Set(picture.data).size).toBeGreaterThan(20);
  }
});
