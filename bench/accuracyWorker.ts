import { cutFrame, defaultRecipe, type Method } from '../core/cut/index.ts';
import { benchCases } from './cases.ts';
import { measure, type Figures } from './measure.ts';
import { renderTruth } from './renderTruth.ts';
import '../server/kernels.ts';

/** Ways to cut that are compared: each method with its default settings, and unmixing with the plate. */
export type Way = Method | 'plate';
export const ways: Way[] = ['unmixing', 'plate', 'distance', 'difference', 'layers'];

export interface CaseResult {
  name: string;
  what: string;
  part: 'tuning' | 'reporting';
  figures: Record<Way, Figures>;
  /** Minutes by hand, foreseen for the default cut. */
  minutes: number;
}

/** Renders one case, photographs it as JPEG with halved chroma, cuts it in every way and compares with the truth. */
export default async function measureCase(index: number): Promise<CaseResult> {
  const bench = benchCases()[index];
  const truth = await renderTruth(bench);
  let minutes = 0;
  const figures = Object.fromEntries(
    ways.map((way) => {
      const recipe = { ...defaultRecipe, method: way === 'plate' ? defaultRecipe.method : way };
      const result = cutFrame(truth.frame, recipe, undefined, way === 'plate' ? { plate: truth.plate } : {});
      if (!result.ok) throw new Error(`${bench.name}: ${result.reason}`);
      if (way === 'unmixing') minutes = result.quality.minutes;
      return [way, measure(result.cutout, truth)];
    }),
  ) as Record<Way, Figures>;
  return { name: bench.name, what: bench.what, part: bench.part, figures, minutes };
}
