import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { createReadStream } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Problem } from '../../../contract/index.ts';
import { setups, shoots, watchedFiles } from '../../database/schema.ts';
import { isDatabaseAway } from '../../faults.ts';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startCut } from '../extract/startCut.ts';
import { importFrame } from './frames.ts';

/** How often folders are looked at, ms. */
const EVERY = 1000;
/** Files under way: cameras and copying programs give them other names until they are whole. */
const UNDER_WAY = /^\.|\.(part|tmp|temp|crdownload|download)$/i;

interface Seen {
  bytes: number;
  modified: number;
}
type Watched = { id: number; shootId: number; folder: string; follow: boolean };

/** Takes frames from the watched folders of setups, each file once, when its size has stood still. */
export class Watcher {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private looking: Promise<void> = Promise.resolve();
  private stopped = false;
  /** How files that are not taken yet looked the time before, by setup and name. */
  private readonly before = new Map<string, Seen>();

  constructor(
    private readonly context: Context,
    private readonly every = EVERY,
  ) {}

  start(): void {
    this.timer = setTimeout(() => {
      this.looking = this.lookOnce()
        .catch((err: Error) => {
          if (!isDatabaseAway(err)) this.context.log.warn({ err }, 'Watched folders could not be looked at');
        })
        .then(() => void (this.stopped || this.start()));
    }, this.every);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.timer);
    await this.looking;
  }

  /** Looks at every folder once and takes what has stood still since the last time. */
  async lookOnce(): Promise<void> {
    const rows = await this.context.database
      .select({ id: setups.id, shootId: setups.shootId, folder: setups.watch, follow: setups.follow })
      .from(setups)
      .innerJoin(shoots, eq(shoots.id, setups.shootId))
      .where(and(isNotNull(setups.watch), isNull(shoots.removedAt)));
    for (const { folder, ...setup } of rows) {
      if (this.stopped) return;
      if (folder) await this.lookInto({ ...setup, folder });
    }
  }

  private async lookInto(setup: Watched): Promise<void> {
    // A card that was taken out comes back.
    const names = await readdir(setup.folder).catch(() => []);
    const candidates = names.filter((name) => !UNDER_WAY.test(name)).toSorted();
    if (!candidates.length) return;
    const done = await this.context.database.select().from(watchedFiles).where(eq(watchedFiles.setupId, setup.id));
    const known = new Map(done.map((file) => [file.name, file]));
    for (const name of candidates) {
      if (this.stopped) return;
      const there = await stat(join(setup.folder, name)).catch(() => undefined);
      if (!there?.isFile()) continue;
      const now: Seen = { bytes: there.size, modified: Math.round(there.mtimeMs) };
      if (same(known.get(name), now)) continue;
      const key = `${setup.id} ${name}`;
      const still = same(this.before.get(key), now);
      this.before.set(key, now);
      if (!still) continue;
      this.before.delete(key);
      await this.take(setup, name, now);
    }
  }

  private async take({ id, shootId, folder, follow }: Watched, name: string, seen: Seen): Promise<void> {
    const { context } = this;
    let problem: Problem | null = null;
    const result = await importFrame(context, id, name, createReadStream(join(folder, name))).catch(
      (error: unknown) => {
        // What is no fault of the file is tried again.
        if (!(error instanceof Refusal)) throw error;
        return { outcome: 'refused' as const, ...error.problem };
      },
    );
    if (result.outcome === 'refused') problem = { reason: result.reason, remedy: result.remedy };
    await context.database.transaction(async (tx) => {
      await tx
        .delete(watchedFiles)
        .where(and(eq(watchedFiles.setupId, id), sql`binary ${watchedFiles.name} = ${name}`));
      await tx.insert(watchedFiles).values({ setupId: id, name, ...seen, problem });
    });
    await context.news.tell(shootId, { setups: [id] });
    if (follow && result.outcome === 'stored') await startCut(context, id, [result.frame.id]);
  }
}

function same(a: Seen | undefined, b: Seen): boolean {
  return a?.bytes === b.bytes && a.modified === b.modified;
}
