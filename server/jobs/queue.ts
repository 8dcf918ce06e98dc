import type { Job, JobKind, Problem } from '../../contract/index.ts';
import type { Transaction } from '../database/connect.ts';

/** A job whose own work broke off this often is given up. */
export const MOST_ATTEMPTS = 3;

export interface NewJob {
  kind: JobKind;
  payload?: object;
  shootId?: number | null;
  batchId?: number;
  frameId?: number;
  /** Of those that wait, the lowest are taken first; 0 for what somebody asked for. */
  priority?: number;
}

export interface ClaimedJob {
  id: number;
  kind: JobKind;
  payload: object;
  shootId: number | null;
  batchId: number | null;
  frameId: number | null;
  /** Attempts that failed by themselves before this one. */
  attempts: number;
  /** Who holds it; a result is only taken from the holder. */
  token: string;
}

/** Which jobs are meant: one, or all of a batch, of a shoot, of one kind about one thing, or every one. */
export type JobChoice =
  | { every: true }
  | { id: number }
  | { batchId: number }
  | { shootId: number }
  | { kind: JobKind; payload: Record<string, number> };

/** Jobs that ended before their time. */
export interface Ended {
  id: number;
  shootId: number | null;
  batchId: number | null;
  frameId: number | null;
}

/**
 * The port to the queue. `DatabaseQueue` keeps it in the database; another engine can take its place if it holds jobs
 * by lease and token, and writes a job's end in the transaction of its result.
 */
export interface Queue {
  /** Puts jobs in, as part of a transaction with whatever they are about. @returns their ids. */
  add(tx: Transaction, jobs: readonly NewJob[]): Promise<number[]>;
  /**
   * Takes the next job of one of these kinds: one that waits, or else one whose holder died. Any number of workers may
   * ask at once. A dead holder is no failure of the job: a kill, a power cut and a stop say nothing about it. But it
   * waits behind the others from then on, so that a job over which everything dies holds up none.
   * @returns undefined if there is none.
   */
  claim(kinds: readonly JobKind[]): Promise<ClaimedJob | undefined>;
  /** Holds on to a job for another lease. @returns false if it is no longer ours (cancelled, or taken as dead). */
  renew(job: ClaimedJob): Promise<boolean>;
  /** Puts a job back, with so many attempts that failed by themselves. */
  release(job: ClaimedJob, attempts?: number): Promise<void>;
  /**
   * Ends a job and writes what it came to, all or nothing, and only if it is still held by us.
   * @returns what `write` returned; undefined if the job is not ours any more and nothing was written.
   */
  complete<T extends { made?: Job['made'] }>(
    job: ClaimedJob,
    milliseconds: number,
    write: (tx: Transaction) => Promise<T>,
  ): Promise<T | undefined>;
  /** Ends a job with what was wrong with it, if it is still held by us. */
  fail(job: ClaimedJob, problem: Problem): Promise<void>;
  /** Cancels what is open. @returns which jobs those were. */
  cancel(choice: JobChoice): Promise<Ended[]>;
  /** A failed job counts as cancelled from now on. */
  dismiss(id: number): Promise<void>;
  /** Whether one of these waits or runs. */
  isOpen(choice: JobChoice): Promise<boolean>;
  /** Forgets jobs that stood alone and ended longer than `age` ms ago. */
  forget(age: number): Promise<void>;
}
