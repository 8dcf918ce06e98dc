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
/** How far a strand strays sideways, share of the room between two, and how much shorter than the stroke some are. */
const STRAY = 0.9;
const SHORTER = 0.35;

export interface Strand {
  points: PathPoint[];
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
    const aside = (n + 0.5) * room - size / 2;
    const [waves, phase, stray] = [0.5 + 1.5 * random(), 2 * Math.PI * random(), STRAY * room * (random() - 0.5)];
    const last = Math.max(1, Math.round((POINTS - 1) * (1 - SHORTER * random() * (count > 1 ? 1 : 0))));
    const points = way.slice(0, last + 1).map(({ x, y, acrossX, acrossY, pressure }, k) => {
      const along = k / (POINTS - 1);
      const off =
        aside * pressure * (GATHERED + (1 - GATHERED) * along) + stray * Math.sin(2 * Math.PI * waves * along + phase);
      const left = 1 - k / last;
      return { x: (x + off * acrossX) / aspect, y: y + off * acrossY, pressure: TIP + (1 - TIP) * left };
    });
    return { points };
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
  steps.forEach((step, k) => {
    const [a, b] = [steps[Math.max(0, k - 2)], steps[Math.min(POINTS - 1, k + 2)]];
    const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    step.acrossX = -(b.y - a.y) / length;
    step.acrossY = (b.x - a.x) / length;
  });
  return steps;
}
