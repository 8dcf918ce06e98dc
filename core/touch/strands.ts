import { seededRandom } from '../random.ts';
import type { PathPoint, Stroke } from './touch.ts';

/** Strands of hair that a hand draws where the camera lost them. */

/** Width of a strand where it begins, share of the frame's height, and what is left of it at its end. */
export const STRAND_WIDTH = 0.0007;
const TIP = 0.35;
/** Strands lie so many of their widths apart. */
const APART = 5;
/** Points that a strand is drawn with. */
const POINTS = 40;
/** Where strands begin they lie so much closer than the brush is wide. */
const GATHERED = 0.5;
/** How far a strand strays sideways at its end, in rooms between two, and how much shorter and finer than others some are. */
const STRAY = 4;
const SHORTER = 0.6;
const FINER = 0.5;
/** Some begin later, share of their length. */
const LATER = 0.08;
/** How light strands are beside the colour they take: some lie in the shadow of others. */
export const strandLights = [1.08, 0.85, 0.62] as const;
/** Passes that make a line of the hand smooth. */
const SMOOTHED = 12;

export interface Strand {
  points: PathPoint[];
  /** One of `strandLights`. */
  light: number;
}

/**
 * The strands of a stroke: along it, as wide apart as it is wide, each straying a little, all beginning where it begins.
 * The same stroke always gives the same ones, at any size of the picture.
 * @param aspect width of the frame by its height.
 */
export function strandsOf({ path, line, size }: Pick<Stroke, 'path' | 'line' | 'size'>, aspect: number): Strand[] {
  const way = evenly(line.points, aspect);
  if (!way) return [];
  const random = seededRandom([...path].reduce((seed, letter) => Math.imul(seed ^ letter.charCodeAt(0), 16777619), 1));
  const count = Math.max(1, Math.round(size / (STRAND_WIDTH * APART)));
  const room = size / count;
  return Array.from({ length: count }, (_, n) => {
    const aside = count > 1 ? (n + random()) * room - size / 2 : 0;
    const [waves, phase, stray] = [0.6 + 1.6 * random(), 2 * Math.PI * random(), STRAY * room * (random() - 0.5)];
    const [light, fine] = [strandLights[Math.floor(strandLights.length * random())], 1 - FINER * random()];
    const last = Math.max(1, Math.round((POINTS - 1) * (1 - SHORTER * random() * (count > 1 ? 1 : 0))));
    const first = Math.floor(LATER * last * random() * (count > 1 ? 1 : 0));
    const points = way.slice(first, last + 1).map(({ x, y, acrossX, acrossY, pressure }, k) => {
      const along = (first + k) / (POINTS - 1);
      const off =
        aside * pressure * (GATHERED + (1 - GATHERED) * along) +
        stray * along * (Math.sin(2 * Math.PI * waves * along + phase) + 2 * along * Math.sin(phase));
      const left = 1 - k / (last - first);
      return { x: (x + off * acrossX) / aspect, y: y + off * acrossY, pressure: fine * (TIP + (1 - TIP) * left) };
    });
    return { points, light };
  });
}

interface Step {
  /** In heights of the frame. */
  x: number;
  y: number;
  /** The direction across the way, of length 1. */
  acrossX: number;
  acrossY: number;
  pressure: number;
}

/** Points at even distances along a line; undefined for one without length. */
function evenly(points: readonly PathPoint[], aspect: number): Step[] | undefined {
  const ends = points.map(({ x, y, pressure }) => ({ x: x * aspect, y, pressure }));
  const lengths = ends.slice(1).map(({ x, y }, n) => Math.hypot(x - ends[n].x, y - ends[n].y));
  const all = lengths.reduce((sum, v) => sum + v, 0);
  if (!(all > 0)) return undefined;
  const steps: Step[] = [];
  let leg = 0;
  let before = 0;
  for (let k = 0; k < POINTS; k++) {
    const at = (all * k) / (POINTS - 1);
    while (leg < lengths.length - 1 && (lengths[leg] === 0 || at > before + lengths[leg])) before += lengths[leg++];
    const share = lengths[leg] > 0 ? Math.min(1, (at - before) / lengths[leg]) : 0;
    const [from, to] = [ends[leg], ends[leg + 1]];
    const mixed = (name: 'x' | 'y' | 'pressure'): number => from[name] + share * (to[name] - from[name]);
    steps.push({ x: mixed('x'), y: mixed('y'), pressure: mixed('pressure'), acrossX: 0, acrossY: 0 });
  }
  for (let pass = 0; pass < SMOOTHED; pass++)
    for (let k = 1; k < POINTS - 1; k++)
      for (const name of ['x', 'y'] as const)
        steps[k][name] = (steps[k - 1][name] + 2 * steps[k][name] + steps[k + 1][name]) / 4;
  steps.forEach((step, k) => {
    const [a, b] = [steps[Math.max(0, k - 2)], steps[Math.min(POINTS - 1, k + 2)]];
    const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    step.acrossX = -(b.y - a.y) / length;
    step.acrossY = (b.x - a.x) / length;
  });
  return steps;
}
