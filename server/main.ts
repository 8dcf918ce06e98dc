import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import { join, resolve } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { healthSchema } from '../contract/index.ts';
import { createApp } from './app.ts';
import { connect } from './database/connect.ts';
import { startMariadb } from './database/mariadb.ts';
import { loadDemo } from './demo/loadDemo.ts';
import { Events } from './events.ts';
import { JobRunner } from './jobs/runner.ts';
import { PersonPool } from './persons/personPool.ts';
import { Store } from './store/store.ts';

const DEFAULT_PORT = 4310;
/** How long a start waits for a server that may just be ending. */
const ENDING_SECONDS = 8;

/** Starts everything and returns how to end it. */
export async function start(root: string): Promise<{ address: string; stop: () => Promise<void> }> {
  const dataFolder = resolve(process.env.SILENT_LAWN_DATA ?? join(root, '.data'));
  await mkdir(dataFolder, { recursive: true });
  await refuseSecondStart(dataFolder);
  const mariadb = await startMariadb(join(dataFolder, 'mariadb'));
  const { database, close } = await connect(mariadb);
  const storeFolder = join(dataFolder, 'store');
  const store = new Store(storeFolder);
  await store.clearTemporary();
  const events = new Events();
  const runner = new JobRunner(database, store, storeFolder, events);
  const persons = new PersonPool(storeFolder);
  const demo = { done: 0, total: 0 };
  const instance = randomUUID();
  const server = createServer(createApp({ instance, database, store, events, runner, persons, demo }, join(root, 'dist', 'web')));
  const port = await listen(server);
  const address = `http://127.0.0.1:${port}/`;
  await writeFile(instanceFile(dataFolder), JSON.stringify({ instance, address }));
  runner.wake();
  const demoAbort = new AbortController();
  const demoDone =
    process.env.SILENT_LAWN_DEMO === 'off'
      ? Promise.resolve()
      : loadDemo(database, storeFolder, events, demo, runner.workers, demoAbort.signal, Number(process.env.SILENT_LAWN_DEMO_HEIGHT) || undefined, Number(process.env.SILENT_LAWN_DEMO_FRAMES) || undefined).catch((error: Error) => {
          if (!demoAbort.signal.aborted) console.error('The demo could not be made:', error.message);
        });
  return {
    address,
    stop: async () => {
      demoAbort.abort();
      events.close();
      await runner.stop();
      await persons.stop();
      await demoDone;
      await close();
      await mariadb.stop();
      // Last, so that a start that follows at once waits for this end instead of meeting a database that goes away.
      await rm(instanceFile(dataFolder), { force: true });
      server.close();
      server.closeAllConnections();
    },
  };
}

function instanceFile(dataFolder: string): string {
  return join(dataFolder, 'running.json');
}

/**
 * Two servers must not share a data folder. What a killed server left behind does not count: nobody answers there. One
 * that is just ending is waited for.
 */
async function refuseSecondStart(dataFolder: string): Promise<void> {
  const end = Date.now() + ENDING_SECONDS * 1000;
  for (;;) {
    const address = await runningAddress(dataFolder);
    if (!address) return;
    if (Date.now() > end) throw new Error(`Silent Lawn already runs with this data folder at ${address} – use that, or stop it first.`);
    await sleep(250);
  }
}

async function runningAddress(dataFolder: string): Promise<string | undefined> {
  try {
    const running = JSON.parse(await readFile(instanceFile(dataFolder), 'utf8')) as { instance: string; address: string };
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
      server.once('error', (error: NodeJS.ErrnoException) => (error.code === 'EADDRINUSE' ? resolveListen(false) : reject(error)));
      server.listen(port, '127.0.0.1', () => resolveListen(true));
    });
    if (!ok) continue;
    if (port !== wanted) console.log(`Port ${wanted} is taken; using ${port}.`);
    return port;
  }
  throw new Error(`All ports from ${wanted} to ${wanted + 49} are taken. Set PORT to a free one.`);
}
