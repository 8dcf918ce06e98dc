import { expect, test } from 'vitest';
import { analysePrepared, bounds as analysis } from '../core/cut/analysis.ts';
import { bounds as beyond } from '../core/cut/beyond.ts';
import { bounds as candidates } from '../core/cut/candidates.ts';
import { bounds as hair } from '../core/cut/hair.ts';
import { defaultRecipe, solveMatte } from '../core/cut/index.ts';
import { bounds as kept } from '../core/cut/keptCloth.ts';
import { bounds as ledger } from '../core/cut/ledger.ts';
import { bounds as matte } from '../core/cut/matte.ts';
import { bounds as prepare, prepareFrame, type Prepared } from '../core/cut/prepare.ts';
import { bounds as sorting } from '../core/cut/regions.ts';
import { solverBounds as solver } from '../core/cut/solver.ts';
import { bounds as seenThrough } from '../core/cut/seenThrough.ts';
import { bounds as shaded } from '../core/cut/shaded.ts';
import { bounds as shadowedGaps } from '../core/cut/shadowedGaps.ts';
import { bounds as sheer } from '../core/cut/sheerCloth.ts';
import type { PersonMap } from '../core/persons/personMap.ts';
import { bounds as outline } from '../core/screen/outline.ts';
import { bounds as screen } from '../core/screen/screenModel.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import { generateTruth } from './generated.ts';
import { classes, sceneOf } from './generator/cases.ts';
import type { Truth } from './measure.ts';

/** Every threshold of the cut that is a number, by where it stands, with the frame in small on which it decides most. */
const anywhere = { analysis, prepare, beyond, candidates, hair, kept, matte, sorting, solver, shaded, outline, screen };
const frames = [
  { what: 'small screen, wall beyond', seed: 65, megapixels: 0.045, thresholds: anywhere },
  { what: 'cloth near the screen', seed: 64, megapixels: 0.045, thresholds: { ledger } },
  { what: 'dark, shadow on the screen', seed: 3, megapixels: 0.08, thresholds: { shadowedGaps } },
  { what: 'sheer cloth', seed: 70669, megapixels: 0.3, thresholds: { seenThrough, sheer } },
];
/** Shares and likelihoods come no nearer to 1 than half way when they are moved. */
const moved = (value: number, by: number): number => (value < 1 ? Math.min((1 + value) / 2, value * by) : value * by);

/** How much the mean squared error of coverage over the whole frame may grow, ×1000 and relative. */
const MOST_MORE = 0.4;
const MOST_RATIO = 1.2;

interface Known {
  truth: Truth;
  persons: PersonMap;
  prepared?: Prepared;
}

/** Thresholds that are asked before the settings have a say; all others work on what was prepared. */
const early: readonly string[] = ['prepare', 'shaded', 'shadowedGaps', 'outline', 'screen'];

function errorOf(known: Known, anew: boolean): number {
  const { truth, persons } = known;
  const prepared = anew
    ? prepareFrame(truth.frame, { persons })
    : (known.prepared ??= prepareFrame(truth.frame, { persons }));
  if (!prepared) return 1000;
  const { alpha } = solveMatte(truth.frame, analysePrepared(prepared, defaultRecipe), defaultRecipe);
  let sum = 0;
  truth.matte.data.forEach((a, p) => (sum += (alpha[p] / 65535 - a) ** 2));
  return (1000 * sum) / alpha.length;
}

test('each threshold moved by a fifth changes the result little', { timeout: 600_000 }, async () => {
  const worse: string[] = [];
  const deciding = new Set<string>();
  let tried = 0;
  for (const { what, seed, megapixels, thresholds } of frames) {
    const kind = classes.find((one) => one.what === what);
    if (!kind) throw new Error(what);
    const truth = await generateTruth(sceneOf(kind, seed, megapixels), false);
    const known: Known = { truth, persons: await findPersons(truth.frame) };
    const base = errorOf(known, false);
    for (const [part, bounds] of Object.entries(thresholds)) {
      for (const [name, value] of Object.entries(bounds) as [string, unknown][]) {
        if (typeof value !== 'number') continue;
        for (const by of [0.8, 1.2]) {
          Object.assign(bounds, { [name]: moved(value, by) });
          const error = errorOf(known, early.includes(part));
          if (error !== base) deciding.add(part);
          if (error > Math.max(base * MOST_RATIO, base + MOST_MORE))
            worse.push(`${part}.${name} × ${by}: ${error.toFixed(2)} instead of ${base.toFixed(2)}`);
          tried++;
        }
        Object.assign(bounds, { [name]: value });
      }
    }
  }
  expect(worse).toEqual([]);
  expect([...deciding].sort(), 'parts that decide something').toEqual(
    frames.flatMap(({ thresholds }) => Object.keys(thresholds)).sort(),
  );
  expect(tried).toBeGreaterThan(100);
});
