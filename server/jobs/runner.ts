import { setTimeout as sleep } from 'node:timers/promises';
import { eq } from 'drizzle-orm';
import { Piscina } from 'piscina';
import type { Database } from '../database/connect.ts';
import { readInstructions, type MadeWith } from '../database/queries.ts';
import { backgrounds, batches, cuts, deliveries, frames, placements, setups } from '../database/schema.ts';
import { faultOf, inWords, isDatabaseAway } from '../faults.ts';
import type { Log } from '../log.ts';
import type { News } from '../news.ts';
import type { Store } from '../store/store.ts';
import { claimJob, LEASE_SECONDS, MOST_ATTEMPTS, releaseJob, renewLease, type ClaimedJob } from './claim.ts';
import { failJob, FileGone, finishJob } from './finishJob.ts';
import type { Answer, Task } from './tasks.ts';

/** How often an idle runner looks for jobs whose holder died. */
const POLL_MS = 2000;
/** How often, and after how long, the result of a job is offered again to a database that is away. */
const OFFERS = 8;
const OFFER_AFTER = 1000;

/** Worker threads that load TypeScript as the main thread does. */
export function createWorkers(threads: number, file: URL): Piscina<Task, Answer> {
  return new Piscina({
    filename: file.href,
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: 30000,
    execArgv: ['--import', import.meta.resolve('tsx')],
  });
}

/** Takes jobs from the database and has them done by worker threads, as many at once as there are cores. */
export class JobRunner {
  readonly workers: number;
  private readonly pool: Piscina<Task, Answer>;
  private readonly running = new Map<number, { job: ClaimedJob; abort: AbortController; ended: Promise<void> }>();
  private readonly poll = setInterval(() => this.wake(), POLL_MS);
  private readonly renew = setInterval(() => void this.renewAll(), (LEASE_SECONDS * 1000) / 4);
  private filling = false;
  private again = false;
  private stopping = false;

  constructor(
    private readonly database: Database,
    private readonly store: Store,
    private readonly news: News,
    private readonly log: Log,
  ) {
    this.workers = news.workers;
    this.pool = createWorkers(this.workers, new URL('./tasks.ts', import.meta.url));
  }

  /** Looks for work now. */
  wake(): void {
    if (this.filling) this.again = true;
    else void this.fill();
  }

  /** Breaks off those of the given jobs that run here. */
  abort(batchId: number): void {
    for (const { job, abort } of this.running.values()) if (job.batchId === batchId) abort.abort();
  }

  /** Breaks off what runs and puts it back in the queue. */
  async stop(): Promise<void> {
    this.stopping = true;
    clearInterval(this.poll);
    clearInterval(this.renew);
    const ends = [...this.running.values()].map(({ abort, ended }) => (abort.abort(), ended));
    await Promise.all(ends);
    await this.pool.destroy();
  }

  private async fill(): Promise<void> {
    this.filling = true;
    try {
      do {
        this.again = false;
        while (!this.stopping && this.running.size < this.workers) {
          const job = await claimJob(this.database);
          if (!job) break;
          const abort = new AbortController();
          this.running.set(job.id, { job, abort, ended: this.work(job, abort) });
        }
      } while (this.again && !this.stopping);
    } catch (error) {
      if (!this.stopping)
        this.log[faultOf(error) ? 'warn' : 'error']({ err: error }, 'The job queue could not be read');
    } finally {
      this.filling = false;
    }
  }

  private async work(job: ClaimedJob, abort: AbortController): Promise<void> {
    try {
      await this.announce(job);
      const prepared = await this.prepare(job);
      const answer = 'ok' in prepared ? prepared : await this.run(prepared.task, abort);
      await this.finish(job, prepared.made, answer);
    } catch (error) {
      await this.putBack(job, error, abort.signal.aborted).catch((err: Error) =>
        this.log.warn({ err, job: job.id }, 'A job could not be put back; its lease runs out'),
      );
    } finally {
      this.running.delete(job.id);
      if (!this.stopping) {
        await this.announce(job).catch(() => undefined);
        this.wake();
      }
    }
  }

  /** Writes the result; a database that is away for a moment does not cost the work. */
  private async finish(job: ClaimedJob, made: MadeWith, answer: Answer): Promise<void> {
    for (let offer = 1; ; offer++) {
      try {
        return await finishJob(this.database, this.store, job, made, answer);
      } catch (error) {
        if (error instanceof FileGone || this.stopping || offer === OFFERS || !isDatabaseAway(error)) throw error;
        await sleep(OFFER_AFTER);
      }
    }
  }

  /** Has a task done by a worker. A full disk is no fault of the frame, and is said as it is. */
  private async run(task: Task, abort: AbortController): Promise<Answer> {
    try {
      return await this.pool.run(task, { signal: abort.signal });
    } catch (error) {
      const known = faultOf(error);
      if (!abort.signal.aborted && known?.status === 507) return { ok: false, ...known.problem };
      throw error;
    }
  }

  /**
   * Decides about a job that broke off. One that was told to end, whose file went meanwhile, or that a database lost that is away,
   * has not failed. Any other (a worker out of memory, a fault of ours) is tried again, and after some attempts fails in words, so
   * that it never runs for ever.
   */
  private async putBack(job: ClaimedJob, error: unknown, told: boolean): Promise<void> {
    if (told || error instanceof FileGone) return releaseJob(this.database, job);
    const attempts = job.attempts + 1;
    this.log.warn({ err: error, job: job.id, attempts }, 'The work on a frame broke off');
    // Its lease runs out; by then the database is back.
    if (isDatabaseAway(error)) return;
    if (attempts < MOST_ATTEMPTS) return releaseJob(this.database, job, attempts);
    const remedy =
      faultOf(error)?.problem.remedy ??
      'Cut it again; if it fails again, export the frame at a smaller size and send the log in the data folder to whoever looks after the program.';
    await failJob(this.database, job, {
      reason: `the work on it broke off ${MOST_ATTEMPTS} times (${inWords(error)})`,
      remedy,
    });
  }

  private async prepare(
    job: ClaimedJob,
  ): Promise<{ task: Task; made: MadeWith } | { ok: false; reason: string; remedy: string; made: MadeWith }> {
    const [row] = await this.database
      .select({
        frame: frames,
        setup: setups,
        batch: batches,
        cut: cuts,
        placement: placements,
        background: backgrounds.file,
      })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .innerJoin(batches, eq(batches.id, job.batchId))
      .leftJoin(cuts, eq(cuts.frameId, frames.id))
      .leftJoin(placements, eq(placements.frameId, frames.id))
      .leftJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
      .where(eq(frames.id, job.frameId));
    if (!row) throw new FileGone();
    const made = await readInstructions(this.database, row.frame, row.setup);
    const common = { store: this.store.folder, photograph: row.frame.file };
    if (row.batch.kind === 'cut')
      return {
        task: {
          kind: 'cut',
          ...common,
          recipe: made.recipe,
          guidance: made.guidance,
          plate: made.plate,
          litBy: made.litBy,
        },
        made,
      };
    const [delivery] = await this.database.select().from(deliveries).where(eq(deliveries.batchId, job.batchId));
    const { settings } = delivery;
    if (!row.cut) return { ok: false, reason: 'it has not been cut yet', remedy: 'Cut it, then deliver again.', made };
    return {
      made,
      task: {
        kind: 'deliver',
        ...common,
        recipe: { ...made.recipe, ...row.cut.recipe },
        guidance: row.cut.guidance,
        plate: row.cut.plate,
        litBy:
          row.cut.recipe.bounce > 0 && row.placement && row.background
            ? { background: row.background, placement: row.placement }
            : null,
        cut: { file: row.cut.file, depth: row.cut.depth === 16 ? 16 : 8 },
        cutout: settings.cutout === 'none' ? null : settings.cutout,
        // Who has no background yet has no finished picture; that is no failure.
        finished:
          settings.finished === 'none' || !row.placement || !row.background
            ? null
            : {
                format: settings.finished,
                quality: settings.quality,
                background: row.background,
                placement: row.placement,
              },
      },
    };
  }

  /** Tells the pages how frame and batch stand. */
  private async announce(job: ClaimedJob): Promise<void> {
    const [batch] = await this.database
      .select({ shootId: batches.shootId, deliveryId: deliveries.id })
      .from(batches)
      .leftJoin(deliveries, eq(deliveries.batchId, batches.id))
      .where(eq(batches.id, job.batchId));
    if (batch)
      await this.news.tell(batch.shootId, {
        batches: [job.batchId],
        ...(batch.deliveryId === null ? { frames: [job.frameId] } : { deliveries: [batch.deliveryId] }),
      });
  }

  private async renewAll(): Promise<void> {
    for (const { job, abort } of [...this.running.values()]) {
      try {
        if (!(await renewLease(this.database, job))) abort.abort();
      } catch {
        // The database is away for a moment; the lease outlasts several renewals.
      }
    }
  }
}
