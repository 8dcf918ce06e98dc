import { execFile, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { promisify } from 'node:util';
import { writeWhole } from '../store/writeWhole.ts';
import { createConnection } from 'mysql2/promise';

/** The photographer's own MariaDB: data, socket, log and password in one folder, listening on loopback only. */
export interface Mariadb {
  host: '127.0.0.1';
  port: number;
  user: string;
  password: string;
  database: string;
  pid: number;
  /** Ends the server and waits until it is gone. */
  stop(): Promise<void>;
}

const USER = 'silent_lawn';
const DATABASE = 'silent_lawn';
const START_SECONDS = 60;

/** Why the database could not be started. */
export class DatabaseError extends Error {
  override name = 'DatabaseError';
}

/**
 * Starts MariaDB with its files in `folder`, creating it on first use. A server of ours that outlived a killed parent
 * is taken over; leftover pid and socket files are of no account, the port is a free one each time.
 * @param wantedPort where it has to listen, for one that is started again under open connections.
 * @throws DatabaseError with the remedy.
 */
export async function startMariadb(folder: string, wantedPort?: number): Promise<Mariadb> {
  const dataFolder = join(folder, 'data');
  const temporary = join(folder, 'temporary');
  await mkdir(temporary, { recursive: true, mode: 0o700 });
  // A MariaDB that starts removes the temporary tables it finds, those of another that is at work as well.
  const env = { ...process.env, TMPDIR: temporary };
  const password = await keptPassword(folder);
  if (!existsSync(join(dataFolder, 'mysql'))) await install(dataFolder, env);
  const survivor = await findSurvivor(folder, dataFolder);
  if (survivor) return connectionTo(survivor.port, survivor.pid, password);
  const port = wantedPort ?? (await freePort());
  const initFile = join(folder, 'init.sql');
  await writeFile(
    initFile,
    [
      `CREATE DATABASE IF NOT EXISTS ${DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;`,
      `CREATE OR REPLACE USER '${USER}'@'127.0.0.1' IDENTIFIED BY '${password}';`,
      `GRANT ALL ON ${DATABASE}.* TO '${USER}'@'127.0.0.1';`,
      // The installation also makes accounts without a password for other names of this machine.
      `DELETE FROM mysql.global_priv WHERE User = '' OR (User = 'root' AND Host <> 'localhost');`,
      'FLUSH PRIVILEGES;',
      `ALTER USER 'root'@'localhost' IDENTIFIED BY '${password}';`,
      '',
    ].join('\n'),
    { mode: 0o600 },
  );
  const server = spawn(
    findProgram(['mariadbd', 'mysqld']),
    [
      '--no-defaults',
      `--datadir=${dataFolder}`,
      '--socket=mariadb.sock',
      '--pid-file=mariadb.pid',
      `--log-error=${join(folder, 'mariadb.log')}`,
      '--bind-address=127.0.0.1',
      `--port=${port}`,
      '--skip-name-resolve',
      `--init-file=${initFile}`,
      '--innodb-buffer-pool-size=64M',
      '--innodb-log-file-size=32M',
      ...(process.getuid?.() === 0 ? ['--user=root'] : []),
    ],
    // Its own process group: Ctrl-C in the terminal must reach us first, so that we can end jobs before the database.
    { detached: true, stdio: 'ignore', env },
  );
  const failed = new Promise<never>((_, reject) => {
    server.once('error', (error) => reject(new DatabaseError(`MariaDB cannot be started: ${error.message}`)));
    server.once(
      'exit',
      (code) =>
        void whyEnded(join(folder, 'mariadb.log')).then((why) =>
          reject(
            new DatabaseError(
              `MariaDB ended while starting (code ${code})${why}. Its log is ${join(folder, 'mariadb.log')}.`,
            ),
          ),
        ),
    );
  });
  server.unref();
  await writeFile(join(folder, 'port'), `${port}\n`);
  await Promise.race([failed, waitUntilReady(port, password)]);
  failed.catch(() => undefined);
  return connectionTo(port, server.pid as number, password);
}

function connectionTo(port: number, pid: number, password: string): Mariadb {
  return { host: '127.0.0.1', port, user: USER, password, database: DATABASE, pid, stop: () => stopProcess(pid) };
}

async function keptPassword(folder: string): Promise<string> {
  const file = join(folder, 'password');
  const kept = existsSync(file) ? (await readFile(file, 'utf8')).trim() : '';
  if (kept) return kept;
  const password = randomBytes(24).toString('base64url');
  // Whole or not at all: half a password would lock the photographer out.
  await writeWhole(file, Buffer.from(password), undefined, 0o600);
  return password;
}

/** The true reason from its log, where it is one that a person can do something about. */
async function whyEnded(log: string): Promise<string> {
  const text = (await readFile(log, 'utf8').catch(() => '')).slice(-6000);
  if (/No space left|disk (is )?full|errno: 28\b|Error 28\b|OS error 28/i.test(text))
    return ': the disk is full; make room on it and start again';
  if (/Read-only file system|errno: 30\b/i.test(text)) return ': the data folder lies on a disk that can only be read';
  if (/Permission denied|errno: 13\b/i.test(text)) return ': this account may not write the data folder';
  if (/lock.*(error|errno): 11|Unable to lock/i.test(text)) return ': another database already uses this data folder';
  return '';
}

async function install(dataFolder: string, env: NodeJS.ProcessEnv): Promise<void> {
  // A half-made folder from an interrupted first start is made again.
  await rm(dataFolder, { recursive: true, force: true });
  const half = `${dataFolder}.new`;
  await rm(half, { recursive: true, force: true });
  await promisify(execFile)(
    findProgram(['mariadb-install-db', 'mysql_install_db']),
    [
      '--no-defaults',
      `--datadir=${half}`,
      '--auth-root-authentication-method=normal',
      '--skip-test-db',
      ...(process.getuid?.() === 0 ? ['--user=root'] : []),
    ],
    { env },
  );
  await rename(half, dataFolder);
}

/** A running MariaDB on exactly this data folder, left behind when its parent was killed. */
async function findSurvivor(folder: string, dataFolder: string): Promise<{ pid: number; port: number } | undefined> {
  try {
    const pid = Number((await readFile(join(dataFolder, 'mariadb.pid'), 'utf8')).trim());
    const port = Number((await readFile(join(folder, 'port'), 'utf8')).trim());
    const command = await readFile(`/proc/${pid}/cmdline`, 'utf8');
    return command.split('\0').includes(`--datadir=${dataFolder}`) ? { pid, port } : undefined;
  } catch {
    return undefined;
  }
}

async function waitUntilReady(port: number, password: string): Promise<void> {
  const end = Date.now() + START_SECONDS * 1000;
  for (;;) {
    try {
      const connection = await createConnection({ host: '127.0.0.1', port, user: USER, password, database: DATABASE });
      await connection.end();
      return;
    } catch (error) {
      if (Date.now() > end)
        throw new DatabaseError(`MariaDB did not answer within ${START_SECONDS} s: ${(error as Error).message}`);
      await sleep(100);
    }
  }
}

async function stopProcess(pid: number): Promise<void> {
  try {
    process.kill(pid, 'SIGTERM');
    for (let n = 0; n < 300; n++) {
      process.kill(pid, 0);
      await sleep(50);
    }
  } catch {
    // Gone, as it should be.
  }
}

/** Asks the system for a loopback port that nobody uses. */
export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() =>
        address && typeof address === 'object' ? resolve(address.port) : reject(new Error('no port')),
      );
    });
  });
}

function findProgram(names: string[]): string {
  const folders = [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/local/sbin', '/usr/libexec', '/usr/bin'];
  for (const name of names) {
    for (const folder of folders) if (folder && existsSync(join(folder, name))) return join(folder, name);
  }
  throw new DatabaseError(`${names[0]} is not installed. Install it with: sudo apt-get install mariadb-server`);
}
