import type { Account } from '../backup/dump.ts';
import type { Database } from '../database/connect.ts';
import type { DatabaseWatch } from '../database/watch.ts';
import type { Hands } from '../jobs/definition.ts';
import type { Progress } from '../jobs/progress.ts';
import type { JobRunner } from '../jobs/runner.ts';
import type { Log } from '../log.ts';
import type { News } from '../news.ts';
import type { SampleOptions } from '../stations/shoots/sample.ts';
import type { Pools } from '../threads/pools.ts';

/** What the routes work with. */
export interface Context extends Hands {
  instance: string;
  database: Database;
  /** How its own programs reach the database. */
  mariadb: Account;
  news: News;
  runner: JobRunner;
  progress: Progress;
  pools: Pools;
  sample: SampleOptions;
  log: Log;
  /** Whether the database answers, and a wait for it. */
  databaseWatch: Pick<DatabaseWatch, 'up' | 'whenUp'>;
}
