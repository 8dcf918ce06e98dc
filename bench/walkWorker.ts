import { defaultRecipe, noGuidance, type Guidance, type Path } from '../core/cut/index.ts';
import { StagedCut } from '../core/cut/stagedCut.ts';
import type { EncodedRaster, Plane } from '../core/image/raster.ts';
import { minutesLeft, noReview, type Review } from '../core/touch/review.ts';
import { answered, questionsOf, settledBy, zoneOf } from '../core/touch/walk.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import { framesOf, type SetName } from './sets.ts';
import '../server/kernels.ts';

export interface WalkOrder {
  set: SetName;
  folder?: string;
  index: number;
  /** Answers that may be given. */
  most: number;
}
export interface WalkResult {
  name: string;
  what: string;
  /** Mean squared error of coverage over the whole frame, ×1000, before any answer and after all. */
  before: number;
  after: number;
  /** Minutes foreseen before and after; questions asked, and those whose right answer changed something. */
  minutes: number;
  minutesAfter: number;
  asked: number;
  changed: number;
  /** What each answer that changed something brought, by doubt and answer. */
  gains: { kind: string; title: string; gain: number }[];
}

/** Walks through the doubtful places of a frame, answering each question with what brings the cut nearest to the truth. */
export default async function walk({ set, folder, index, most }: WalkOrder): Promise<WalkResult> {
  const bench = framesOf(set, folder)[index];
  const truth = await bench.load(false);
  const staged = new StagedCut(truth.frame, { persons: await findPersons(truth.frame) }, 1);
  const paths = new Map<string, Path>();
  const cutBy = (guidance: Guidance): EncodedRaster => {
    const cut = staged.cut(defaultRecipe, guidance, paths);
    if (!cut) throw new Error(`${bench.name}: no screen`);
    return cut;
  };
  let guidance = noGuidance;
  let error = errorOf(cutBy(guidance), truth.matte);
  const quality = staged.judge()?.quality;
  if (!quality) throw new Error(bench.name);
  const result: WalkResult = {
    name: bench.name,
    what: bench.what,
    before: error,
    after: error,
    minutes: quality.minutes,
    minutesAfter: 0,
    asked: 0,
    changed: 0,
    gains: [],
  };
  let review: Review = noReview;
  for (const question of questionsOf(quality, null).slice(0, most)) {
    result.asked++;
    let best = { error, guidance, title: '' };
    const path = `zone ${result.asked}`;
    paths.set(path, zoneOf(question.place));
    for (const answer of question.answers) {
      const next = answered(guidance, question, answer, quality.ledger, path, path);
      if (next === guidance) continue;
      const wrong = errorOf(cutBy(next), truth.matte);
      if (wrong < best.error) best = { error: wrong, guidance: next, title: answer.title };
    }
    if (best.guidance !== guidance) {
      result.changed++;
      result.gains.push({ kind: question.kind, title: best.title, gain: error - best.error });
    }
    ({ error, guidance } = best);
    const settled = [...review.settled, ...settledBy(quality, question, best.title === '')];
    review = { ...review, state: 'looked', settled };
  }
  result.after = error;
  const cut = { fingerprint: '', quality };
  result.minutesAfter = minutesLeft({ cut, review });
  return result;
}

function errorOf({ data }: { data: Uint8Array | Uint16Array }, { data: truth }: Plane): number {
  const white = data instanceof Uint16Array ? 65535 : 255;
  let sum = 0;
  for (let p = 0; p < truth.length; p++) sum += (data[p * 4 + 3] / white - truth[p]) ** 2;
  return (1000 * sum) / truth.length;
}
