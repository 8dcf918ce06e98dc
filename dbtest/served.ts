import type { AddressInfo } from 'node:net';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { Job } from '../contract/index.ts';
import { createApp } from '../server/app.ts';
import { jobs } from '../server/database/schema.ts';
import type { Unread } from '../server/database/sound.ts';
import { Events } from '../server/events.ts';
import type { Hands } from '../server/jobs/definition.ts';
import type { Context } from '../server/http/context.ts';
import { listener } from '../server/http/listener.ts';
import { Arriving } from '../server/jobs/arriving.ts';
import { DatabaseQueue } from '../server/jobs/databaseQueue.ts';
import { Progress } from '../server/jobs/progress.ts';
import { readJobs } from '../server/jobs/readJobs.ts';
import { JobRunner } from '../server/jobs/runner.ts';
import { silentLog } from '../server/log.ts';
import { News } from '../server/news.ts';
import { startPrintService, type PrintService, type ServiceOptions } from '../server/standIn/printService.ts';
import { usualSample } from '../server/stations/shoots/sample.ts';
import { Pools } from '../server/threads/pools.ts';
import { fixture, type Fixture } from './fixture.ts';

export interface Answer<T> {
  status: number;
  body: T;
}

export interface Served extends Fixture {
  context: Context;
  /** What its jobs work with. */
  hands: Hands;
  service: PrintService;
  runner: JobRunner;
  /** Where it listens, without a slash at the end. */
  address: string;
  /** Asks the interface below /api; a body that is no buffer goes as JSON. */
  call: <T = unknown>(method: string, path: string, body?: unknown) => Promise<Answer<T>>;
  /** Waits until no job is open. */
  idle: () => Promise<void>;
  /** Starts a job by a POST and waits for its end. */
  job: (path: string, body?: unknown) => Promise<Unread<Job>>;
}

/** The application over HTTP on a database of its own, ended by `close`. */
export async function served(print: ServiceOptions = {}): Promise<Served> {
  const made = await fixture();
  const { database, mariadb, store } = made;
  const events = new Events();
  const cores = availableParallelism();
  const progress = new Progress();
  const news = new News(database, events, progress, cores);
  const queue = new DatabaseQueue(database);
  const pools = new Pools(store.at, cores);
  const log = silentLog();
  const service = await startPrintService(join(made.storeFolder, '..', 'print-service'), print);
  const hands = { database, store, queue, events, arriving: new Arriving(), printService: service.address };
  const runner = new JobRunner(hands, pools, news, progress, log);
  const databaseWatch = { up: true, whenUp: () => Promise.resolve() };
  const sample = { ...usualSample, height: 120, perSetup: 2 };
  const context = { ...hands, mariadb, instance: 'test', news, runner, pools, progress, sample, log, databaseWatch };
  const server = listener(createApp(context, made.storeFolder));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const call = async <T>(method: string, path: string, body?: unknown): Promise<Answer<T>> => {
    const sent =
      body === undefined
        ? {}
        : Buffer.isBuffer(body)
          ? { headers: { 'content-type': 'application/octet-stream' }, body: new Uint8Array(body) }
          : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
    const response = await fetch(`${address}/api${path}`, { method, ...sent });
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : undefined) as T };
  };
  const idle = async (): Promise<void> => {
    const open = async (): Promise<number> =>
      (await database.select().from(jobs)).filter(({ state }) => state === 'queued' || state === 'running').length;
    for (let n = 0; await open(); n++) {
      if (n > 2400) throw new Error('jobs are still open after four minutes');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  };
  return {
    ...made,
    context,
    hands,
    service,
    runner,
    address,
    call,
    idle,
    job: async (path, body) => {
      const { status, body: started } = await call<Job>('POST', path, body);
      if (status !== 202) throw new Error(`${path}: ${JSON.stringify(started)}`);
      await idle();
      return (await readJobs(database, progress, { jobIds: [started.id] }))[0];
    },
    close: async () => {
      events.close();
      await runner.stop();
      await pools.stop();
      await service.close();
      server.close();
      server.closeAllConnections();
      await made.close();
    },
  };
}
