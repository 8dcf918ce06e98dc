import { cutFrame, defaultRecipe, type CutAlso, type Method, type Place } from '../core/cut/index.ts';
import type { Plane } from '../core/image/raster.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import { measure, type Figures } from './measure.ts';
import { framesOf, type SetName } from './sets.ts';
import '../server/kernels.ts';

/**
 * Ways to cut that are compared: each method with its default settings; unmixing with the plate, and without knowing
 * where persons are.
 */
export type Way = Method | 'plate' | 'alone';

export interface CaseOrder {
  set: SetName;
  folder?: string;
  index: number;
  ways: readonly Way[];
}

export interface CaseResult {
  name: string;
  what: string;
  part: 'tuning' | 'reporting';
  figures: Partial<Record<Way, Figures>>;
  /** Minutes by hand, foreseen for the default cut. */
  minutes: number;
  /** Area that is truly wrong, and that of it which lies in the places of a named doubt; pixels. */
  wrong: number;
  named: number;
}

/** Loads one frame, cuts it in every wanted way and compares with the truth. */
export default async function measureCase({ set, folder, index, ways }: CaseOrder): Promise<CaseResult> {
  const bench = framesOf(set, folder)[index];
  const truth = await bench.load(ways.includes('plate'));
  const persons = await findPersons(truth.frame);
  const result: CaseResult = {
    name: bench.name,
    what: bench.what,
    part: bench.part,
    figures: {},
    minutes: 0,
    wrong: 0,
    named: 0,
  };
  for (const way of ways) {
    const method = way === 'plate' || way === 'alone' ? defaultRecipe.method : way;
    const known: CutAlso = way === 'plate' ? { plate: truth.plate, persons } : way === 'alone' ? {} : { persons };
    const cut = cutFrame(truth.frame, { ...defaultRecipe, method }, undefined, known);
    if (!cut.ok) throw new Error(`${bench.name}: ${cut.reason}`);
    result.figures[way] = measure(cut.cutout, truth);
    if (way !== 'unmixing') continue;
    result.minutes = cut.quality.minutes;
    Object.assign(
      result,
      wrongIn(
        cut.cutout,
        truth.matte,
        cut.quality.doubts.flatMap(({ places }) => places),
      ),
    );
  }
  return result;
}

/** Coverage that is off by more than this shows. */
const SHOWS = 0.25;

/** How much coverage is off so far that it shows, and how much of that lies in one of the places; pixels. */
export function wrongIn(
  cut: { data: Uint8Array | Uint16Array },
  { width, height, data }: Plane,
  places: readonly Place[],
): { wrong: number; named: number } {
  const white = cut.data instanceof Uint16Array ? 65535 : 255;
  const inside = new Uint8Array(width * height);
  for (const { x, y, width: w, height: h } of places) {
    for (let row = Math.floor(y * height); row < Math.min(height, Math.ceil((y + h) * height)); row++)
      inside.fill(1, row * width + Math.floor(x * width), row * width + Math.min(width, Math.ceil((x + w) * width)));
  }
  let wrong = 0;
  let named = 0;
  for (let p = 0; p < data.length; p++) {
    if (Math.abs(cut.data[p * 4 + 3] / white - data[p]) <= SHOWS) continue;
    wrong++;
    named += inside[p];
  }
  return { wrong, named };
}
