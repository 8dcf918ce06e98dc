import { factsOf, type FrameFacts } from '../../../core/gather/facts.ts';
import { decodePicture } from '../../pictures/decode.ts';
import { readSlate } from '../../pictures/readSlate.ts';
import { findFaces } from '../../persons/findFaces.ts';
import { keptPersons } from '../../persons/keptPersons.ts';
import type { Bench } from '../../threads/bench.ts';
import '../../kernels.ts';

export interface FactsInput {
  /** Hash of a stored photograph. */
  photograph: string;
}
export interface FactsOutput {
  facts: FrameFacts;
}

/** What a stored photograph shows. @throws PictureError if it is missing. */
export async function findFacts({ photograph }: FactsInput, { store }: Bench): Promise<FactsOutput> {
  const frame = await decodePicture(await store.need(photograph, 'this photograph'), 'frame');
  const [persons, faces, slate] = [
    await keptPersons(store, photograph, frame),
    await findFaces(frame),
    await readSlate(frame),
  ];
  return { facts: factsOf(frame, { persons, faces, slate }) };
}
