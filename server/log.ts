import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import pino, { type Logger } from 'pino';
import roll from 'pino-roll';

export type Log = Logger;

/**
 * Everything as lines of JSON in `folder`, a new file at 5 MB and the last five kept; on the console only what a
 * person must know.
 */
export async function openLog(folder: string): Promise<Log> {
  await mkdir(folder, { recursive: true });
  const file = await roll({ file: join(folder, 'silent-lawn'), extension: '.log', size: '5m', limit: { count: 5 } });
  // On a full disk lines are lost, and nothing else.
  file.on('error', () => undefined);
  const terminal = new Writable({
    write(line: Buffer, _encoding, done) {
      const { msg, err } = JSON.parse(line.toString()) as { msg?: string; err?: { message: string } };
      console.error([msg, err?.message].filter(Boolean).join(': '));
      done();
    },
  });
  return pino(
    { level: 'debug', base: undefined, timestamp: pino.stdTimeFunctions.isoTime },
    pino.multistream([
      { level: 'debug', stream: file },
      { level: 'error', stream: terminal },
    ]),
  );
}

/** For tests: nothing is written. */
export function silentLog(): Log {
  return pino({ level: 'silent' });
}
