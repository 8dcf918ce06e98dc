import { readFile } from 'node:fs/promises';
import { readCube, type Cube } from '../../../core/place/index.ts';
import { PictureError } from '../../pictures/decode.ts';
import type { Store } from '../../store/store.ts';

const lately = new Map<string, Cube>();

/** A table of the store; the last one that was read is kept. @throws PictureError if it is not there. */
export async function storedCube(file: string, store: Store): Promise<Cube> {
  const there = lately.get(file);
  if (there) return there;
  const read = readCube(await readFile(await store.need(file, 'the look-up table'), 'utf8'));
  if (!read.ok) throw new PictureError(`the look-up table cannot be read: ${read.reason}`, read.remedy);
  lately.clear();
  lately.set(file, read.cube);
  return read.cube;
}
