import { Store } from '../store/store.ts';
import { personsFile } from './keptPersons.ts';

/** What the thread is asked: the map of one stored photograph. */
export interface PersonTask {
  store: string;
  hash: string;
}

/** The entry point of the thread. */
export default async function run({ store, hash }: PersonTask): Promise<Uint8Array> {
  return personsFile(new Store(store), hash);
}
