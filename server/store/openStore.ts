import { LocalStore } from './localStore.ts';
import type { Store, StoreAt } from './store.ts';

/** The store at its place, as a worker thread opens it. */
export function openStore({ folder }: StoreAt): Store {
  return new LocalStore(folder);
}
