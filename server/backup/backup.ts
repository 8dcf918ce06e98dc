import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { sql } from 'drizzle-orm';
import { migrateUp } from '../database/connect.ts';
import { shoots } from '../database/schema.ts';
import { Refusal } from '../http/answers.ts';
import type { Context } from '../http/context.ts';
import { archiveAway } from '../stations/log/archives.ts';
import { bundlePath } from '../stations/shoots/bundlePath.ts';
import { entriesOfZip, ZipRefused } from '../zip/readZip.ts';
import type { Entry } from '../zip/zipOf.ts';
import { dumpDatabase, loadDatabase } from './dump.ts';

/** Everything at once: the database as SQL and every stored file, in one ZIP. */

const FORMAT = 'silent-lawn-backup';
const MOST_ENTRIES = 5_000_000;
const MOST_BYTES = 4e12;

/** The entries of a backup; what comes in meanwhile is in the next. */
export async function backupOf({
  database,
  mariadb,
  store,
}: Pick<Context, 'database' | 'mariadb' | 'store'>): Promise<Entry[]> {
  const away = await archiveAway({ database, store });
  if (away !== undefined)
    throw new Refusal(409, {
      reason: `pictures lie in the archive “${away}”, which is not there now`,
      remedy: 'Connect its disk, then back up; what lies in archives is in the backup, too.',
    });
  // First the rows, then the files: each file that a row names was there before it, and is kept for a day after it.
  const rows = await dumpDatabase(mariadb);
  const head = { format: FORMAT, version: 1, sql: createHash('sha256').update(rows).digest('hex') };
  const files = (await store.olderThan(-1000)).sort();
  const entries: Entry[] = [
    { name: 'backup.json', content: Buffer.from(`${JSON.stringify(head, null, 1)}\n`) },
    { name: 'database.sql', content: rows },
  ];
  for (const sha256 of files) {
    const { size } = await stat(await store.need(sha256, 'this file'));
    entries.push({ name: bundlePath(sha256), stored: { sha256, bytes: size } });
  }
  return entries;
}

/**
 * Takes the request’s body as a backup and puts it in the place of all that is here. Its files come first and its SQL is
 * checked against its sum; then the rows are exchanged, and brought up to this version.
 * @throws Refusal while shoots of one’s own are here and `replace` is not said, or if the backup is not whole.
 */
export async function restore(context: Context, request: Request, replace: boolean): Promise<{ shoots: number }> {
  const { database, mariadb, store, events, runner } = context;
  const own = await database
    .select({ id: shoots.id })
    .from(shoots)
    .where(sql`not ${shoots.demo}`);
  if (own.length && !replace)
    throw new Refusal(409, {
      reason: `${own.length} shoots of your own are here, and a backup takes the place of everything`,
      remedy: 'Say --replace if they may go, or restore into an empty data folder.',
    });
  const upload = await store.receive(request, MOST_BYTES);
  if ('tooLarge' in upload) throw new Refusal(400, { reason: 'the backup is too large', remedy: 'Restore another.' });
  const rows = join(tmpdir(), `silent-lawn-${randomUUID()}.sql`);
  try {
    await takeFiles(upload.temporary, rows, context);
    runner.abort(await context.queue.cancel({ every: true }));
    await loadDatabase(mariadb, rows);
    await migrateUp(database);
    // Every file of the backup is at home now.
    await database.update(shoots).set({ archive: null });
  } catch (error) {
    if (!(error instanceof ZipRefused)) throw error;
    throw new Refusal(400, {
      reason: `the backup cannot be restored: ${error.message}`,
      remedy: 'Take one that was copied whole; nothing was changed.',
    });
  } finally {
    await store.discard(upload.temporary);
    await rm(rows, { force: true });
  }
  events.send({ type: 'shoots' });
  runner.wake();
  return { shoots: (await database.select({ id: shoots.id }).from(shoots)).length };
}

async function takeFiles(zip: string, rows: string, { store }: Context): Promise<void> {
  let head: { format?: unknown; version?: unknown; sql?: unknown } | undefined;
  let sum: string | undefined;
  for await (const entry of entriesOfZip(zip, MOST_ENTRIES)) {
    if (entry.name === 'backup.json') {
      const chunks: Buffer[] = [];
      for await (const chunk of await entry.read()) chunks.push(chunk as Buffer);
      head = JSON.parse(Buffer.concat(chunks).toString('utf8')) as typeof head;
      if (head?.format !== FORMAT || head.version !== 1) throw new ZipRefused('it is no backup that was made here');
    } else if (!head) throw new ZipRefused('it is no backup that was made here');
    else if (entry.name === 'database.sql') {
      const digest = createHash('sha256');
      await pipeline(
        await entry.read(),
        async function* (source) {
          for await (const chunk of source) {
            digest.update(chunk as Buffer);
            yield chunk as Buffer;
          }
        },
        createWriteStream(rows, { mode: 0o600 }),
      );
      sum = digest.digest('hex');
    } else await takeFile(entry.name, await entry.read(), entry.bytes, store);
  }
  if (!head || sum === undefined || sum !== head.sql) throw new ZipRefused('its database is not whole');
}

async function takeFile(
  name: string,
  content: Parameters<Context['store']['receive']>[0],
  bytes: number,
  store: Context['store'],
): Promise<void> {
  const hash = name.slice(-64);
  if (!/^[0-9a-f]{64}$/.test(hash) || name !== bundlePath(hash))
    throw new ZipRefused(`“${name.slice(0, 80)}” does not belong into a backup`);
  const received = await store.receive(content, bytes);
  if ('tooLarge' in received) throw new ZipRefused(`“${hash.slice(0, 12)}…” is larger than it says`);
  try {
    if (received.hash !== hash) throw new ZipRefused(`“${hash.slice(0, 12)}…” is another file than its name says`);
    await store.adopt(received.temporary, hash);
  } finally {
    await store.discard(received.temporary);
  }
}
