import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createApp } from '../server/app.ts';
import { Events } from '../server/events.ts';
import { JobRunner } from '../server/jobs/runner.ts';
import { silentLog } from '../server/log.ts';
import { News } from '../server/news.ts';
import { PersonPool } from '../server/persons/personPool.ts';
import { fixture, type Fixture } from './fixture.ts';

export interface Answer<T> {
  status: number;
  body: T;
}

export interface Served extends Fixture {
  runner: JobRunner;
  /** Where it listens, without a slash at the end. */
  address: string;
  /** Asks the interface below /api; a body that is no buffer goes as JSON. */
  call: <T = unknown>(method: string, path: string, body?: unknown) => Promise<Answer<T>>;
}

/** The application over HTTP on an emptied database, ended by `close`. */
export async function served(): Promise<Served> {
  const made = await fixture();
  const events = new Events();
  const persons = new PersonPool(made.storeFolder);
  const news = new News(made.database, events);
  const log = silentLog();
  const runner = new JobRunner(made.database, made.store, news, log);
  const databaseWatch = { up: true, whenUp: () => Promise.resolve() };
  const server = createServer(
    createApp(
      {
        instance: 'test',
        database: made.database,
        store: made.store,
        events,
        news,
        runner,
        persons,
        demo: { done: 0, total: 0 },
        log,
        databaseWatch,
      },
      made.storeFolder,
    ),
  );
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    ...made,
    runner,
    address,
    call: async <T>(method: string, path: string, body?: unknown): Promise<Answer<T>> => {
      const sent =
        body === undefined
          ? {}
          : Buffer.isBuffer(body)
            ? { headers: { 'content-type': 'application/octet-stream' }, body: new Uint8Array(body) }
            : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
      const response = await fetch(`${address}/api${path}`, { method, ...sent });
      const text = await response.text();
      return { status: response.status, body: (text ? JSON.parse(text) : undefined) as T };
    },
    close: async () => {
      events.close();
      await runner.stop();
      await persons.stop();
      server.close();
      server.closeAllConnections();
      await made.close();
    },
  };
}
