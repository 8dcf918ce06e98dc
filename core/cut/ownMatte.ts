import type { Matte } from './coverage.ts';

/** A matte made elsewhere, that a frame is cut with. */

/** What becomes of it: it takes the place of the solved coverage, takes away from it, or makes it solid. */
export const ownMatteUses = {
  instead: { title: 'In its place', words: 'coverage is the matte’s alone' },
  times: { title: 'Multiplied', words: 'what the matte leaves out goes, the rest is as it was solved' },
  core: { title: 'As core', words: 'what the matte covers is solid, the rest is as it was solved' },
} as const;
export type OwnMatteUse = keyof typeof ownMatteUses;

/** As a frame names it. */
export interface OwnMatte {
  /** Name of the stored file's content. */
  file: string;
  use: OwnMatteUse;
}

/** With its pixels, of any size. */
export interface OwnCoverage {
  width: number;
  height: number;
  /** 0–65535. */
  data: Uint16Array;
  use: OwnMatteUse;
}

/** A solved coverage with a matte made elsewhere. Neither is changed. */
export function withOwnMatte(matte: Matte, own: OwnCoverage | undefined): Matte {
  if (!own) return matte;
  const { width, height } = matte;
  const alpha = new Uint16Array(matte.alpha.length);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const given = sampleAt(own, ((x + 0.5) / width) * own.width - 0.5, ((y + 0.5) / height) * own.height - 0.5);
      const solved = matte.alpha[p];
      alpha[p] = Math.round(
        own.use === 'instead' ? given : own.use === 'times' ? (solved * given) / 65535 : Math.max(solved, given),
      );
    }
  // What is only taken from keeps the colour that it was solved with.
  return { ...matte, alpha, solved: own.use === 'times' ? matte.alpha : undefined };
}

function sampleAt({ width, height, data }: OwnCoverage, x: number, y: number): number {
  const cx = Math.min(width - 1, Math.max(0, x));
  const cy = Math.min(height - 1, Math.max(0, y));
  const [x0, y0] = [Math.floor(cx), Math.floor(cy)];
  const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
  const [fx, fy] = [cx - x0, cy - y0];
  const row = (v: number): number => data[v * width + x0] * (1 - fx) + data[v * width + x1] * fx;
  return row(y0) * (1 - fy) + row(y1) * fy;
}
