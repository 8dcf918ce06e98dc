import { describe, expect, test } from 'vitest';
import { fingerprintOf, type Order } from '../cut/order.ts';
import { noGuidance } from '../cut/guidance.ts';
import { defaultRecipe } from '../cut/recipe.ts';
import { seededRandom } from '../random.ts';
import { Hint, hintsOf } from './hints.ts';
import { touchMatte } from './onMatte.ts';
import { stampOf } from './stamp.ts';
import {
  inOrder,
  strokesOf,
  touchKindNames,
  touchKinds,
  type Path,
  type Stroke,
  type Touch,
  type TouchKind,
} from './touch.ts';

const line = (points: [number, number][], closed = false): Path => ({
  closed,
  points: points.map(([x, y]) => ({ x, y, pressure: 1 })),
});
const stroke = (part: Partial<Stroke> = {}): Stroke => ({
  id: 'a',
  at: 1,
  kind: 'take',
  on: true,
  size: 0.2,
  softness: 0,
  strength: 1,
  path: 'p',
  line: line([
    [0.2, 0.5],
    [0.8, 0.5],
  ]),
  ...part,
});
const sumOf = (data: ArrayLike<number>): number => Array.from(data).reduce((sum, v) => sum + v, 0);
const SIZES = [
  [1, 1],
  [1, 7],
  [9, 2],
  [63, 41],
  [200, 300],
] as const;

describe('a stroke', () => {
  test('covers the area of its line and its two round ends', () => {
    const [width, height] = [400, 300];
    const stamp = stampOf(stroke({ size: 0.1 }), width, height);
    const area = sumOf(stamp?.data ?? []) / 255;
    expect(area / (240 * 30 + Math.PI * 15 ** 2)).toBeCloseTo(1, 1);
  });

  test('a soft one is whole in the middle and falls without a step; crossing itself it is no stronger', () => {
    const soft = stampOf(stroke({ softness: 1 }), 300, 300);
    const along = Array.from({ length: 30 }, (_, n) => soft?.data[(n + 30) * (soft?.width ?? 0) + 150] ?? 0);
    expect(soft?.data[30 * (soft?.width ?? 0) + 150]).toBeGreaterThan(240);
    for (let n = 1; n < along.length; n++) {
      expect(along[n]).toBeLessThanOrEqual(along[n - 1]);
      expect(along[n - 1] - along[n]).toBeLessThan(20);
    }
    const twice = stroke({
      line: line([
        [0.2, 0.5],
        [0.8, 0.5],
        [0.2, 0.5],
      ]),
      softness: 1,
    });
    expect(stampOf(twice, 300, 300)?.data).toEqual(soft?.data);
  });

  test('the pen’s pressure sets its width along the way', () => {
    const pen = stroke({
      line: {
        closed: false,
        points: [
          { x: 0.2, y: 0.5, pressure: 0.2 },
          { x: 0.8, y: 0.5, pressure: 1 },
        ],
      },
    });
    const stamp = stampOf(pen, 300, 300);
    const thick = (x: number): number => {
      let n = 0;
      for (let y = 0; y < (stamp?.height ?? 0); y++) if ((stamp?.data[y * (stamp?.width ?? 0) + x] ?? 0) > 127) n++;
      return n;
    };
    expect(thick(180)).toBeGreaterThan(2 * thick(45));
  });

  test('a zone is filled to its outline, and fades over its border', () => {
    const zone = line(
      [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.75, 0.75],
        [0.25, 0.75],
      ],
      true,
    );
    const hard = stampOf(stroke({ line: zone, softness: 0 }), 200, 200);
    expect(sumOf(hard?.data ?? [])).toBe(255 * 100 * 100);
    const soft = stampOf(stroke({ line: zone, softness: 1, size: 0.1 }), 200, 200);
    expect(sumOf(soft?.data ?? []) / (255 * 1e4)).toBeCloseTo(1, 1);
    expect(soft?.data.some((v) => v > 100 && v < 155)).toBe(true);
  });

  test.each(SIZES)('on %i × %i pixels, wherever it goes, it stays in the picture', (width, height) => {
    const random = seededRandom(width * height);
    for (let n = 0; n < 30; n++) {
      const points = Array.from({ length: 1 + Math.floor(random() * 5) }, (): [number, number] => [
        random() * 3 - 1,
        random() * 3 - 1,
      ]);
      const one = stroke({ line: line(points, n % 2 === 1), size: random() * 0.4 + 0.001, softness: random() });
      const stamp = stampOf(one, width, height);
      if (!stamp) continue;
      expect(stamp.left).toBeGreaterThanOrEqual(0);
      expect(stamp.left + stamp.width).toBeLessThanOrEqual(width);
      expect(stamp.top + stamp.height).toBeLessThanOrEqual(height);
      const alpha = new Uint16Array(width * height).fill(30000);
      touchMatte([{ ...one, kind: 'add' }], alpha, width, height);
      expect(alpha.every((a) => a >= 30000)).toBe(true);
    }
  });
});

describe('touches on coverage', () => {
  const [width, height] = [60, 40];
  const matte = (): Uint16Array => {
    const random = seededRandom(5);
    return Uint16Array.from({ length: width * height }, () =>
      random() < 0.3 ? 0 : random() < 0.4 ? 65535 : Math.floor(random() * 65536),
    );
  };
  const touched = (...strokes: Stroke[]): Uint16Array => {
    const alpha = matte();
    touchMatte(strokes, alpha, width, height);
    return alpha;
  };

  test('brushes on greys leave solid and clear alone, and move what is between their own way', () => {
    const before = matte();
    for (const [kind, way] of [
      ['greysUp', 1],
      ['greysDown', -1],
    ] as const) {
      const after = touched(stroke({ kind }));
      let moved = 0;
      after.forEach((a, p) => {
        const share = before[p] / 65535;
        if (share < 0.04 || share > 0.97) expect(a).toBe(before[p]);
        else expect((a - before[p]) * way).toBeGreaterThanOrEqual(0);
        if (a !== before[p]) moved++;
      });
      expect(moved).toBeGreaterThan(50);
    }
  });

  test('a hard edge draws greys to the side they are nearer to', () => {
    const before = matte();
    touched(stroke({ kind: 'hardEdge' })).forEach((a, p) => {
      const half = before[p] / 65535 - 0.5;
      expect((a - before[p]) * half).toBeGreaterThanOrEqual(-1);
    });
  });

  test('they are laid on in their order: the later one wins where both reach', () => {
    const [first, second] = [stroke({ id: 'a', at: 1, kind: 'take' }), stroke({ id: 'b', at: 2, kind: 'add' })];
    const middle = 20 * width + 30;
    expect(touched(first, second)[middle]).toBe(65535);
    expect(touched(second, first)[middle]).toBe(0);
    const paths = new Map([['p', first.line]]);
    expect(strokesOf([second, first], paths).map(({ id }) => id)).toEqual(['a', 'b']);
  });

  test('what is about solving or colour leaves solved coverage as it is; so does none', () => {
    const others = touchKindNames.filter((kind) => touchKinds[kind].about !== 'matte');
    expect(others).toHaveLength(8);
    expect(touched(...others.map((kind) => stroke({ kind })))).toEqual(matte());
  });

  test('the outline moves by pixels of the file where they pass, and nowhere else', () => {
    // A straight edge between columns 29 and 30, the zone over the upper half.
    const upper = line(
      [
        [0, 0],
        [1, 0],
        [1, 0.5],
        [0, 0.5],
      ],
      true,
    );
    const moved = (kind: TouchKind, pixels: number, scale = 1): Uint16Array => {
      const alpha = Uint16Array.from({ length: width * height }, (_, p) => (p % width < 30 ? 65535 : 0));
      const facts = touchKinds[kind];
      const strength = pixels / ('pixels' in facts ? facts.pixels : 1);
      touchMatte([stroke({ kind, line: upper, softness: 0, strength })], alpha, width, height, scale);
      return alpha;
    };
    const row = (alpha: Uint16Array, y: number): number =>
      alpha.subarray(y * width, (y + 1) * width).reduce((sum, a) => sum + a / 65535, 0);
    for (const pixels of [0.1, 1, 2.5]) {
      expect(row(moved('edgeOut', pixels), 8)).toBeCloseTo(30 + pixels, 3);
      expect(row(moved('edgeIn', pixels), 8)).toBeCloseTo(30 - pixels, 3);
      // On a copy of half the size it is half as many of its own.
      expect(row(moved('edgeOut', pixels, 0.5), 8)).toBeCloseTo(30 + pixels / 2, 3);
      expect(row(moved('edgeOut', pixels), 30)).toBe(30);
    }
    const soft = moved('softer', 3);
    expect(row(soft, 8)).toBeCloseTo(30, 1);
    expect(soft[8 * width + 28]).toBeLessThan(65535);
    expect(soft[30 * width + 28]).toBe(65535);
  });

  test('half the strength goes half the way', () => {
    const before = matte();
    const after = touched(stroke({ strength: 0.5 }));
    const middle = 20 * width + 30;
    expect(after[middle]).toBe(Math.round(before[middle] / 2));
  });
});

test('hints say what a place is, the latest where several meet', () => {
  const hints = hintsOf([stroke({ kind: 'hair' }), stroke({ kind: 'screen', line: line([[0.5, 0.5]]) })], 50, 50);
  expect(hints.data[25 * 50 + 25]).toBe(Hint.screen);
  expect(hints.data[25 * 50 + 12]).toBe(Hint.hair);
  expect(hints.data[0]).toBe(Hint.none);
});

describe('the order of a frame', () => {
  const order = (touches: Touch[]): Order => ({
    recipe: defaultRecipe,
    guidance: { ...noGuidance, touches },
    plate: null,
  });
  const touch = (part: Partial<Touch> = {}): Touch => {
    const { line: _, ...plain } = stroke(part);
    return plain;
  };

  test('has another name with each touch and its settings, and the old one when the touch is off or gone', () => {
    const none = fingerprintOf(order([]));
    const names = [
      touch(),
      touch({ kind: 'add' }),
      touch({ size: 0.1 }),
      touch({ softness: 0.3 }),
      touch({ strength: 0.4 }),
      touch({ path: 'q' }),
    ].map((one) => fingerprintOf(order([one])));
    expect(new Set([none, ...names]).size).toBe(7);
    expect(fingerprintOf(order([touch({ on: false })]))).toBe(none);
  });

  test('depends on the order of touches and not on that of the list', () => {
    const [a, b] = [touch({ id: 'a', at: 1 }), touch({ id: 'b', at: 2, kind: 'add' })];
    expect(fingerprintOf(order([a, b]))).toBe(fingerprintOf(order([b, a])));
    expect(fingerprintOf(order([{ ...a, at: 3 }, b]))).not.toBe(fingerprintOf(order([a, b])));
    expect(inOrder([{ ...a, at: 3 }, b]).map(({ id }) => id)).toEqual(['b', 'a']);
  });
});
