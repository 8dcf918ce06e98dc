import { describe, expect, test } from 'vitest';
import type { LinearRaster } from '../image/raster.ts';
import { demoPeople } from './cast.ts';
import type { Lights } from './lights.ts';
import type { Strand } from './strands.ts';
import { growFur, growPlume } from './trimmings.ts';
import { drawVeil } from './veil.ts';

/** What is worn and is fine: fur, a plume, a veil. The origin is the middle of the head, metres. */

const subject = { ...demoPeople.maren, seed: 5 };
const ends = ({ points }: Strand): [number[], number[]] => [
  [...points.subarray(0, 3)],
  [...points.subarray(points.length - 3)],
];
const lengthOf = (strand: Strand): number => {
  const [from, to] = ends(strand);
  return Math.hypot(...to.map((v, c) => v - from[c]));
};
const mean = (values: number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

describe('fur round the neck', () => {
  const fur = growFur(subject);
  test('grows all the way round it, below the chin and above the shoulders', () => {
    const angles = fur.map((hair) => Math.atan2(hair.points[0], hair.points[2] + 0.028));
    for (let part = 0; part < 8; part++) {
      const from = -Math.PI + (part * Math.PI) / 4;
      const share = angles.filter((angle) => angle >= from && angle < from + Math.PI / 4).length / fur.length;
      expect(share, `part ${part}`).toBeGreaterThan(0.06);
    }
    expect(mean(fur.map((hair) => hair.points[1]))).toBeCloseTo(-0.178, 1);
  });
  test('stands out from the neck and hangs; short, fine, and no two alike', () => {
    const outwards = fur.map((hair) => {
      const [from, to] = ends(hair);
      return Math.hypot(to[0], to[2] + 0.028) - Math.hypot(from[0], from[2] + 0.028);
    });
    expect(mean(outwards)).toBeGreaterThan(0.02);
    for (const hair of fur) {
      expect(lengthOf(hair)).toBeLessThan(0.2);
      expect(hair.width).toBeLessThan(0.001);
      expect(hair.tint).toBeGreaterThanOrEqual(0.4);
    }
    expect(new Set(fur.map(({ tint }) => tint)).size).toBeGreaterThan(fur.length / 2);
  });
  test('is the same for the same person, another for another', () => {
    expect(growFur(subject)).toEqual(fur);
    expect(growFur({ ...subject, seed: 6 })[0].points).not.toEqual(fur[0].points);
  });
});

describe('a plume', () => {
  const [quill, ...barbs] = growPlume(subject);
  const along = (t: number): number => barbs[Math.floor(t * (barbs.length - 1))].points[1];
  test('is one quill with barbs that begin on it', () => {
    const line = Array.from({ length: quill.points.length / 3 }, (_, n) => [
      ...quill.points.subarray(3 * n, 3 * n + 3),
    ]);
    const nearest = (barb: Strand): number =>
      Math.min(...line.map((point) => Math.hypot(...point.map((v, c) => v - barb.points[c]))));
    for (const barb of barbs) expect(nearest(barb)).toBeLessThan(0.025);
    expect(quill.width).toBeGreaterThan(3 * barbs[0].width);
  });
  test('rises from the headwear; its barbs are longest in the middle and go to both sides', () => {
    expect(along(1)).toBeGreaterThan(along(0) + 0.08);
    const third = barbs.length / 3;
    const lengths = [0, 1, 2].map((n) => mean(barbs.slice(n * third, (n + 1) * third).map(lengthOf)));
    expect(lengths[1]).toBeGreaterThan(lengths[2]);
    const [even, odd] = [0, 1].map((side) =>
      mean(barbs.filter((_, n) => n % 2 === side).map((barb) => ends(barb)[1][0] - barb.points[0])),
    );
    expect(Math.abs(even - odd)).toBeGreaterThan(0.02);
  });
});

describe('a veil', () => {
  const lights = (level: number): Lights => ({
    key: { direction: [0, 0, 1], colour: [level, level, level] },
    ambient: [0.1, 0.1, 0.1],
    bounce: [0, 0, 0],
    others: [],
  });
  const view = { width: 200, height: 260, scale: 300, originX: 100, originY: 80 };
  const sheet = (level = 0): LinearRaster => ({
    width: 200,
    height: 260,
    channels: 4,
    data: new Float32Array(200 * 260 * 4).fill(level),
  });
  const drawn = (seed = 3, level = 0.8) => {
    const picture = sheet();
    drawVeil(picture, seed, view, lights(level));
    return picture;
  };
  const alpha = ({ data }: { data: Float32Array }, x: number, y: number): number => data[(y * 200 + x) * 4 + 3];

  test('lets most of the light through where it is one layer, less in its hem, none of it outside', () => {
    const picture = drawn();
    const inside = [90, 100, 110].map((x) => alpha(picture, x, 80));
    for (const a of inside) {
      expect(a).toBeGreaterThan(0.15);
      expect(a).toBeLessThan(0.6);
    }
    expect(alpha(picture, 5, 20)).toBe(0);
    expect(alpha(picture, 195, 250)).toBe(0);
    const all = Array.from({ length: 200 * 260 }, (_, p) => picture.data[4 * p + 3]);
    expect(Math.max(...all)).toBeLessThanOrEqual(0.9);
    expect(Math.max(...all)).toBeGreaterThan(Math.max(...inside));
  });
  test('is premultiplied, and as bright as its light', () => {
    const [dim, bright] = [drawn(3, 0.4), drawn(3, 0.8)];
    const at = (80 * 200 + 100) * 4;
    for (let c = 0; c < 3; c++) {
      expect(dim.data[at + c]).toBeGreaterThan(0);
      expect(dim.data[at + c]).toBeLessThanOrEqual(dim.data[at + 3]);
      expect(bright.data[at + c]).toBeGreaterThan(dim.data[at + c]);
    }
    expect(bright.data[at + 3]).toBe(dim.data[at + 3]);
  });
  test('lies over what is there and leaves it alone beside itself', () => {
    const picture = sheet(0.5);
    drawVeil(picture, 3, view, lights(0.8));
    const over = (80 * 200 + 100) * 4;
    expect(picture.data[over + 3]).toBeGreaterThan(0.5);
    expect([...picture.data.subarray(0, 4)]).toEqual([0.5, 0.5, 0.5, 0.5]);
  });
  test('hangs in other folds for another person', () => {
    expect(drawn(4).data).not.toEqual(drawn(3).data);
  });
});
