import type { Problem } from '../contract/index.ts';
import { PictureError } from './pictures/decode.ts';

/** A failure told truly: what it was, what helps, and the HTTP status that says so. */
export interface Fault {
  status: 409 | 500 | 503 | 507;
  problem: Problem;
}

const saved = 'nothing that was saved is lost';
const diskFull: Fault = {
  status: 507,
  problem: {
    reason: 'the disk is full',
    remedy: `Make room on the disk that holds the data folder, then try again; ${saved}.`,
  },
};
const readOnly: Fault = {
  status: 507,
  problem: {
    reason: 'the folder lies on a disk that can only be read',
    remedy: 'Use another folder, or make the disk writable.',
  },
};
const noMemory: Fault = {
  status: 500,
  problem: {
    reason: 'there was not enough memory for it',
    remedy: 'Close other programs and try again, or export the picture at a smaller size.',
  },
};

/**
 * The one vocabulary for what can go wrong below us: by the code that system, database and codecs give, or where they
 * give none by what they say.
 */
const kinds: { codes: string[]; says?: RegExp; fault: Fault }[] = [
  {
    codes: ['ENOSPC', 'EDQUOT', 'ER_DISK_FULL', 'ER_RECORD_FILE_FULL', 'ER_DISK_FULL_NOWAIT'],
    says: /No space left|disk (is )?full|errno: 28\b/i,
    fault: diskFull,
  },
  { codes: ['EROFS'], says: /Read-only file system/i, fault: readOnly },
  {
    codes: ['EACCES', 'EPERM'],
    fault: {
      status: 507,
      problem: {
        reason: 'the system does not allow it (no permission)',
        remedy: 'Give this account the right to read and write there, or use another folder.',
      },
    },
  },
  {
    codes: ['EMFILE', 'ENFILE'],
    fault: {
      status: 503,
      problem: { reason: 'too many files are open at once', remedy: 'Wait for what is running and try again.' },
    },
  },
  {
    codes: ['EIO'],
    fault: {
      status: 500,
      problem: {
        reason: 'the disk reports an error',
        remedy: 'Save what you can to another disk and have this one checked.',
      },
    },
  },
  {
    codes: ['EISDIR'],
    fault: { status: 409, problem: { reason: 'it is a folder, not a file', remedy: 'Give a file.' } },
  },
  {
    codes: ['ENOTDIR', 'EEXIST'],
    fault: {
      status: 409,
      problem: { reason: 'a file is in the way of a folder', remedy: 'Move it away, or use another folder.' },
    },
  },
  {
    codes: ['ENAMETOOLONG'],
    fault: {
      status: 409,
      problem: { reason: 'its name is too long for this disk', remedy: 'Give it a shorter name.' },
    },
  },
  {
    codes: ['ENOENT'],
    fault: {
      status: 409,
      problem: {
        reason: 'a file that is needed is not there any more',
        remedy: 'See whether it was moved, and bring it in again.',
      },
    },
  },
  {
    codes: ['ERR_WORKER_OUT_OF_MEMORY', 'ENOMEM'],
    says: /out of memory|unable to allocate|Array buffer allocation failed/i,
    fault: noMemory,
  },
];
const databaseAway: Fault = {
  status: 503,
  problem: {
    reason: 'the database does not answer and is being started again',
    remedy: `It goes on by itself in a moment; ${saved}.`,
  },
};
const awayCodes = new Set([
  'PROTOCOL_CONNECTION_LOST',
  'PROTOCOL_SEQUENCE_TIMEOUT',
  'ER_SERVER_SHUTDOWN',
  'ER_NORMAL_SHUTDOWN',
  'ER_CON_COUNT_ERROR',
  'ER_CONNECTION_KILLED',
  'POOL_CLOSED',
  'EPIPE',
  'ECONNREFUSED',
  'ECONNRESET',
  'ETIMEDOUT',
]);

/** The error and what caused it, outermost first. */
function* causes(error: unknown): Generator<{ code?: string; message?: string; sql?: string; fatal?: boolean }> {
  for (let at = error, n = 0; at && typeof at === 'object' && n < 6; at = (at as { cause?: unknown }).cause, n++)
    yield at;
}

/** Whether the database is away, and not the query wrong. */
export function isDatabaseAway(error: unknown): boolean {
  return [...causes(error)].some(
    ({ code, message }) =>
      (code !== undefined && awayCodes.has(code)) ||
      message === 'Pool is closed.' ||
      message?.includes('closed state') === true,
  );
}

/** What is known about a failure; undefined for one that is a fault of our own. */
export function faultOf(error: unknown): Fault | undefined {
  if (error instanceof PictureError) return { status: 409, problem: { reason: error.reason, remedy: error.remedy } };
  if (isDatabaseAway(error)) return databaseAway;
  for (const { code, message = '' } of causes(error)) {
    const known = kinds.find(({ codes, says }) => (code !== undefined && codes.includes(code)) || says?.test(message));
    if (known) return known.fault;
  }
  return undefined;
}

/** In words, for logs and terminals. */
export function inWords(error: unknown): string {
  const fault = faultOf(error);
  if (fault) return `${fault.problem.reason}. ${fault.problem.remedy}`;
  // What a query said is of no use to anybody but the log; its cause is.
  const last = [...causes(error)].findLast(({ message }) => message);
  return last?.message ?? String(error);
}
