import { describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../image/raster.ts';
import { defaultLook, placedPicture, plainLook, type Look } from './index.ts';
import { placedPeople, type PlacedPerson } from './people.ts';

/** Several people in one picture. */

const scene: EncodedRaster = { width: 60, height: 90, channels: 3, data: new Uint8Array(60 * 90 * 3).fill(90) };
function person(left: number, right: number, rgb: readonly number[]): PlacedPerson {
  const data = new Uint8Array(60 * 90 * 4);
  for (let y = 10; y < 80; y++) for (let x = left; x < right; x++) data.set([...rgb, 255], (y * 60 + x) * 4);
  const cutout: EncodedRaster = { width: 60, height: 90, channels: 4, data };
  return { cutout, placement: { x: 0.5, y: 1, height: 1 }, mirrored: false, turn: 0, measured: undefined };
}
const red = person(10, 35, [200, 40, 40]);
const blue = person(25, 50, [40, 40, 200]);
const pixel = ({ data, width }: EncodedRaster, x: number, y: number): number[] => [
  ...data.subarray((y * width + x) * 3, (y * width + x) * 3 + 3),
];
const look = (part: Partial<Look>): Look => ({ ...plainLook, ...part });

describe('people', () => {
  test('whoever comes later stands before the others', () => {
    expect(pixel(placedPeople([red, blue], scene, plainLook), 30, 40)).toEqual([40, 40, 200]);
    expect(pixel(placedPeople([blue, red], scene, plainLook), 30, 40)).toEqual([200, 40, 40]);
    const both = placedPeople([red, blue], scene, plainLook);
    expect([pixel(both, 12, 40), pixel(both, 48, 40), pixel(both, 3, 40)]).toEqual([
      [200, 40, 40],
      [40, 40, 200],
      [90, 90, 90],
    ]);
    expect(both.data).toBeInstanceOf(Uint8Array);
  });

  test('one alone is the same picture as without any of this', () => {
    const { cutout, placement } = red;
    expect(placedPeople([red], scene, defaultLook)).toEqual(
      placedPicture(cutout, scene, placement, defaultLook, undefined),
    );
  });

  test('the background is changed once, and the whole is graded once', () => {
    const part = { behindExposure: -1, allExposure: 0.5, vignette: 0.4 };
    const one = placedPicture(red.cutout, scene, red.placement, look(part), undefined);
    const two = placedPeople([blue, red], scene, look(part));
    for (const [x, y] of [
      [3, 5],
      [57, 85],
      [12, 40],
    ])
      pixel(two, x, y).forEach((v, c) => expect(Math.abs(v - pixel(one, x, y)[c])).toBeLessThanOrEqual(1));
  });

  test('a shadow falls on whoever stands behind', () => {
    const cast = look({ wall: 1, shadowSide: -1, shadowLength: 1, shadowSoftness: 4 });
    const near = person(30, 45, [40, 40, 200]);
    const behind = placedPeople([red, near], scene, cast);
    expect(pixel(behind, 24, 45)[0]).toBeLessThan(170);
  });

  test('each is mirrored for itself', () => {
    const turned = placedPeople([{ ...red, mirrored: true }, person(28, 32, [0, 0, 0])], scene, plainLook);
    expect(pixel(turned, 47, 40)).toEqual([200, 40, 40]);
    expect(pixel(turned, 12, 40)).toEqual([90, 90, 90]);
  });
});
