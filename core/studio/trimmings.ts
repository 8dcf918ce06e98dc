import { gaussian, seededRandom } from '../random.ts';
import type { Subject } from './figure.ts';
import type { Strand } from './strands.ts';

/** Points of a hair of fur and of a barb. */
const SEGMENTS = 6;
const HAIRS = 9000;
const BARBS = 900;

/** Fur round the neck: short hairs that stand out and hang. */
export function growFur(subject: Subject): Strand[] {
  const random = seededRandom(subject.seed * 13 + 3);
  return Array.from({ length: HAIRS }, () => {
    const around = 2 * Math.PI * random();
    const up = gaussian(random) * 0.016;
    const root = [
      0.088 * Math.sin(around) * (1 + 6 * Math.max(0, -up)),
      -0.178 + up - 0.02 * Math.cos(around),
      -0.028 + 0.082 * Math.cos(around),
    ] as const;
    const length = 0.03 + 0.03 * random();
    const out = [
      Math.sin(around) + 0.3 * gaussian(random),
      0.35 + 0.4 * gaussian(random),
      Math.cos(around) + 0.3 * gaussian(random),
    ];
    return strandAlong(
      root,
      (t) => [out[0] * length * t, out[1] * length * t - 0.6 * length * t * t, out[2] * length * t],
      0.0003,
      1 + 0.25 * gaussian(random),
    );
  });
}

/** A curved quill on the side of the headwear with barbs on both sides of it. */
export function growPlume(subject: Subject): Strand[] {
  const random = seededRandom(subject.seed * 17 + 9);
  const quill = (t: number): [number, number, number] => [
    0.075 + 0.12 * t + 0.05 * t * t,
    0.075 + 0.17 * t - 0.05 * t * t,
    0.02 - 0.03 * t,
  ];
  const barbs = Array.from({ length: BARBS }, (_, n) => {
    const at = 0.12 + 0.88 * ((n >> 1) / (BARBS / 2));
    const side = n & 1 ? 1 : -1;
    const length = 0.05 * Math.sin(Math.PI * Math.min(1, at * 0.9 + 0.08)) + 0.008;
    const sway = 0.2 * gaussian(random);
    return strandAlong(
      quill(at),
      (t) => [
        length * t * (0.75 * side + 0.5 + 0.2 * sway),
        length * t * (-0.75 * side + 0.7 - 0.3 * t),
        0.02 * sway * t,
      ],
      0.00028,
      1 + 0.12 * gaussian(random),
    );
  });
  return [strandAlong([0, 0, 0], quill, 0.0014, 0.8), ...barbs];
}

function strandAlong(
  root: readonly [number, number, number],
  way: (t: number) => readonly number[],
  width: number,
  tint: number,
): Strand {
  const points = new Float32Array((SEGMENTS + 1) * 3);
  for (let s = 0; s <= SEGMENTS; s++) {
    const step = way(s / SEGMENTS);
    for (let c = 0; c < 3; c++) points[s * 3 + c] = root[c] + step[c];
  }
  return { points, width, tint: Math.max(0.4, tint) };
}
