import { medianOf } from '../screen/statistics.ts';
import { patternDistance, type Signs } from './setups.ts';

/** Changes inside a setup that nobody meant: from which frame on, and what they look like. */

export type DriftKind = 'exposure' | 'whiteBalance' | 'lamp' | 'camera' | 'cloth';
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

export const bounds = {
  /** Steps of light by which the screen's level must change, beyond what the camera's settings explain. */
  level: 0.25,
  chroma: 0.012,
  /** Root mean square of the pattern, steps; and its largest place, where only some places change. */
  pattern: 0.12,
  /** Of a lamp's change the part that runs smoothly over the frame. */
  smooth: 0.6,
  /** Share of the frame by which its border moves. */
  border: 0.012,
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
  const out: Drift[] = [];
  const { window } = bounds;
  let n = 1;
  while (n < seen.length) {
    const before = middle(seen.slice(Math.max(0, n - window), n).map(({ reading }) => reading));
    const after = middle(seen.slice(n, n + window).map(({ reading }) => reading));
    // It begins with a frame that is changed itself, and stays.
    const here = changeOf(before, seen[n].reading);
    const stays = changeOf(before, after);
    if (here && stays && here.kind === stays.kind && seen.length - n >= Math.min(2, seen.length - 1)) {
      out.push({ kind: stays.kind, frameId: seen[n].id, by: stays.by });
      n += window;
    } else n++;
  }
  return out;
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

function changeOf(before: Reading, after: Reading): { kind: DriftKind; by: number } | undefined {
  const moved = Math.max(
    ...before.border.map((v, n) => (v > 0 || after.border[n] > 0 ? Math.abs(after.border[n] - v) : 0)),
  );
  if (moved > bounds.border) return { kind: 'camera', by: moved };
  const pattern = patternDistance(before.grid, after.grid);
  if (pattern > bounds.pattern) {
    const change = after.grid.map((v, n) => v - before.grid[n]);
    return smoothShare(change) >= bounds.smooth ? { kind: 'lamp', by: pattern } : { kind: 'cloth', by: pattern };
  }
  const tint = Math.hypot(after.r - before.r, after.b - before.b);
  if (tint > bounds.chroma) return { kind: 'whiteBalance', by: tint };
  const level = after.level - before.level;
  if (Math.abs(level) > bounds.level) return { kind: 'exposure', by: level };
  return undefined;
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
