import type { Bench } from '../threads/bench.ts';
import { personsFile } from './keptPersons.ts';

/** The map of one stored photograph as a PNG; made once, then kept. */
export function findPersonsOf({ hash }: { hash: string }, { store }: Bench): Promise<Uint8Array> {
  return personsFile(store, hash);
}
