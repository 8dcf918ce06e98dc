import { availableParallelism } from 'node:os';
import { eq } from 'drizzle-orm';
import { Piscina } from 'piscina';
import type { Database } from '../database/connect.ts';
import { readBatches, readDeliveries, readFrames, readInstructions, type MadeWith } from '../database/queries.ts';
import { backgrounds, batches, cuts, deliveries, frames, placements, setups } from '../database/schema.ts';
import type { Events } from '../events.ts';
import type { Store } from '../store/store.ts';
import { claimJob, LEASE_SECONDS, releaseJob, renewLease, type ClaimedJob } from './claim.ts';
import { finishJob } from './finishJob.ts';
import type { Answer, Task } from './tasks.ts';

/** How often an idle runner looks for jobs whose holder died. */
const POLL_MS = 2000;

/** Worker threads that load TypeScript as the main thread does. */
export function createWorkers(threads: number, file: URL): Piscina<Task, Answer> {
  return new Piscina({ filename: file.href, minThreads: 0, maxThreads: threads, idleTimeout: 30000, execArgv: ['--import', import.meta.resolve('tsx')] });
}

/** Takes jobs from the database and has them done by worker threads, as many at once as there are cores. */
export class JobRunner {
  readonly workers = availableParallelism();
  private readonly pool = createWorkers(this.workers, new URL('./tasks.ts', import.meta.url));
  private readonly running = new Map<number, { job: ClaimedJob; abort: AbortController; ended: Promise<void> }>();
  private readonly poll = setInterval(() => this.wake(), POLL_MS);
  private readonly renew = setInterval(() => void this.renewAll(), (LEASE_SECONDS * 1000) / 4);
  private filling = false;
  private again = false;
  private stopping = false;

  constructor(
    private readonly database: Database,
    private readonly store: Store,
    private readonly storeFolder: string,
    private readonly events: Events,
  ) {}

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
      if (!this.stopping) console.error('The job queue could not be read:', (error as Error).message);
    } finally {
      this.filling = false;
    }
  }

  private async work(job: ClaimedJob, abort: AbortController): Promise<void> {
    try {
      await this.announce(job);
      const prepared = await this.prepare(job);
      const answer = 'ok' in prepared ? prepared : await this.run(prepared.task, job, abort);
      await finishJob(this.database, this.store, job, prepared.made, answer);
    } catch (error) {
      if (abort.signal.aborted) await releaseJob(this.database, job);
      // A fault of the database is no verdict on the frame: the lease runs out and the job is taken once more.
      else console.error(`Job ${job.id} could not be finished and will be tried again:`, (error as Error).message);
    } finally {
      this.running.delete(job.id);
      if (!this.stopping) {
        await this.announce(job).catch(() => undefined);
        this.wake();
      }
    }
  }

  /** A worker that broke (out of memory, a fault of ours) fails the job in words; one that was told to end throws. */
  private async run(task: Task, job: ClaimedJob, abort: AbortController): Promise<Answer> {
    try {
      return await this.pool.run(task, { signal: abort.signal });
    } catch (error) {
      if (abort.signal.aborted) throw error;
      console.error(`Job ${job.id} broke off:`, error);
      return { ok: false, reason: `the work on it broke off (${(error as Error).message})`, remedy: 'Try it again; if it fails again, export the frame at a smaller size.' };
    }
  }

  private async prepare(job: ClaimedJob): Promise<{ task: Task; made: MadeWith } | { ok: false; reason: string; remedy: string; made: MadeWith }> {
    const [row] = await this.database
      .select({ frame: frames, setup: setups, batch: batches, cut: cuts, placement: placements, background: backgrounds.file })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .innerJoin(batches, eq(batches.id, job.batchId))
      .leftJoin(cuts, eq(cuts.frameId, frames.id))
      .leftJoin(placements, eq(placements.frameId, frames.id))
      .leftJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
      .where(eq(frames.id, job.frameId));
    const made = await readInstructions(this.database, row.frame, row.setup);
    const common = { store: this.storeFolder, photograph: row.frame.file };
    if (row.batch.kind === 'cut') return { task: { kind: 'cut', ...common, recipe: made.recipe, guidance: made.guidance, plate: made.plate, litBy: made.litBy }, made };
    const [delivery] = await this.database.select().from(deliveries).where(eq(deliveries.batchId, job.batchId));
    const { settings } = delivery;
    if (!row.cut) return { ok: false, reason: 'it has not been cut yet', remedy: 'Cut it, then deliver again.', made };
    if (settings.finished !== 'none' && (!row.placement || !row.background)) return { ok: false, reason: 'no background has been chosen for it', remedy: 'Choose one at Place, then deliver again.', made };
    return {
      made,
      task: {
        kind: 'deliver',
        ...common,
        recipe: { ...made.recipe, ...row.cut.recipe },
        guidance: row.cut.guidance,
        plate: row.cut.plate,
        litBy: row.cut.recipe.bounce > 0 && row.placement && row.background ? { background: row.background, placement: row.placement } : null,
        cut: { file: row.cut.file, depth: row.cut.depth === 16 ? 16 : 8 },
        cutout: settings.cutout === 'none' ? null : settings.cutout,
        finished: settings.finished === 'none' || !row.placement ? null : { format: settings.finished, quality: settings.quality, background: row.background as string, placement: row.placement },
      },
    };
  }

  /** Tells the pages how frame and batch stand. */
  private async announce(job: ClaimedJob): Promise<void> {
    const [batch] = await readBatches(this.database, this.workers, { batchId: job.batchId });
    if (!batch) return;
    this.events.send({ type: 'batch', shootId: batch.shootId, batch });
    if (batch.kind === 'deliver') {
      for (const delivery of await readDeliveries(this.database, this.workers, { batchId: batch.id })) this.events.send({ type: 'delivery', shootId: batch.shootId, delivery });
      return;
    }
    const [frame] = await readFrames(this.database, { frameIds: [job.frameId] });
    if (frame) this.events.send({ type: 'frame', shootId: batch.shootId, frame });
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
