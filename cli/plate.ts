import { parseArgs } from 'node:util';
import { PictureError } from '../server/pictures/decode.ts';
import { gatherScreen, MOST_GATHERED } from '../server/pictures/gatherScreen.ts';
import { writeWhole } from '../server/store/writeWhole.ts';
import { UsageError } from './main.ts';

export const plateUsage = `silent-lawn plate FILE... --out FILE.jpg

  Puts the empty screen together from frames of one setup: each shows what another covers. The first ${MOST_GATHERED} are used.
  Give the result to cut --plate.

  --out FILE.jpg       where it goes
  --json               one line of JSON: frames used, share of the picture over which one shows the screen

What cannot be used is named and does not stop the others.

Exit code 0: done; 1: a file could not be used, or no plate be made; 2: wrong usage.`;

export async function plateCommand(args: string[]): Promise<number> {
  let parsed;
  try {
    parsed = parseArgs({ args, allowPositionals: true, options: { out: { type: 'string' }, json: { type: 'boolean', default: false } } });
  } catch (error) {
    throw new UsageError((error as Error).message);
  }
  const { values, positionals } = parsed;
  if (!positionals.length) throw new UsageError('FILE: expected frames of one setup, received none');
  if (!values.out) throw new UsageError('--out: expected a file, received none');
  try {
    const { content, used, seen, width, height, refused } = await gatherScreen(positionals);
    await writeWhole(values.out, content);
    console.log(values.json ? JSON.stringify({ out: values.out, used, seen, width, height }) : `${values.out}: from ${used} frames, which show the screen over ${Math.round(100 * seen)} % of the picture`);
    for (const { path, message } of refused) console.error(`${path}: ${message}`);
    return refused.length ? 1 : 0;
  } catch (error) {
    if (!(error instanceof PictureError) && !(error as NodeJS.ErrnoException).code) throw error;
    console.error((error as Error).message);
    return 1;
  }
}
