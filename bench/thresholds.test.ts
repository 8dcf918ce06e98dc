import { expect, test } from 'vitest';
import { bounds as analysis } from '../core/cut/analysis.ts';
import { bounds as beyond } from '../core/cut/beyond.ts';
import { bounds as hair } from '../core/cut/hair.ts';
import { cutFrame, defaultRecipe } from '../core/cut/index.ts';
import { bounds as kept } from '../core/cut/keptCloth.ts';
import { bounds as ledger } from '../core/cut/ledger.ts';
import { bounds as matte } from '../core/cut/matte.ts';
import { bounds as sorting } from '../core/cut/regions.ts';
import { bounds as shaded } from '../core/cut/shaded.ts';
import { whiteLevel } from '../core/image/raster.ts';
import type { PersonMap } from '../core/persons/personMap.ts';
import { bounds as outline } from '../core/screen/outline.ts';
import { bounds as screen } from '../core/screen/screenModel.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import { generateTruth } from './generated.ts';
import { classes, sceneOf } from './generator/cases.ts';
import type { Truth } from './measure.ts';

/** Every threshold of the cut that is a number, by where it stands. */
const thresholds = { analysis, beyond, hair, kept, ledger, matte, sorting, shaded, outline, screen };
/** Shares and likelihoods stay below 1 when they are moved. */
const moved = (value: number, by: number): number => (value <= 1 ? Math.min(1, value * by) : value * by);

/** Frames in small on which the thresholds decide something. */
const frames = [
  ['half-length', 61],
  ['cloth near the screen', 63],
  ['small screen, wall beyond', 65],
] as const;

/** How much the mean squared error of coverage over the whole frame may grow, ×1000 and relative. */
const MOST_MORE = 0.4;
const MOST_RATIO = 1.2;

interface Known {
  truth: Truth;
  persons: PersonMap;
}

function errorOf({ truth, persons }: Known): number {
  const cut = cutFrame(truth.frame, defaultRecipe, undefined, { persons });
  if (!cut.ok) return 1000;
  const white = whiteLevel(cut.cutout);
  let sum = 0;
  truth.matte.data.forEach((a, p) => (sum += (cut.cutout.data[p * 4 + 3] / white - a) ** 2));
  return (1000 * sum) / truth.matte.data.length;
}

test('each threshold moved by a fifth changes the result little', { timeout: 600_000 }, async () => {
  const known: Known[] = [];
  for (const [what, seed] of frames) {
    const kind = classes.find((one) => one.what === what);
    if (!kind) throw new Error(what);
    const truth = await generateTruth(sceneOf(kind, seed, 0.05), false);
    known.push({ truth, persons: await findPersons(truth.frame) });
  }
  const meanError = (): number => known.reduce((sum, one) => sum + errorOf(one), 0) / known.length;
  const base = meanError();
  const worse: string[] = [];
  let tried = 0;
  for (const [part, bounds] of Object.entries(thresholds)) {
    for (const [name, value] of Object.entries(bounds) as [string, unknown][]) {
      if (typeof value !== 'number') continue;
      for (const by of [0.8, 1.2]) {
        Object.assign(bounds, { [name]: moved(value, by) });
        const error = meanError();
        if (error > Math.max(base * MOST_RATIO, base + MOST_MORE)) worse.push(`${part}.${name} × ${by}: ${error.toFixed(2)} instead of ${base.toFixed(2)}`);
        tried++;
      }
      Object.assign(bounds, { [name]: value });
    }
  }
  expect(worse).toEqual([]);
  expect(tried).toBeGreaterThan(100);
});
