import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { readFile, rename, rm, stat } from 'node:fs/promises';
import { basename, join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import { z } from 'zod';
import { jobSchema, problemSchema, shootListSchema } from '../contract/index.ts';
import { argumentsOf, UsageError } from './arguments.ts';

export const carryUsage = `silent-lawn export SHOOT --out FILE.zip
silent-lawn import FILE.zip
silent-lawn backup --out FILE.zip
silent-lawn restore FILE.zip

  Carries one shoot, or everything, out of a running Silent Lawn and in again. SHOOT is a name or a number. A backup
  takes the place of all that is there; it holds the database as SQL, so restore only what you made yourself.

  --out FILE.zip       where it goes
  --force              write over a file that is there already
  --deliveries         export what was handed over as well
  --replace            restore although shoots of your own are there
  --data FOLDER        data folder of the application, if it is not the usual one
  --json               one line of JSON: what was written or made

Exit code 0: done; 1: it could not be done, and why; 2: wrong usage.`;

const options = {
  out: { type: 'string' },
  force: { type: 'boolean', default: false },
  deliveries: { type: 'boolean', default: false },
  replace: { type: 'boolean', default: false },
  data: { type: 'string' },
  json: { type: 'boolean', default: false },
} as const;
type Values = ReturnType<typeof argumentsOf<typeof options>>['values'];

/** Why it could not be done. */
class Failed extends Error {}

export async function carryCommand(command: 'export' | 'import' | 'backup' | 'restore', args: string[]) {
  const { values, positionals } = argumentsOf(args, options);
  const goesOut = command === 'export' || command === 'backup';
  if (goesOut && !values.out) throw new UsageError('--out: expected a file, received none');
  const [what] = positionals;
  if (command !== 'backup' && !what)
    throw new UsageError(
      command === 'export' ? 'SHOOT: expected a shoot, received none' : 'FILE: expected a file, received none',
    );
  try {
    const address = await addressOf(values);
    const said =
      command === 'export'
        ? await fetchTo(
            `${address}api/shoots/${await shootOf(address, what)}/bundle${values.deliveries ? '?deliveries=1' : ''}`,
            values,
          )
        : command === 'backup'
          ? await fetchTo(`${address}api/backup`, values)
          : command === 'import'
            ? await importInto(address, what)
            : await restoreInto(address, what, values.replace);
    console.log(values.json ? JSON.stringify(said.json) : said.words);
    return 0;
  } catch (error) {
    if (!(error instanceof Failed)) throw error;
    console.error(error.message);
    return 1;
  }
}

interface Said {
  json: object;
  words: string;
}

const runningSchema = z.object({ address: z.string() });

/** Where the application of a data folder listens. */
async function addressOf({ data }: Values): Promise<string> {
  const folder = resolve(data ?? process.env.SILENT_LAWN_DATA ?? join(import.meta.dirname, '..', '.data'));
  const text = await readFile(join(folder, 'running.json'), 'utf8').catch(() => undefined);
  const running = text === undefined ? undefined : runningSchema.safeParse(JSON.parse(text));
  if (!running?.success)
    throw new Failed(
      `No Silent Lawn is running on ${folder}. Start it with npm start, or name its folder with --data.`,
    );
  return running.data.address;
}

async function shootOf(address: string, wanted: string): Promise<number> {
  const response = await ask(`${address}api/shoots`);
  const { shoots } = shootListSchema.parse(await response.json());
  const there = shoots.filter(({ removedAt }) => removedAt === null);
  const named = there.filter(({ id, name }) => name === wanted || String(id) === wanted);
  if (named.length === 1) return named[0].id;
  const list = (named.length ? named : there).map(({ id, name, date }) => `${id}  ${name}, ${date}`).join('\n  ');
  throw new Failed(
    `${named.length ? 'Several shoots are' : 'No shoot is'} called “${wanted}”. There are:\n\n  ${list}`,
  );
}

/** Asks; what is refused becomes its reason and remedy. */
async function ask(address: string, init?: RequestInit): Promise<Response> {
  const response = await fetch(address, init).catch((error: Error) => {
    throw new Failed(`Silent Lawn does not answer at ${address}: ${error.message}. See whether it still runs.`);
  });
  if (response.ok) return response;
  const problem = problemSchema.safeParse(await response.json().catch(() => undefined));
  throw new Failed(
    problem.success ? `${problem.data.reason}. ${problem.data.remedy}` : `It answered ${response.status}.`,
  );
}

async function fetchTo(address: string, { out = '', force }: Values): Promise<Said> {
  const target = resolve(out);
  if (existsSync(target) && !force) throw new Failed(`${out} is there already. Choose another name, or say --force.`);
  const response = await ask(address);
  const part = `${target}.part`;
  try {
    await pipeline(Readable.fromWeb(response.body as never), createWriteStream(part, { flush: true }));
    await rename(part, target);
  } catch (error) {
    await rm(part, { force: true });
    throw new Failed(`${out} could not be written: ${(error as Error).message}.`);
  }
  const { size } = await stat(target);
  return { json: { out, bytes: size }, words: `${out}: ${(size / 1e6).toFixed(1)} MB` };
}

async function send(address: string, file: string): Promise<Response> {
  if (!existsSync(file)) throw new Failed(`${file} is not there.`);
  const body = Readable.toWeb(createReadStream(file)) as unknown as BodyInit;
  const headers = { 'content-type': 'application/octet-stream' };
  return ask(address, { method: 'POST', headers, body, duplex: 'half' } as RequestInit);
}

async function importInto(address: string, file: string): Promise<Said> {
  const name = new URLSearchParams({ name: basename(file) });
  let job = jobSchema.parse(await (await send(`${address}api/shoots/import?${name}`, file)).json());
  while (job.state === 'queued' || job.state === 'running') {
    await sleep(300);
    job = jobSchema.parse(await (await ask(`${address}api/jobs/${job.id}`)).json());
  }
  if (job.state !== 'done')
    throw new Failed(job.problem ? `${job.problem.reason}. ${job.problem.remedy}` : 'It was cancelled.');
  const shootId = job.made?.shootId;
  return { json: { shootId }, words: `${file}: taken in as shoot ${shootId}` };
}

async function restoreInto(address: string, file: string, replace: boolean): Promise<Said> {
  const response = await send(`${address}api/restore${replace ? '?replace=1' : ''}`, file);
  const { shoots } = z.object({ shoots: z.number() }).parse(await response.json());
  return { json: { shoots }, words: `${file}: restored, ${shoots} shoots` };
}
