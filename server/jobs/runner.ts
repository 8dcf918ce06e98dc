import { setTimeout as sleep } from 'node:timers/promises';
import type { JobKind } from '../../contract/index.ts';
import { faultOf, inWords, isDatabaseAway } from '../faults.ts';
import type { Log } from '../log.ts';
import type { Changed, News } from '../news.ts';
import { removeUnused } from '../store/unused.ts';
import type { Lane, Pools } from '../threads/pools.ts';
import type { Answer, Excuse, TaskKind } from '../threads/task.ts';
import { LEASE_SECONDS } from './databaseQueue.ts';
import type { Hands, Kept, Ready } from './definition.ts';
import { definitions } from './kinds.ts';
import type { Progress } from './progress.ts';
import { MOST_ATTEMPTS, type ClaimedJob, type Ended } from './queue.ts';

/** How often an idle runner looks for jobs whose holder died. */
const POLL_MS = 2000;
/** How often, and after how long, the result of a job is offered again to a database that is away. */
const OFFERS = 8;
const OFFER_AFTER = 1000;
/** Pages are told how far a job is no oftener than this, ms. */
const TELL_MS = 300;

/** What a job made was removed before a row named it; it has to be made again. */
export class FileGone extends Error {
  override name = 'FileGone';
}

interface Running {
  job: ClaimedJob;
  lane: Lane;
  abort: AbortController;
  ended: Promise<void>;
}

const lanes: Lane[] = ['batch', 'set'];
const kindsOf = (lane: Lane): JobKind[] =>
  (Object.keys(definitions) as JobKind[]).filter((kind) => definitions[kind].lane === lane);

/** Takes jobs from the queue and has them done by worker threads, in each lane as many at once as it is wide. */
export class JobRunner {
  private readonly running = new Map<number, Running>();
  private readonly poll = setInterval(() => this.wake(), POLL_MS);
  private readonly renew = setInterval(() => void this.renewAll(), (LEASE_SECONDS * 1000) / 4);
  private filling: Promise<void> | undefined;
  private again = false;
  private stopping = false;

  constructor(
    private readonly hands: Hands,
    private readonly pools: Pools,
    private readonly news: News,
    private readonly progress: Progress,
    private readonly log: Log,
  ) {}

  /** Looks for work now. */
  wake(): void {
    if (this.stopping) return;
    if (this.filling) this.again = true;
    else this.filling = this.fill();
  }

  /** Breaks off those of the given jobs that run here. */
  abort(ended: readonly Pick<Ended, 'id'>[]): void {
    for (const { id } of ended) this.running.get(id)?.abort.abort();
  }

  /** Breaks off what runs and puts it back in the queue; afterwards nothing more is taken from it. */
  async stop(): Promise<void> {
    this.stopping = true;
    clearInterval(this.poll);
    clearInterval(this.renew);
    await this.filling;
    await Promise.all([...this.running.values()].map(({ abort, ended }) => (abort.abort(), ended)));
  }

  private async fill(): Promise<void> {
    try {
      do {
        this.again = false;
        for (const lane of lanes) await this.fillLane(lane);
      } while (this.again && !this.stopping);
    } catch (error) {
      if (!this.stopping)
        this.log[faultOf(error) ? 'warn' : 'error']({ err: error }, 'The job queue could not be read');
    } finally {
      this.filling = undefined;
    }
  }

  private async fillLane(lane: Lane): Promise<void> {
    const busy = (): number => [...this.running.values()].filter((one) => one.lane === lane).length;
    while (!this.stopping && busy() < this.pools.width[lane]) {
      const job = await this.hands.queue.claim(kindsOf(lane).filter((kind) => !this.mustWait(kind)));
      if (!job) return;
      // Told to stop while the queue was asked.
      if (this.stopping) return this.hands.queue.release(job);
      const abort = new AbortController();
      this.running.set(job.id, { job, lane, abort, ended: this.work(job, abort) });
    }
  }

  /** What can wait leaves files that come in a core of their own. */
  private mustWait(kind: JobKind): boolean {
    if (!definitions[kind].waits || !this.hands.arriving.busy) return false;
    return [...this.running.values()].some(({ job }) => job.kind === kind);
  }

  private async work(job: ClaimedJob, abort: AbortController): Promise<void> {
    this.progress.begin(job.id);
    let tells: Changed = {};
    try {
      await this.announce(job);
      tells = (await this.doJob(job, abort)) ?? {};
    } catch (error) {
      await this.putBack(job, error, abort.signal.aborted).catch((err: Error) =>
        this.log.warn({ err, job: job.id }, 'A job could not be put back; its lease runs out'),
      );
    } finally {
      this.progress.end(job.id);
      this.running.delete(job.id);
      if (!this.stopping) {
        await this.announce(job, tells).catch(() => undefined);
        this.wake();
      }
    }
  }

  /** @returns what it changed that pages see. */
  private async doJob(job: ClaimedJob, abort: AbortController): Promise<Changed | undefined> {
    const definition = definitions[job.kind];
    const ready = await definition.prepare(this.hands, job, definition.payload.parse(job.payload));
    if (!ready) {
      await this.hands.queue.complete(job, 0, () => Promise.resolve({}));
      return undefined;
    }
    if ('reason' in ready) return void (await this.hands.queue.fail(job, ready));
    const answer = await this.run(ready, job, definition.lane, abort);
    const flaw = answer.ok ? ready.flaw?.(answer.output) : answer;
    if (flaw) return void (await this.offer(() => this.hands.queue.fail(job, flaw)));
    return answer.ok ? (await this.offer(() => this.keep(job, ready, answer)))?.tells : undefined;
  }

  /** Has a task done by a worker. A full disk is no fault of what was worked on, and is said as it is. */
  private async run(
    { task, input }: Ready<TaskKind>,
    job: ClaimedJob,
    lane: Lane,
    { signal }: AbortController,
  ): Promise<Answer<TaskKind>> {
    let told = 0;
    const onProgress = (share: number): void => {
      this.progress.tell(job.id, share);
      if (job.batchId !== null || performance.now() - told < TELL_MS) return;
      told = performance.now();
      void this.announce(job).catch(() => undefined);
    };
    try {
      return await this.pools.run(lane, task, input, { signal, onProgress });
    } catch (error) {
      const known = faultOf(error);
      if (!signal.aborted && known?.status === 507) return { ok: false, ...known.problem };
      throw error;
    }
  }

  /** Writes what a job came to. @throws FileGone if a file that it made is not in the store. */
  private async keep(
    job: ClaimedJob,
    ready: Ready<TaskKind>,
    { output, milliseconds }: Answer<TaskKind> & { ok: true },
  ): Promise<Kept | undefined> {
    const { store, queue, database } = this.hands;
    const files = ready.files(output);
    // Nothing is removed between the look at the file and the row that names it.
    const kept = await store.exclusive(async () => {
      for (const file of files) if (!(await store.has(file))) throw new FileGone();
      return queue.complete(job, milliseconds, (tx) => ready.keep(tx, output));
    });
    for (const file of kept ? (kept.superfluous ?? []) : files) await removeUnused(database, store, file);
    return kept;
  }

  /** Offers a result; a database that is away for a moment does not cost the work. */
  private async offer<T>(write: () => Promise<T>): Promise<T> {
    for (let offer = 1; ; offer++) {
      try {
        return await write();
      } catch (error) {
        if (error instanceof FileGone || this.stopping || offer === OFFERS || !isDatabaseAway(error)) throw error;
        await sleep(OFFER_AFTER);
      }
    }
  }

  /**
   * Decides about a job that broke off. One that was told to end, whose file went meanwhile, or that a database lost
   * that is away, has not failed. Any other (a worker out of memory, a fault of ours) is tried again, and after some
   * attempts fails in words, so that it never runs for ever.
   */
  private async putBack(job: ClaimedJob, error: unknown, told: boolean): Promise<void> {
    const { queue } = this.hands;
    if (told || error instanceof FileGone) return queue.release(job);
    const attempts = job.attempts + 1;
    this.log.warn({ err: error, job: job.id, kind: job.kind, attempts }, 'The work on a job broke off');
    // Its lease runs out; by then the database is back.
    if (isDatabaseAway(error)) return;
    if (attempts < MOST_ATTEMPTS) return queue.release(job, attempts);
    await queue.fail(job, brokenOff(error));
  }

  /** Tells the pages how a job stands, and what it changed. */
  private async announce(job: ClaimedJob, also: Changed = {}): Promise<void> {
    const { id, kind, payload, shootId, batchId, frameId } = job;
    if (shootId === null) return void (await this.news.tellJob(id));
    await this.news.tell(shootId, {
      ...(batchId === null ? { jobs: [id] } : { batches: [batchId] }),
      ...(frameId !== null && kind === 'cut' ? { frames: [frameId] } : {}),
      ...definitions[kind].tells?.(job, payload),
    });
    if (Object.keys(also).length) await this.news.tell(shootId, also);
  }

  private async renewAll(): Promise<void> {
    for (const { job, abort } of [...this.running.values()]) {
      try {
        if (!(await this.hands.queue.renew(job))) abort.abort();
      } catch {
        // The database is away for a moment; the lease outlasts several renewals.
      }
    }
  }
}

function brokenOff(error: unknown): Excuse {
  return {
    reason: `the work on it broke off ${MOST_ATTEMPTS} times (${inWords(error)})`,
    remedy:
      faultOf(error)?.problem.remedy ??
      'Try it again; if it fails again, export the frame at a smaller size and send the log in the data folder to whoever looks after the program.',
  };
}
