import { setMaxListeners } from 'node:events';
import { and, eq } from 'drizzle-orm';
import { Piscina } from 'piscina';
import { defaultRecipe } from '../../core/cut/index.ts';
import { demoBackgrounds, demoFrames, demoScreens } from '../../core/studio/index.ts';
import type { Database } from '../database/connect.ts';
import { readFrames } from '../database/queries.ts';
import { backgrounds, frames, setups, shoots } from '../database/schema.ts';
import type { Events } from '../events.ts';
import { takenAt, type Rendered, type RenderTask } from './renderTask.ts';

export interface DemoProgress {
  done: number;
  total: number;
}

/** Frames are 1600×2400, backgrounds 1800×2400. */
const DEMO_HEIGHT = 2400;

/**
 * Makes what is missing of the demo shoot, picture by picture in worker threads, so that a start that was broken off
 * goes on where it stopped and the first pictures can be used while the rest is rendered.
 */
export async function loadDemo(database: Database, storeFolder: string, events: Events, progress: DemoProgress, threads: number, signal: AbortSignal, height = DEMO_HEIGHT): Promise<void> {
  const { shootId, setupIds } = await ensureShoot(database);
  const wanted: RenderTask[] = [];
  for (const { name, title } of demoBackgrounds) {
    const [there] = await database.select({ id: backgrounds.id }).from(backgrounds).where(eq(backgrounds.name, title));
    if (!there) wanted.push({ kind: 'background', name, store: storeFolder, height });
  }
  for (const { name, setup } of demoFrames) {
    const [there] = await database.select({ id: frames.id }).from(frames).where(and(eq(frames.setupId, setupIds[setup]), eq(frames.name, `${name}.jpg`)));
    if (!there) wanted.push({ kind: 'frame', name, store: storeFolder, height });
  }
  progress.total = demoFrames.length + demoBackgrounds.length;
  progress.done = progress.total - wanted.length;
  if (!wanted.length) return;
  // One listener for each picture that waits is meant, not leaked.
  setMaxListeners(0, signal);
  const pool = new Piscina<RenderTask, Rendered>({ filename: new URL('./renderTask.ts', import.meta.url).href, maxThreads: threads, execArgv: ['--import', import.meta.resolve('tsx')] });
  try {
    await Promise.all(
      wanted.map(async (task) => {
        const picture = await pool.run(task, { signal });
        if (task.kind === 'background') {
          await keepBackground(database, task.name, picture);
          events.send({ type: 'backgrounds' });
        } else {
          const frameId = await keepFrame(database, task.name, setupIds, picture);
          const [frame] = await readFrames(database, { frameIds: [frameId] });
          events.send({ type: 'frame', shootId, frame });
        }
        progress.done++;
        events.send({ type: 'shoots' });
      }),
    );
  } finally {
    await pool.destroy();
  }
}

async function ensureShoot(database: Database): Promise<{ shootId: number; setupIds: Record<keyof typeof demoScreens, number> }> {
  return database.transaction(async (tx) => {
    const [there] = await tx.select().from(shoots).where(eq(shoots.demo, true));
    const shootId = there?.id ?? (await tx.insert(shoots).values({ name: 'Saltmarsh Kite Meet', date: '2026-06-13', place: 'Saltmarsh, portrait tent', demo: true }))[0].insertId;
    const existing = await tx.select().from(setups).where(eq(setups.shootId, shootId));
    const ids = {} as Record<keyof typeof demoScreens, number>;
    for (const key of Object.keys(demoScreens) as (keyof typeof demoScreens)[]) {
      const name = demoScreens[key].title;
      ids[key] = existing.find((setup) => setup.name === name)?.id ?? (await tx.insert(setups).values({ shootId, name, recipe: defaultRecipe }))[0].insertId;
    }
    return { shootId, setupIds: ids };
  });
}

async function keepBackground(database: Database, name: string, picture: Rendered): Promise<void> {
  const title = demoBackgrounds.find((b) => b.name === name)?.title ?? name;
  await database.insert(backgrounds).values({ name: title, file: picture.file, width: picture.width, height: picture.height });
}

async function keepFrame(database: Database, name: string, setupIds: Record<keyof typeof demoScreens, number>, picture: Rendered): Promise<number> {
  const setup = demoFrames.find((f) => f.name === name)?.setup ?? 'tent';
  const [result] = await database.insert(frames).values({
    setupId: setupIds[setup],
    name: `${name}.jpg`,
    file: picture.file,
    bytes: picture.bytes,
    width: picture.width,
    height: picture.height,
    depth: 8,
    takenAt: takenAt(name).replace(':', '-').replace(':', '-').replace(' ', 'T'),
  });
  return result.insertId;
}
