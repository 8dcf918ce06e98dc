import type { Database } from '../database/connect.ts';
import type { DatabaseWatch } from '../database/watch.ts';
import type { DemoProgress } from '../stations/shoots/loadDemo.ts';
import type { Events } from '../events.ts';
import type { Log } from '../log.ts';
import type { News } from '../news.ts';
import type { JobRunner } from '../jobs/runner.ts';
import type { PersonPool } from '../persons/personPool.ts';
import type { Store } from '../store/store.ts';

/** What the routes work with. */
export interface Context {
  instance: string;
  database: Database;
  store: Store;
  events: Events;
  news: News;
  runner: JobRunner;
  persons: PersonPool;
  demo: DemoProgress;
  log: Log;
  /** Whether the database answers, and a wait for it. */
  databaseWatch: Pick<DatabaseWatch, 'up' | 'whenUp'>;
}
