import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { demoBackgrounds, demoFrames } from '../core/studio/index.ts';
import { connect } from '../server/database/connect.ts';
import { startMariadb, type Mariadb } from '../server/database/mariadb.ts';
import { DatabaseAway, DatabaseWatch } from '../server/database/watch.ts';
import { backgrounds, frames, setups, shoots } from '../server/database/schema.ts';
import { loadDemo, takenAt } from '../server/stations/shoots/loadDemo.ts';
import { Events } from '../server/events.ts';
import { silentLog } from '../server/log.ts';
import { News } from '../server/news.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { fixture, type Fixture } from './fixture.ts';

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
    await expect.poll(() => watch.up, { interval: 20, timeout: 5000 }).toBe(false);
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

describe('loadDemo', () => {
  const chosen = demoFrames.filter(({ name }) => Number(name.slice(-2)) <= 4);
  let f: Fixture;
  let events: Events;
  beforeAll(async () => {
    f = await fixture();
    events = new Events();
  });
  afterAll(async () => {
    events.close();
    await f.close();
  });

  test('makes every picture with its truth; a second run makes only what is missing', async () => {
    const progress = { done: 0, total: 0 };
    const run = (): Promise<void> =>
      loadDemo(
        f.database,
        f.storeFolder,
        events,
        new News(f.database, events),
        progress,
        2,
        new AbortController().signal,
        120,
        4,
      );
    await run();
    expect(progress).toEqual({
      done: chosen.length + demoBackgrounds.length,
      total: chosen.length + demoBackgrounds.length,
    });
    const made = await f.database.select().from(frames);
    expect(made.map((frame) => frame.name).sort()).toEqual(chosen.map((frame) => `${frame.name}.jpg`).sort());
    const [first] = made;
    const picture = await decodePicture(f.store.path(first.file), 'frame');
    expect([picture.width, picture.height]).toEqual([80, 120]);
    for (const { name } of chosen)
      expect((await stat(join(f.storeFolder, '..', 'demo-truth', `${name}.png`))).size).toBeGreaterThan(100);
    await f.database.delete(frames).where(eq(frames.id, first.id));
    await f.database.update(setups).set({ name: 'Named anew' });
    await run();
    expect(await f.database.select().from(setups), 'other names make no other setups').toHaveLength(2);
    expect(await f.database.select().from(frames)).toHaveLength(chosen.length);
    expect(await f.database.select().from(backgrounds)).toHaveLength(demoBackgrounds.length);
    expect(await f.database.select().from(shoots)).toHaveLength(1);
  });

  test('an end in the middle leaves what is done and no half picture', async () => {
    const stop = new AbortController();
    const progress = { done: 0, total: 0 };
    await f.database.delete(shoots);
    const running = loadDemo(
      f.database,
      f.storeFolder,
      events,
      new News(f.database, events),
      progress,
      1,
      stop.signal,
      120,
      4,
    );
    const timer = setInterval(() => progress.total && progress.done >= progress.total - 6 && stop.abort(), 20);
    await expect(running).rejects.toThrow();
    clearInterval(timer);
    const there = (await f.database.select().from(frames)).length;
    expect(there).toBeLessThan(chosen.length);
    for (const frame of await f.database.select().from(frames))
      expect((await decodePicture(f.store.path(frame.file), 'frame')).height).toBe(120);
  });

  test('the day’s times follow the numbers', () => {
    expect(takenAt('SKM_0101')).toBe('2026:06:13 11:04:07');
    expect(takenAt('SKM_0205')).toBe('2026:06:13 14:20:07');
  });
});

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
