import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readFile, realpath, rm } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import { createServer as createSocket } from 'node:net';
import { join, resolve } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { healthSchema } from '../contract/index.ts';
import { createApp } from './app.ts';
import { connect } from './database/connect.ts';
import { startMariadb } from './database/mariadb.ts';
import { DatabaseWatch } from './database/watch.ts';
import { loadDemo } from './stations/shoots/loadDemo.ts';
import { Events } from './events.ts';
import { faultOf, inWords } from './faults.ts';
import { JobRunner } from './jobs/runner.ts';
import { openLog } from './log.ts';
import { News } from './news.ts';
import { PersonPool } from './persons/personPool.ts';
import { Store } from './store/store.ts';
import { sweep, sweepDaily } from './store/sweep.ts';
import { writeWhole } from './store/writeWhole.ts';

const DEFAULT_PORT = 4310;
/** How long a start waits for a server that may just be ending. */
const ENDING_SECONDS = 8;

/** Starts everything and returns how to end it. @throws Error that says in words why it does not start. */
export async function start(root: string): Promise<{ address: string; stop: () => Promise<void> }> {
  const dataFolder = resolve(process.env.SILENT_LAWN_DATA ?? join(root, '.data'));
  await prepareFolder(dataFolder);
  const release = await claimFolder(dataFolder);
  const log = await openLog(join(dataFolder, 'logs'));
  const mariadb = await startMariadb(join(dataFolder, 'mariadb'));
  const events = new Events();
  const databaseWatch = new DatabaseWatch(join(dataFolder, 'mariadb'), mariadb, log, (up) =>
    events.send({ type: 'database', up }),
  );
  const { database, close } = await connect(mariadb);
  const store = new Store(join(dataFolder, 'store'));
  await store.clearTemporary();
  const news = new News(database, events);
  const runner = new JobRunner(database, store, news, log);
  const persons = new PersonPool(store.folder);
  const demo = { done: 0, total: 0 };
  const instance = randomUUID();
  const server = createServer(
    createApp(
      { instance, database, store, events, news, runner, persons, demo, log, databaseWatch },
      join(root, 'dist', 'web'),
    ),
  );
  const port = await listen(server);
  const address = `http://127.0.0.1:${port}/`;
  await writeWhole(instanceFile(dataFolder), Buffer.from(JSON.stringify({ instance, address })));
  runner.wake();
  const endSweeps = sweepDaily(() =>
    sweep(database, store).then(
      (removed) => removed && log.info({ removed }, 'Stored files that nothing refers to were removed'),
      (error: Error) => log.warn({ err: error }, 'The store could not be swept'),
    ),
  );
  const demoAbort = new AbortController();
  const demoDone =
    process.env.SILENT_LAWN_DEMO === 'off'
      ? Promise.resolve()
      : loadDemo(
          database,
          store.folder,
          events,
          news,
          demo,
          runner.workers,
          demoAbort.signal,
          Number(process.env.SILENT_LAWN_DEMO_HEIGHT) || undefined,
          Number(process.env.SILENT_LAWN_DEMO_FRAMES) || undefined,
        ).catch((error: Error) => {
          if (!demoAbort.signal.aborted) log.error({ err: new Error(inWords(error)) }, 'The demo could not be made');
        });
  return {
    address,
    stop: async () => {
      demoAbort.abort();
      endSweeps();
      events.close();
      await runner.stop();
      await persons.stop();
      await demoDone;
      await close();
      await databaseWatch.stop();
      // Last, so that a start that follows at once waits for this end instead of meeting a database that goes away.
      await rm(instanceFile(dataFolder), { force: true });
      server.close();
      server.closeAllConnections();
      release();
    },
  };
}

/** @throws Error in words if the folder cannot be used. */
async function prepareFolder(dataFolder: string): Promise<void> {
  try {
    await mkdir(dataFolder, { recursive: true });
    await writeWhole(join(dataFolder, 'writable'), Buffer.from(''));
    await rm(join(dataFolder, 'writable'));
  } catch (error) {
    const fault = faultOf(error);
    throw new Error(
      `The data folder ${dataFolder} cannot be used: ${fault ? `${fault.problem.reason}. ${fault.problem.remedy}` : (error as Error).message} Another one is named by SILENT_LAWN_DATA.`,
      { cause: error },
    );
  }
}

function instanceFile(dataFolder: string): string {
  return join(dataFolder, 'running.json');
}

/**
 * Two servers must not share a data folder. Whoever starts holds a name of the system's that goes with the process, so that what a
 * killed server left behind does not count. One that is just ending is waited for; one that is just starting is told from it by its address.
 * @returns how to let go of it.
 */
async function claimFolder(dataFolder: string): Promise<() => void> {
  const end = Date.now() + ENDING_SECONDS * 1000;
  for (;;) {
    const held = await holdName(`silent-lawn ${await realpath(dataFolder)}`);
    const address = held ? await runningAddress(dataFolder) : undefined;
    if (held && !address) return () => void held.close();
    held?.close();
    if (Date.now() > end) {
      const where = await runningAddress(dataFolder);
      throw new Error(
        where
          ? `Silent Lawn already runs with this data folder at ${where} – use that, or stop it first.`
          : `Silent Lawn is already starting with the data folder ${dataFolder} – wait for it, or stop it first.`,
      );
    }
    await sleep(250);
  }
}

/** A name that one process at a time can hold; undefined if another does. Only Linux has such names; elsewhere nobody else holds it. */
function holdName(name: string): Promise<Holder | undefined> {
  if (process.platform !== 'linux') return Promise.resolve({ close: () => undefined });
  return new Promise((resolveHold, reject) => {
    const holder = createSocket();
    holder.once('error', (error: NodeJS.ErrnoException) =>
      error.code === 'EADDRINUSE' ? resolveHold(undefined) : reject(error),
    );
    // Names in this space hold at most a hundred bytes.
    holder.listen(`\0${createHash('sha256').update(name).digest('hex')}`, () => (holder.unref(), resolveHold(holder)));
  });
}
interface Holder {
  close(): unknown;
}

async function runningAddress(dataFolder: string): Promise<string | undefined> {
  try {
    const running = JSON.parse(await readFile(instanceFile(dataFolder), 'utf8')) as {
      instance: string;
      address: string;
    };
    const response = await fetch(`${running.address}api/health`, { signal: AbortSignal.timeout(3000) });
    return healthSchema.parse(await response.json()).instance === running.instance ? running.address : undefined;
  } catch {
    return undefined;
  }
}

/** Listens on the wanted port, or on the next free one and says so. */
async function listen(server: Server): Promise<number> {
  const wanted = Number(process.env.PORT) || DEFAULT_PORT;
  for (let port = wanted; port < wanted + 50; port++) {
    const ok = await new Promise<boolean>((resolveListen, reject) => {
      server.once('error', (error: NodeJS.ErrnoException) =>
        error.code === 'EADDRINUSE' ? resolveListen(false) : reject(error),
      );
      server.listen(port, '127.0.0.1', () => resolveListen(true));
    });
    if (!ok) continue;
    if (port !== wanted) console.log(`Port ${wanted} is taken; using ${port}.`);
    return port;
  }
  throw new Error(`All ports from ${wanted} to ${wanted + 49} are taken. Set PORT to a free one.`);
}
