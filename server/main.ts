import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readFile, realpath, rm } from 'node:fs/promises';
import type { Server } from 'node:http';
import { createServer as createSocket } from 'node:net';
import { availableParallelism } from 'node:os';
import { join, resolve } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { healthSchema } from '../contract/index.ts';
import { createApp } from './app.ts';
import { connect } from './database/connect.ts';
import { startMariadb } from './database/mariadb.ts';
import { DatabaseWatch } from './database/watch.ts';
import { Events } from './events.ts';
import { faultOf } from './faults.ts';
import { listener } from './http/listener.ts';
import { Arriving } from './jobs/arriving.ts';
import { DatabaseQueue } from './jobs/databaseQueue.ts';
import { Progress } from './jobs/progress.ts';
import { JobRunner } from './jobs/runner.ts';
import { openLog } from './log.ts';
import { News } from './news.ts';
import { readMissing } from './stations/gather/factsJob.ts';
import { Watcher } from './stations/gather/watcher.ts';
import { signAddress, startSign } from './sign/sign.ts';
import { startPrintService } from './standIn/printService.ts';
import { nameCuts } from './stations/extract/nameCuts.ts';
import { ensureSample, usualSample, type SampleOptions } from './stations/shoots/sample.ts';
import { purgeShoots } from './stations/shoots/shoots.ts';
import { LocalStore } from './store/localStore.ts';
import { purgeBackgrounds } from './stations/place/backgrounds.ts';
import { sweep, sweepDaily } from './store/sweep.ts';
import { writeWhole } from './store/writeWhole.ts';
import { Pools } from './threads/pools.ts';
import { dropOldUploads } from './uploads/uploads.ts';

const DEFAULT_PORT = 4310;
const DAY = 24 * 3_600_000;
/** How often shoots are looked for that were removed long enough ago, ms. */
const PURGE_EVERY = 30_000;
/** How long a start waits for a server that may just be ending. */
const ENDING_SECONDS = 8;

/** Starts everything and returns how to end it. @throws Error that says in words why it does not start. */
export async function start(root: string): Promise<{ address: string; stop: () => Promise<void> }> {
  const signAt = signAddress(process.env.SIGN);
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
  await nameCuts(database);
  const store = new LocalStore(join(dataFolder, 'store'));
  await store.clearTemporary();
  const cores = availableParallelism();
  const progress = new Progress();
  const news = new News(database, events, progress, cores);
  const queue = new DatabaseQueue(database);
  const pools = new Pools(store.at, cores);
  const service = await startPrintService(join(dataFolder, 'print-service'));
  const hands = { database, store, queue, events, arriving: new Arriving(), printService: service.address };
  const runner = new JobRunner(hands, pools, news, progress, log);
  const sample = sampleOptions(process.env);
  const instance = randomUUID();
  const context = {
    ...hands,
    mariadb,
    instance,
    news,
    runner,
    pools,
    progress,
    sample: sample ?? usualSample,
    log,
    databaseWatch,
  };
  const server = listener(createApp(context, join(root, 'dist', 'web')));
  const port = await listen(server);
  const address = `http://127.0.0.1:${port}/`;
  // Without the sign everything else works.
  const sign =
    signAt &&
    (await startSign(database, signAt).catch((error: Error) => {
      console.log(error.message);
      return undefined;
    }));
  if (sign && signAt)
    console.log(
      `The sign for the set, words alone, for everybody in this network: http://${signAt.host}:${signAt.port}/`,
    );
  await writeWhole(instanceFile(dataFolder), Buffer.from(JSON.stringify({ instance, address })));
  if (sample) await ensureSample(hands, sample);
  await hands.database.transaction((tx) => readMissing(tx, hands.queue));
  runner.wake();
  const watcher = new Watcher(context);
  watcher.start();
  const soften = (what: string) => (error: Error) => log.warn({ err: error }, what);
  const endSweeps = sweepDaily(() =>
    Promise.all([sweep(database, store), queue.forget(DAY), dropOldUploads(store)]).then(
      ([removed]) => removed && log.info({ removed }, 'Stored files that nothing refers to were removed'),
      soften('The store could not be swept'),
    ),
  );
  const purge = setInterval(() => {
    void purgeShoots({ database, events }).catch(soften('Removed shoots could not be deleted'));
    void purgeBackgrounds({ database }).catch(soften('Removed backgrounds could not be deleted'));
  }, PURGE_EVERY);
  return {
    address,
    stop: async () => {
      clearInterval(purge);
      endSweeps();
      events.close();
      sign?.close();
      sign?.closeAllConnections();
      await watcher.stop();
      await runner.stop();
      await pools.stop();
      await service.close();
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

/** @returns undefined where no sample is wanted. */
function sampleOptions(environment: NodeJS.ProcessEnv): SampleOptions | undefined {
  const { SILENT_LAWN_DEMO: extent, SILENT_LAWN_DEMO_HEIGHT: height, SILENT_LAWN_DEMO_FRAMES: perSetup } = environment;
  if (extent === 'off') return undefined;
  return {
    extent: extent === 'pictures' ? 'pictures' : usualSample.extent,
    height: Number(height) || usualSample.height,
    perSetup: Number(perSetup) || usualSample.perSetup,
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
 * Two servers must not share a data folder. Whoever starts holds a name of the system's that goes with the process, so
 * that what a killed server left behind does not count. One that is just ending is waited for; one that is just
 * starting is told from it by its address.
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

/**
 * A name that one process at a time can hold; undefined if another does. Only Linux has such names; elsewhere nobody
 * else holds it.
 */
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
