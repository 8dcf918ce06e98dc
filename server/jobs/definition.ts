import type { z } from 'zod';
import type { Job } from '../../contract/index.ts';
import type { Database, Transaction } from '../database/connect.ts';
import type { Events } from '../events.ts';
import type { Changed } from '../news.ts';
import type { Store } from '../store/store.ts';
import type { Lane } from '../threads/pools.ts';
import type { Excuse, Input, Output, TaskKind } from '../threads/task.ts';
import type { Arriving } from './arriving.ts';
import type { ClaimedJob, Queue } from './queue.ts';

/** What jobs are made ready and written down with. */
export interface Hands {
  database: Database;
  store: Store;
  queue: Queue;
  events: Events;
  /** Whether files are coming in. */
  arriving: Arriving;
  /** Where the print service listens. */
  printService: string;
}

/** What a job wrote. */
export interface Kept {
  /** What pages are told that it came to; of a job that stands alone. */
  made?: Job['made'];
  /** Files that nothing refers to any more. */
  superfluous?: string[];
  /** What it changed that pages see. */
  tells?: Changed;
}

/** A job made ready: what a worker is asked, and what becomes of the answer. */
export interface Ready<K extends TaskKind> {
  task: K;
  input: Input<K>;
  /** Files that the rows will name; they are in the store when those are written. */
  files(output: Output<K>): string[];
  /** Writes what it came to, in the transaction that ends the job. */
  keep(tx: Transaction, output: Output<K>): Promise<Kept>;
  /** Why an answer cannot be kept; then the job fails with it and nothing is written. */
  flaw?(output: Output<K>): Excuse | undefined;
}

/** A kind of job: where it runs, what it must be told, how it is made ready. */
export interface Definition<P = never> {
  lane: Lane;
  /** While files come in, one at a time is enough. */
  waits?: boolean;
  payload: z.ZodType<P>;
  /** What pages see change when it begins and ends, beside itself or its batch. */
  tells?(job: ClaimedJob, payload: P): Changed;
  /** @returns an excuse where it cannot be done, undefined where there is nothing to do any more. */
  prepare(hands: Hands, job: ClaimedJob, payload: P): Promise<Ready<TaskKind> | Excuse | undefined>;
}

/** A definition, its payload's type kept inside. */
export function defined<P>(definition: Definition<P>): Definition<unknown> {
  return definition as unknown as Definition<unknown>;
}

/** A job made ready, its task's types kept inside. */
export function ready<K extends TaskKind>(work: Ready<K>): Ready<TaskKind> {
  return work as unknown as Ready<TaskKind>;
}
