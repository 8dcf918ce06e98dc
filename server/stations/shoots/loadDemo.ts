import { setMaxListeners } from 'node:events';
import { and, eq } from 'drizzle-orm';
import { defaultRecipe } from '../../../core/cut/index.ts';
import { demoPlans, type Plan } from '../../../core/plan/index.ts';
import { demoBackgrounds, demoFrames, demoShot } from '../../../core/studio/index.ts';
import type { Database } from '../../database/connect.ts';
import { backgrounds, frames, plans, setups, shoots } from '../../database/schema.ts';
import type { Events } from '../../events.ts';
import type { News } from '../../news.ts';
import { renderPool } from '../../standIn/renderPool.ts';
import { truthFile, type Rendered, type RenderTask } from '../../standIn/renderTask.ts';

export interface DemoProgress {
  done: number;
  total: number;
}

/** Frames are 1600×2400, backgrounds 1800×2400. */
const DEMO_HEIGHT = 2400;

/**
 * Makes what is missing of the demo shoot, picture by picture in worker threads, so that a start that was broken off
 * goes on where it stopped and the first pictures can be used while the rest is rendered.
 * @param height of the frames in pixels. @param perSetup takes only the first frames of each setup, for tests.
 */
export async function loadDemo(
  database: Database,
  storeFolder: string,
  events: Events,
  news: News,
  progress: DemoProgress,
  threads: number,
  signal: AbortSignal,
  height = DEMO_HEIGHT,
  perSetup = Infinity,
): Promise<void> {
  const { shootId, setupIds } = await ensureShoot(database);
  const wanted: { name: string; task: RenderTask }[] = [];
  for (const { name, title } of demoBackgrounds) {
    const [there] = await database.select({ id: backgrounds.id }).from(backgrounds).where(eq(backgrounds.name, title));
    if (!there) wanted.push({ name, task: { kind: 'background', name, store: storeFolder, height } });
  }
  const chosen = demoFrames.filter((frame) => Number(frame.name.slice(-2)) <= perSetup);
  for (const frame of chosen) {
    const { name, setup } = frame;
    const [there] = await database
      .select({ id: frames.id })
      .from(frames)
      .where(and(eq(frames.setupId, setupIds[setup]), eq(frames.name, `${name}.jpg`)));
    if (!there)
      wanted.push({
        name,
        task: {
          kind: 'shot',
          ...demoShot(frame, height),
          takenAt: takenAt(name),
          store: storeFolder,
          truth: truthFile(storeFolder, name),
        },
      });
  }
  progress.total = chosen.length + demoBackgrounds.length;
  progress.done = progress.total - wanted.length;
  if (!wanted.length) return;
  // One listener for each picture that waits is meant, not leaked.
  setMaxListeners(0, signal);
  const pool = renderPool(threads);
  try {
    await Promise.all(
      wanted.map(async ({ name, task }) => {
        const picture = await pool.run(task, { signal });
        if (task.kind === 'background') {
          await keepBackground(database, name, picture);
          events.send({ type: 'backgrounds' });
        } else {
          const frameId = await keepFrame(database, name, setupIds, picture);
          await news.tell(shootId, { frames: [frameId] });
        }
        progress.done++;
        events.send({ type: 'shoots' });
      }),
    );
  } finally {
    await pool.destroy();
  }
}

type SetupIds = Record<'tent' | 'window', number>;

async function ensureShoot(database: Database): Promise<{ shootId: number; setupIds: SetupIds }> {
  return database.transaction(async (tx) => {
    const [there] = await tx.select().from(shoots).where(eq(shoots.demo, true));
    const shootId =
      there?.id ??
      (
        await tx
          .insert(shoots)
          .values({ name: 'Saltmarsh Kite Meet', date: '2026-06-13', place: 'Saltmarsh, portrait tent', demo: true })
      )[0].insertId;
    // By the order in which they were made: somebody may have given them other names.
    const existing = await tx.select().from(setups).where(eq(setups.shootId, shootId)).orderBy(setups.id);
    const ids = {} as SetupIds;
    for (const [n, [key, plan]] of (Object.entries(demoPlans()) as ['tent' | 'window', Plan][]).entries()) {
      const known = existing[n]?.id;
      ids[key] =
        known ?? (await tx.insert(setups).values({ shootId, name: plan.name, recipe: defaultRecipe }))[0].insertId;
      if (!known) await tx.insert(plans).values({ shootId, setupId: ids[key], plan });
    }
    return { shootId, setupIds: ids };
  });
}

async function keepBackground(database: Database, name: string, picture: Rendered): Promise<void> {
  const title = demoBackgrounds.find((b) => b.name === name)?.title ?? name;
  await database
    .insert(backgrounds)
    .values({ name: title, file: picture.file, width: picture.width, height: picture.height });
}

async function keepFrame(database: Database, name: string, setupIds: SetupIds, picture: Rendered): Promise<number> {
  const frame = demoFrames.find((f) => f.name === name);
  const setup = frame?.setup ?? 'tent';
  const [result] = await database.insert(frames).values({
    setupId: setupIds[setup],
    name: `${name}.jpg`,
    subject: frame?.who ?? '',
    file: picture.file,
    bytes: picture.bytes,
    width: picture.width,
    height: picture.height,
    depth: 8,
    takenAt: takenAt(name).replace(':', '-').replace(':', '-').replace(' ', 'T'),
  });
  return result.insertId;
}

/** The demo day: frames a few minutes apart, in the order of their numbers; as EXIF writes it. */
export function takenAt(name: string): string {
  const number = Number(name.slice(-4));
  const minutes = (number > 200 ? 14 * 60 : 11 * 60) + (number % 100) * 4;
  return `2026:06:13 ${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}:07`;
}
