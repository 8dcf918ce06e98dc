import { existsSync } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { basename, extname, join, resolve } from 'node:path';
import { Piscina } from 'piscina';
import type { z } from 'zod';
import { guidanceFileSchema, recipeFileSchema } from '../contract/index.ts';
import { defaultRecipe, departed, noGuidance } from '../core/cut/index.ts';
import { inWords } from '../server/faults.ts';
import { decodePicture, inspectPicture } from '../server/pictures/decode.ts';
import { endings } from '../core/handOver/index.ts';
import type { CutLine, CutOrder } from './cutWorker.ts';
import { argumentsOf, UsageError } from './arguments.ts';
import { Outputs } from './outputs.ts';

export const cutUsage = `silent-lawn cut FILE... --out DIR [options]

  --out DIR            where the cutouts go, as DIR/NAME.png
  --format F           png (default), png16 or tiff16; alpha is straight, colours are sRGB
  --recipe FILE.json   settings; what it leaves out takes its default
  --background FILE    also write DIR/NAME.finished.jpg, the person on this picture
  --plate FILE         a photograph of the empty screen, as large as the frames, camera and lamps untouched
  --masks FILE.json    masks, verdicts, touches and settings of its own, as Extract keeps them of a frame as a file:
                       {"masks": [{"effect": "clear", "polygon": [{"x": 0, "y": 0}, …]}]}, shares of the frame
  --jobs N             frames at once, 1 to 64 (default: one for each core)
  --force              write over files that are there already; never over those that are read
  --json               one line of JSON for each frame on standard output

Exit code 0: all frames cut; 1: some failed; 2: wrong usage.`;

const FORMATS = ['png', 'png16', 'tiff16'] as const;

export async function cutCommand(args: string[]): Promise<number> {
  const { files, out, format, recipeFile, background, plate, masksFile, jobs, json, force } = readArguments(args);
  const recipe = await readJson('--recipe', recipeFile, recipeFileSchema, defaultRecipe);
  const { guidance, paths } = await readJson('--masks', masksFile, guidanceFileSchema, {
    guidance: noGuidance,
    paths: new Map(),
  });
  for (const [option, file] of Object.entries({ plate, background })) if (file) await checkPicture(option, file);
  await makeFolder(out);
  const outputs = await Outputs.over([...files, background, plate, recipeFile, masksFile], force);
  const orders = nameOutputs(files, out, endings[format]).map(({ file, target }): CutOrder => ({
    file,
    target,
    finished: background && target.replace(/\.[^.]*$/, '.finished.jpg'),
    format,
    recipe: departed(recipe, guidance.departures),
    guidance,
    paths,
    plate,
    background,
  }));
  const threads = Math.min(jobs, orders.length);
  // One frame needs no second thread, nor the time to start one.
  const pool =
    threads > 1
      ? new Piscina<CutOrder, CutLine>({
          filename: new URL('./cutWorker.ts', import.meta.url).href,
          maxThreads: threads,
          execArgv: ['--import', import.meta.resolve('tsx')],
        })
      : undefined;
  const cutOne = pool ? (order: CutOrder) => pool.run(order) : (await import('./cutWorker.ts')).default;
  const work = async (order: CutOrder): Promise<boolean> => {
    const { file, target, finished } = order;
    const refused = (await outputs.refusal(target)) ?? (finished ? await outputs.refusal(finished) : undefined);
    const line = refused
      ? { ok: false as const, file, ...refused }
      : await cutOne(order).catch((error: Error): CutLine => ({
          ok: false,
          file,
          reason: `the work on it broke off (${inWords(error)})`,
          remedy: 'Try it with --jobs 1.',
        }));
    if (!line.ok) {
      console.error(`${line.file}: ${line.reason}. ${line.remedy}`);
      return false;
    }
    for (const written of finished ? [target, finished] : [target]) await outputs.note(written);
    const { out: written, width, height, ms, quality } = line;
    console.log(json ? JSON.stringify({ file, out: written, width, height, ms, quality }) : `${file} → ${written}`);
    return true;
  };
  const outcomes: boolean[] = [];
  if (pool) outcomes.push(...(await Promise.all(orders.map(work))));
  else for (const order of orders) outcomes.push(await work(order));
  await pool?.destroy();
  await outputs.close();
  return outcomes.every(Boolean) ? 0 : 1;
}

/** @throws UsageError in words if there is no such folder and none can be made. */
export async function makeFolder(out: string): Promise<void> {
  try {
    await mkdir(out, { recursive: true });
  } catch (error) {
    throw new UsageError(`--out: ${out} cannot be a folder: ${inWords(error)}`);
  }
}

function readArguments(args: string[]) {
  const { values, positionals } = argumentsOf(args, {
    out: { type: 'string' },
    plate: { type: 'string' },
    recipe: { type: 'string' },
    masks: { type: 'string' },
    background: { type: 'string' },
    format: { type: 'string', default: 'png' },
    jobs: { type: 'string' },
    force: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  if (!positionals.length) throw new UsageError('FILE: expected at least one photograph, received none');
  if (!values.out) throw new UsageError('--out: expected a folder, received none');
  const format = FORMATS.find((f) => f === values.format);
  if (!format) throw new UsageError(`--format: expected ${FORMATS.join(', ')}, received ${values.format}`);
  const jobs = values.jobs === undefined ? availableParallelism() : Number(values.jobs);
  if (!Number.isInteger(jobs) || jobs < 1 || jobs > 64)
    throw new UsageError(`--jobs: expected a whole number from 1 to 64, received ${values.jobs}`);
  return {
    files: positionals,
    out: resolve(values.out),
    format,
    recipeFile: values.recipe,
    masksFile: values.masks,
    background: values.background,
    plate: values.plate,
    jobs,
    json: values.json,
    force: values.force,
  };
}

async function readJson<T>(
  option: string,
  file: string | undefined,
  schema: z.ZodType<T, unknown>,
  otherwise: T,
): Promise<T> {
  if (!file) return otherwise;
  let content: unknown;
  try {
    content = JSON.parse(await readFile(file, 'utf8'));
  } catch (error) {
    throw new UsageError(`${option}: ${file} cannot be read as JSON (${inWords(error)})`);
  }
  const result = schema.safeParse(content);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw new UsageError(`${option}: ${file}: ${[...issue.path].join('.')} ${issue.message}`);
}

async function checkPicture(option: string, file: string): Promise<void> {
  if (!existsSync(file)) throw new UsageError(`--${option}: ${file} does not exist`);
  try {
    if (option === 'plate') await decodePicture(file, 'photograph');
    else await inspectPicture(file, 'background');
  } catch (error) {
    throw new UsageError(`--${option}: ${file}: ${inWords(error)}`);
  }
}

/** DIR/NAME.png for each file; the second of the same name gets a number. */
function nameOutputs(files: string[], out: string, extension: string): { file: string; target: string }[] {
  const taken = new Set<string>();
  return files.map((file) => {
    const base = basename(file, extname(file));
    let name = base;
    for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${base}-${n}`;
    taken.add(name.toLowerCase());
    return { file, target: join(out, `${name}.${extension}`) };
  });
}
