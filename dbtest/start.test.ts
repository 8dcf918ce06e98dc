import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { connect } from '../server/database/connect.ts';
import { startMariadb, type Mariadb } from '../server/database/mariadb.ts';
import { DatabaseAway, DatabaseWatch } from '../server/database/watch.ts';
import { shoots } from '../server/database/schema.ts';
import { silentLog } from '../server/log.ts';

describe('MariaDB of our own', () => {
  let folder: string;
  let running: Mariadb | undefined;
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'silent-lawn-mariadb-'));
    // Half an installation, as a first start that was broken off leaves it, and stale files of a dead server.
    await mkdir(join(folder, 'data.new', 'mysql'), { recursive: true });
    await mkdir(join(folder, 'data'), { recursive: true });
    await writeFile(join(folder, 'data', 'mariadb.pid'), '999999\n');
    await writeFile(join(folder, 'port'), '1\n');
  });
  afterAll(async () => {
    await running?.stop();
    await rm(folder, { recursive: true, force: true });
  });

  test('starts over what a broken start left; asks for the password; takes over a survivor', async () => {
    running = await startMariadb(folder);
    const { port, password, user, database } = running;
    expect((await stat(join(folder, 'password'))).mode & 0o077).toBe(0);
    await expect(createConnection({ host: '127.0.0.1', port, user, password: 'wrong', database })).rejects.toThrow(
      /denied/i,
    );
    await expect(createConnection({ host: '127.0.0.1', port, user: 'root', password: '' })).rejects.toThrow();
    const connection = await createConnection({ host: '127.0.0.1', port, user, password, database });
    await connection.query('create table kept (n int)');
    await connection.end();

    const again = await startMariadb(folder);
    expect(again.port).toBe(port);

    const pid = Number(await readFile(join(folder, 'data', 'mariadb.pid'), 'utf8'));
    process.kill(pid, 'SIGKILL');
    await new Promise((resolve) => setTimeout(resolve, 500));
    running = await startMariadb(folder);
    expect(running.password).toBe(password);
    const after = await createConnection({ host: '127.0.0.1', port: running.port, user, password, database });
    await expect(after.query('select * from kept')).resolves.toBeTruthy();
    await after.end();
    await running.stop();
    await expect(
      createConnection({ host: '127.0.0.1', port: running.port, user, password, database }),
    ).rejects.toThrow();
    running = undefined;
  });
});

test('a database that dies alone is started again under the open connections; who asks meanwhile waits', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-watch-'));
  const mariadb = await startMariadb(folder);
  const told: boolean[] = [];
  const watch = new DatabaseWatch(folder, mariadb, silentLog(), (up) => told.push(up));
  const { database, close } = await connect(mariadb);
  await database.insert(shoots).values({ name: 'Kept', date: '2026-06-13' });
  for (let kills = 1; kills <= 2; kills++) {
    process.kill(Number(await readFile(join(folder, 'data', 'mariadb.pid'), 'utf8')), 'SIGKILL');
    await expect.poll(() => watch.up, { interval: 20, timeout: 60_000 }).toBe(false);
    await expect(watch.whenUp(1)).rejects.toThrow(DatabaseAway);
    await watch.whenUp(30_000);
    expect((await database.select().from(shoots)).map(({ name }) => name)).toEqual(['Kept']);
    expect(told).toHaveLength(2 * kills);
  }
  await close();
  await watch.stop();
  await expect(
    createConnection({ host: '127.0.0.1', port: mariadb.port, user: mariadb.user, password: mariadb.password }),
  ).rejects.toThrow();
  await rm(folder, { recursive: true, force: true });
}, 60_000);

test('without the rights to install, npm start names the one command and stops', async () => {
  const empty = await mkdtemp(join(tmpdir(), 'silent-lawn-path-'));
  const code = `
    process.getuid = () => 1000;
    process.env.PATH = ${JSON.stringify(empty)};
    const { ensurePrograms } = await import(${JSON.stringify(new URL('../scripts/prepare.mjs', import.meta.url).href)});
    ensurePrograms([{ program: ['no-such-program'], package: 'no-such-package', what: 'a program' }]);`;
  const child = spawn(process.execPath, ['--input-type=module', '-e', code]);
  let text = '';
  child.stderr.on('data', (chunk) => (text += chunk));
  const status = await new Promise((resolve) => child.once('exit', resolve));
  expect(status).toBe(1);
  expect(text).toContain('sudo apt-get install -y --no-install-recommends no-such-package');
});
