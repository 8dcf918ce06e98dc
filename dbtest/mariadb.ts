import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import type { TestProject } from 'vitest/node';
import { startMariadb } from '../server/database/mariadb.ts';

declare module 'vitest' {
  export interface ProvidedContext {
    mariadb: { port: number; password: string };
  }
}

/** One MariaDB for all database tests, with a folder and port of its own, in which they may make databases test…. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-dbtest-'));
  const mariadb = await startMariadb(folder);
  const root = await createConnection({
    user: 'root',
    password: mariadb.password,
    socketPath: join(folder, 'data', 'mariadb.sock'),
  });
  await root.query(`grant all on \`test%\`.* to '${mariadb.user}'@'127.0.0.1'`);
  await root.end();
  project.provide('mariadb', { port: mariadb.port, password: mariadb.password });
  return async () => {
    await mariadb.stop();
    await rm(folder, { recursive: true, force: true });
  };
}
