import { randomUUID } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inject } from 'vitest';
import { createConnection } from 'mysql2/promise';
import { defaultRecipe } from '../core/cut/index.ts';
import type { Account } from '../server/backup/dump.ts';
import { connect, type Database } from '../server/database/connect.ts';
import { batches, frames, jobs, setups, shoots } from '../server/database/schema.ts';
import { LocalStore } from '../server/store/localStore.ts';

export interface Fixture {
  database: Database;
  mariadb: Account;
  store: LocalStore;
  storeFolder: string;
  close: () => Promise<void>;
}

/** A database of its own with all migrations applied, and a store. */
export async function fixture(): Promise<Fixture> {
  const { port, password, tables } = inject('mariadb');
  const account = { host: '127.0.0.1' as const, port, user: 'silent_lawn', password };
  const name = `test${randomUUID().slice(0, 8)}`;
  const making = await createConnection({ ...account, multipleStatements: true });
  await making.query(
    `create database ${name} character set utf8mb4 collate utf8mb4_unicode_ci;\nuse ${name};\n${tables}`,
  );
  await making.end();
  const { database, close } = await connect({
    ...account,
    database: name,
    pid: 0,
    stop: () => Promise.resolve(),
  });
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-dbtest-'));
  const storeFolder = join(folder, 'store');
  return {
    database,
    mariadb: { ...account, database: name },
    store: new LocalStore(storeFolder),
    storeFolder,
    close: async () => {
      await close();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** A shoot with one setup and `count` frames in a batch of waiting jobs. */
export async function seedBatch(
  database: Database,
  count: number,
  kind: 'cut' | 'deliver' = 'cut',
): Promise<{ shootId: number; setupId: number; batchId: number; frameIds: number[] }> {
  const [{ insertId: shootId }] = await database.insert(shoots).values({ name: 'Test', date: '2026-06-13' });
  const [{ insertId: setupId }] = await database
    .insert(setups)
    .values({ shootId, name: 'Setup 1', recipe: defaultRecipe });
  const frameIds: number[] = [];
  for (let n = 0; n < count; n++) {
    const [{ insertId }] = await database.insert(frames).values({
      setupId,
      name: `F${n}.jpg`,
      file: n.toString(16).padStart(64, '0'),
      bytes: 1,
      width: 10,
      height: 10,
      depth: 8,
    });
    frameIds.push(insertId);
  }
  const [{ insertId: batchId }] = await database.insert(batches).values({ shootId, kind });
  await database.insert(jobs).values(frameIds.map((frameId) => ({ kind, shootId, batchId, frameId })));
  return { shootId, setupId, batchId, frameIds };
}
