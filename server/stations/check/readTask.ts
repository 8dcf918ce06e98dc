import { readFile } from 'node:fs/promises';
import type { Findings, MarksGiven, PictureKind } from '../../../contract/index.ts';
import { jpegFacts } from '../../../core/image/jpegFacts.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import type { Plan } from '../../../core/plan/index.ts';
import { checkSetup, plainReport, recogniseKind, type TargetKind } from '../../../core/screen/index.ts';
import { screenIn } from '../../../core/gather/facts.ts';
import type { Reference } from '../../../core/gather/setups.ts';
import { keptPersons } from '../../persons/keptPersons.ts';
import { decodePicture } from '../../pictures/decode.ts';
import type { Bench } from '../../threads/bench.ts';

/** The photographs of a round by their hashes, and what is known beside them. */
export interface ReadInput {
  pictures: Partial<Record<PictureKind, string>>;
  marks: MarksGiven;
  plan?: Plan;
  /** What the test frame with somebody, or else the empty screen, was taken with. */
  taken?: Omit<Reference, 'screen'>;
}
/** Path of a picture that has been checked. */
export interface RecogniseInput {
  path: string;
}
export type RecogniseOutput = { recognised: TargetKind | null };

/** What a picture of the set shows. */
export async function recognise({ path }: RecogniseInput): Promise<RecogniseOutput> {
  return { recognised: recogniseKind(await decodePicture(path, 'photograph')) ?? null };
}

/** Reads the photographs of a round. @throws PictureError if one of them is missing. */
export async function read({ pictures, marks, plan, taken }: ReadInput, { store, tell }: Bench): Promise<Findings> {
  const given = Object.keys(pictures).length;
  let opened = 0;
  const open = async (kind: PictureKind): Promise<EncodedRaster | undefined> => {
    const file = pictures[kind];
    if (!file) return undefined;
    const path = await store.need(file, 'this test frame');
    const picture = await decodePicture(path, kind === 'background' ? 'background' : 'photograph');
    // Reading takes about as long as opening all of them.
    tell(++opened / given / 2);
    return picture;
  };
  const frame = await open('people');
  const plate = await open('plate');
  const ball = await open('ball');
  const card = await open('grey card');
  const chart = await open('colour chart');
  const background = await open('background');
  const lead = pictures.plate ?? pictures.people;
  const jpeg = lead ? jpegFacts(await readFile(await store.need(lead, 'this test frame'))) : undefined;
  const report = plainReport(
    checkSetup({ frame, plate, ball, card, chart, background, marks, jpeg, plan }),
  ) as Findings;
  const shown = pictures.people && frame ? frame : plate;
  const persons = pictures.people && frame ? await keptPersons(store, pictures.people, frame) : undefined;
  const screen = taken && shown ? screenIn(shown, persons) : null;
  return taken && screen ? { ...report, reference: { ...taken, screen } } : report;
}
