import type { Database } from '../database/connect.ts';
import { unused } from './unused.ts';
import type { Store } from './store.ts';

const HOUR = 3_600_000;
/** Files asked about at once. */
const AT_ONCE = 500;

/**
 * Removes stored files that no row names: what a kill between file and row left behind. Never one that is younger than
 * an hour, which may belong to work under way.
 * @returns how many were removed.
 */
export async function sweep(database: Database, store: Store, age = HOUR): Promise<number> {
  const files = await store.olderThan(age);
  let removed = 0;
  for (let n = 0; n < files.length; n += AT_ONCE) {
    await store.exclusive(async () => {
      for (const file of await unused(database, files.slice(n, n + AT_ONCE))) {
        await store.remove(file);
        removed++;
      }
    });
  }
  return removed;
}

/** Sweeps now and then daily. @returns how to stop. */
export function sweepDaily(work: () => Promise<unknown>): () => void {
  void work();
  const timer = setInterval(() => void work(), 24 * HOUR);
  return () => clearInterval(timer);
}
