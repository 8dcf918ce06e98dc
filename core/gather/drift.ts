import { medianOf } from '../screen/statistics.ts';
import { patternDistance, type Signs } from './setups.ts';

/** Changes inside a setup that nobody meant: from which frame on, and what they look like. */

export type DriftKind = 'exposure' | 'whiteBalance' | 'lamp' | 'camera' | 'moved' | 'cloth';
export const driftFacts: Record<DriftKind, { label: string; remedy: string }> = {
  exposure: {
    label: 'brighter or darker by the camera’s own exposure',
    remedy: 'Set the exposure by hand; what is there can be brought back by the same steps.',
  },
  whiteBalance: {
    label: 'the colour of the light changed',
    remedy: 'Set the white balance by hand, and look for a lamp of another colour, or daylight.',
  },
  lamp: {
    label: 'the light falls in another way, as with a lamp out or moved',
    remedy: 'Look at the lamps from the side that lost light; the frames from here on need settings of their own.',
  },
  camera: {
    label: 'the screen’s border moved in the frame, as when the camera was knocked',
    remedy: 'Set the camera back by the first frames; a plate of before does not fit any more.',
  },
  moved: {
    label: 'a lamp or the camera moved a little: the light on the screen is shifted',
    remedy: 'Compare where the camera and the lamps stand with the first frames; take the plate anew.',
  },
  cloth: {
    label: 'the pattern on the screen changed at some places, as when the cloth was pulled',
    remedy: 'Smooth the cloth; take the plate anew.',
  },
};

export interface Drift {
  kind: DriftKind;
  /** The frame where it begins. */
  frameId: number;
  /** Steps of light, chromaticity, or share of the frame, by its kind. */
  by: number;
}

/**
 * What a reading must change by: so many times what it usually differs by from frame to frame in the setup, but never
 * less than the first nor more than the second bound.
 */
export const bounds = {
  times: 6,
  /** Steps of light, beyond what the camera's settings explain. */
  level: [0.1, 0.25],
  /** Distance in chromaticity. */
  tint: [0.008, 0.015],
  /** Root mean square of the pattern, steps. */
  pattern: [0.015, 0.12],
  /** Share of the frame by which the screen's border moves. */
  border: [0.012, Infinity],
  /** A change of the pattern less than this counts only with one of the level: people throw light, too. */
  plain: 0.05,
  /** From here on a smooth change of the pattern is a lamp's; below, something moved a little. */
  lamp: 0.1,
  /** Of a lamp's change the part that runs smoothly over the frame. */
  smooth: 0.6,
  /** Frames before and after that are compared: what does not stay is no drift. */
  window: 3,
};

/** What of a frame is compared. */
interface Reading {
  level: number;
  r: number;
  b: number;
  grid: number[];
  border: number[];
}

/**
 * Where the frames of one setup change and stay changed.
 * @param frames in the order of time; those without a screen say nothing.
 */
export function driftsOf(frames: readonly Signs[]): Drift[] {
  const seen = frames.flatMap((frame) => (frame.screen ? [{ id: frame.id, reading: readingOf(frame) }] : []));
  const least = leastChange(seen.map(({ reading }) => reading));
  const out: Drift[] = [];
  const { window } = bounds;
  let n = 1;
  while (n < seen.length) {
    const before = middle(seen.slice(Math.max(0, n - window), n).map(({ reading }) => reading));
    const following = seen.slice(n, n + window).map(({ reading }) => reading);
    // It begins with a frame that is changed itself, and stays.
    const here = changesOf(before, seen[n].reading, least);
    const stays = changesOf(before, middle(following), least);
    const both = stays.find(({ kind }) => here.some((change) => change.kind === kind));
    if (both && following.length > 1) {
      out.push({ ...both, frameId: seen[n].id });
      n += window;
    } else n++;
  }
  return out;
}

interface Change {
  level: number;
  tint: number;
  pattern: number;
  border: number;
}

function differenceOf(before: Reading, after: Reading): Change {
  return {
    level: after.level - before.level,
    tint: Math.hypot(after.r - before.r, after.b - before.b),
    pattern: patternDistance(before.grid, after.grid),
    border: Math.max(...before.border.map((v, n) => Math.abs(after.border[n] - v))),
  };
}

/** From what the readings usually differ by from one frame to the next. */
function leastChange(readings: readonly Reading[]): Change {
  const steps = readings.slice(1).map((reading, n) => differenceOf(readings[n], reading));
  const least = (field: keyof Change): number => {
    const usual = steps.length ? medianOf(steps.map((step) => Math.abs(step[field]))) : 0;
    const [low, high] = bounds[field];
    return Math.min(high, Math.max(low, bounds.times * usual));
  };
  return { level: least('level'), tint: least('tint'), pattern: least('pattern'), border: least('border') };
}

function readingOf({ screen, exposure }: Signs): Reading {
  if (!screen) throw new Error('no screen');
  const { missing } = screen;
  return {
    level: screen.level - (exposure ?? 0),
    r: screen.chroma[0],
    b: screen.chroma[1],
    grid: screen.grid,
    border: [missing.left, missing.right, missing.top, missing.bottom],
  };
}

function middle(readings: readonly Reading[]): Reading {
  const of = (pick: (reading: Reading) => number): number => medianOf(readings.map(pick));
  return {
    level: of(({ level }) => level),
    r: of(({ r }) => r),
    b: of(({ b }) => b),
    grid: readings[0].grid.map((_, n) => of(({ grid }) => grid[n])),
    border: readings[0].border.map((_, n) => of(({ border }) => border[n])),
  };
}

/** What changed, the most telling first: a pattern of light says more than its level alone. */
function changesOf(before: Reading, after: Reading, least: Change): { kind: DriftKind; by: number }[] {
  const { level, tint, pattern, border } = differenceOf(before, after);
  const found: { kind: DriftKind; by: number }[] = [];
  if (tint > least.tint) found.push({ kind: 'whiteBalance', by: tint });
  if (border > least.border) found.push({ kind: 'camera', by: border });
  const lighter = Math.abs(level) > least.level;
  if (pattern > Math.max(bounds.plain, least.pattern)) {
    const smooth = smoothShare(after.grid.map((v, n) => v - before.grid[n])) >= bounds.smooth;
    found.push({ kind: smooth ? (pattern >= bounds.lamp ? 'lamp' : 'moved') : 'cloth', by: pattern });
  } else if (lighter)
    found.push(pattern > least.pattern ? { kind: 'moved', by: pattern } : { kind: 'exposure', by: level });
  return found;
}

/** Share of a change over the grid that a plane through it explains. */
function smoothShare(change: readonly number[], columns = 6): number {
  const rows = change.length / columns;
  const mean = change.reduce((sum, v) => sum + v, 0) / change.length;
  let [sx, sy, xx, yy, total] = [0, 0, 0, 0, 0];
  change.forEach((v, n) => {
    const x = (n % columns) - (columns - 1) / 2;
    const y = Math.floor(n / columns) - (rows - 1) / 2;
    sx += (v - mean) * x;
    sy += (v - mean) * y;
    xx += x * x;
    yy += y * y;
    total += (v - mean) ** 2;
  });
  return total > 0 ? (sx ** 2 / xx + sy ** 2 / yy) / total : 1;
}
