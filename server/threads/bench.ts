import type { Store } from '../store/store.ts';

/** What a task is done with. `tell` says which share of it is done, 0–1. */
export interface Bench {
  store: Store;
  tell: (share: number) => void;
}
