import { describe, expect, test } from 'vitest';
import { demoBackgrounds, demoFrames, demoPlan, paintBackground, renderPortrait } from './index.ts';
import { capsule, ellipsoid, Part, SolidField } from './solids.ts';

describe('solids', () => {
  test('distance to a ball and along a capsule is exact', () => {
    const field = new SolidField([capsule(Part.skin, [0, 0, 0], [0, 1, 0], 0.2, 0.2, 0)]);
    expect(field.distance(1, 0.5, 0)).toBeCloseTo(0.8, 9);
    expect(field.distance(0, 2, 0)).toBeCloseTo(0.8, 9);
    expect(field.distance(0, 0.5, 0)).toBeCloseTo(-0.2, 9);
  });
  test('the nearest part is named', () => {
    const field = new SolidField([ellipsoid(Part.skin, [0, 0, 0], [0.1, 0.1, 0.1], 0), ellipsoid(Part.garment, [1, 0, 0], [0.1, 0.1, 0.1], 0)]);
    field.distance(0.9, 0, 0);
    expect(field.part).toBe(Part.garment);
  });
});

describe('renderPortrait', () => {
  const plan = demoPlan(demoFrames[3], 200, 300);
  const portrait = renderPortrait(plan);

  test('the same seed gives the same picture', () => {
    expect(renderPortrait(plan).frame.data).toEqual(portrait.frame.data);
  });
  test('the truth explains the frame: I = premultiplied F + (1 − a)·B, up to noise', () => {
    const noiseless = renderPortrait({ ...plan, readNoise: 0, shotNoise: 0 });
    const { frame, foreground, screen, matte } = noiseless;
    for (let p = 0; p < matte.data.length; p += 37) {
      for (let c = 0; c < 3; c++) {
        const level = Math.min(1, foreground.data[p * 4 + c] + (1 - matte.data[p]) * screen.data[p * 3 + c]);
        const encoded = level <= 0.0031308 ? level * 12.92 : 1.055 * level ** (1 / 2.4) - 0.055;
        expect(Math.abs(frame.data[p * 3 + c] / 65535 - encoded)).toBeLessThan(1e-4);
      }
    }
  });
  test('coverage lies in 0–1, with person, screen and sheer cloth in the frame', () => {
    const share = (test: (a: number) => boolean): number => portrait.matte.data.filter(test).length / portrait.matte.data.length;
    expect(portrait.matte.data.every((a) => a >= 0 && a <= 1)).toBe(true);
    expect(share((a) => a > 0.99)).toBeGreaterThan(0.2);
    expect(share((a) => a < 0.01)).toBeGreaterThan(0.3);
    expect(share((a) => a > 0.3 && a < 0.8)).toBeGreaterThan(0.03);
  });
});

test('backgrounds are repeatable and not flat', () => {
  for (const { scene } of demoBackgrounds) {
    const picture = paintBackground(scene(), 30, 40, 1);
    expect(paintBackground(scene(), 30, 40, 1).data).toEqual(picture.data);
    expect(new Set(picture.data).size).toBeGreaterThan(20);
  }
});
