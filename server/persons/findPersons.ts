import { inputOf, joinLooks, looksAt, type PersonMap } from '../../core/persons/personMap.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { network } from './network.ts';

/** Where persons are in an upright sRGB frame; see PersonMap. About 0.2 s, whatever its size. */
export async function findPersons(frame: EncodedRaster): Promise<PersonMap> {
  const run = await network('persons');
  const looks = looksAt(frame.width, frame.height);
  const answers: Float32Array[] = [];
  for (const look of looks) answers.push((await run(inputOf(frame, look)))[0]);
  const map = joinLooks(frame.width, frame.height, looks, answers);
  // Kept as bytes: computed now or read from its file, it is the same.
  for (let p = 0; p < map.data.length; p++) map.data[p] = Math.round(255 * map.data[p]) / 255;
  return map;
}
