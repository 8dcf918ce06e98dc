import { dirname, resolve } from 'node:path';
import { faultOf, inWords } from '../server/faults.ts';
import { gatherScreen, MOST_GATHERED } from '../server/stations/gather/gatherScreen.ts';
import { writeWhole } from '../server/store/writeWhole.ts';
import { makeFolder } from './cut.ts';
import { argumentsOf, UsageError } from './arguments.ts';
import { Outputs } from './outputs.ts';

export const plateUsage = `silent-lawn plate FILE... --out FILE.jpg

  Puts the empty screen together from frames of one setup: each shows what another covers. The first ${MOST_GATHERED} are used.
  Give the result to cut --plate.

  --out FILE.jpg       where it goes
  --force              write over a file that is there already; never over a frame
  --json               one line of JSON: frames used, share of the picture over which one shows the screen

What cannot be used is named and does not stop the others.

Exit code 0: done; 1: a file could not be used, or no plate be made; 2: wrong usage.`;

export async function plateCommand(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, {
    out: { type: 'string' },
    force: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  if (!positionals.length) throw new UsageError('FILE: expected frames of one setup, received none');
  if (!values.out) throw new UsageError('--out: expected a file, received none');
  const outputs = await Outputs.over(positionals, values.force);
  const target = resolve(values.out);
  try {
    await makeFolder(dirname(target));
    const refusal = await outputs.refusal(target);
    if (refusal) throw new UsageError(`--out: ${refusal.reason}. ${refusal.remedy}`);
    const { content, used, seen, width, height, refused } = await gatherScreen(positionals);
    await writeWhole(target, content);
    await outputs.note(target);
    await outputs.close();
    console.log(
      values.json
        ? JSON.stringify({ out: values.out, used, seen, width, height })
        : `${values.out}: from ${used} frames, which show the screen over ${Math.round(100 * seen)} % of the picture`,
    );
    for (const { path, message } of refused) console.error(`${path}: ${message}`);
    return refused.length ? 1 : 0;
  } catch (error) {
    if (error instanceof UsageError || !faultOf(error)) throw error;
    console.error(inWords(error));
    return 1;
  }
}
