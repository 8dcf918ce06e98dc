import type { Database } from '../database/connect.ts';
import type { DemoProgress } from '../demo/loadDemo.ts';
import type { Events } from '../events.ts';
import type { JobRunner } from '../jobs/runner.ts';
import type { PersonPool } from '../persons/personPool.ts';
import type { Store } from '../store/store.ts';

/** What the routes work with. */
export interface Context {
  instance: string;
  database: Database;
  store: Store;
  events: Events;
  runner: JobRunner;
  persons: PersonPool;
  demo: DemoProgress;
}
