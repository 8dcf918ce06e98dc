import { spawn } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Mariadb } from '../database/mariadb.ts';

export type Account = Pick<Mariadb, 'host' | 'port' | 'user' | 'password' | 'database'>;

/** MariaDB’s own programs take the password from their environment, where no list of processes shows it. */
function run(program: string, { host, port, user, password }: Account, args: string[]) {
  const account = [`--host=${host}`, `--port=${port}`, `--user=${user}`, '--default-character-set=utf8mb4'];
  return spawn(program, [...account, ...args], {
    env: { ...process.env, MYSQL_PWD: password },
    stdio: ['pipe', 'pipe', 'pipe'],
  });
}

async function ended(child: ReturnType<typeof run>): Promise<void> {
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const code = await new Promise<number | null>((resolve, reject) =>
    child.once('error', reject).once('close', resolve),
  );
  if (code !== 0) throw new Error(`${child.spawnfile} ended with ${code}: ${said.slice(0, 400)}`);
}

/** The whole database as SQL, as it stood at one moment, while it goes on working. */
export async function dumpDatabase(account: Account): Promise<Buffer> {
  // Nobody else of this machine reads what is in it.
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-dump-'));
  const file = join(folder, 'database.sql');
  try {
    const options = [
      '--single-transaction',
      '--skip-dump-date',
      '--skip-comments',
      '--hex-blob',
      `--result-file=${file}`,
    ];
    const child = run('mariadb-dump', account, [...options, account.database]);
    child.stdin.end();
    await ended(child);
    return await readFile(file);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Puts a dumped database in the place of this one. It is taken as SQL alone: commands of the client's own, such as a shell, are not looked for. */
export async function loadDatabase(account: Account, file: string): Promise<void> {
  const child = run('mariadb', account, ['--binary-mode', account.database]);
  const done = ended(child);
  await Promise.all([pipeline(createReadStream(file), child.stdin).catch(() => undefined), done]);
}
