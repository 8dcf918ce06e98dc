import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { jpegFacts } from '../core/image/jpegFacts.ts';
import { isWithin, readingFacts, type ReadingFacts } from '../core/plan/index.ts';
import { checkSetup, plainReport, type CheckInput } from '../core/screen/index.ts';
import { faultOf, inWords } from '../server/faults.ts';
import { decodePicture, PictureError } from '../server/pictures/decode.ts';
import { argumentsOf, UsageError } from './arguments.ts';
import { readPlan } from './readPlan.ts';

export const checkUsage = `silent-lawn check FILE [options]

  FILE                 a test frame with somebody in it, or the empty lit screen
  --plate FILE         the empty screen of the same setup
  --ball FILE          a matt ball where the person stands
  --card FILE          a grey card there; --chart FILE a colour chart
  --plan FILE.json     what was planned, to compare with
  --json               all readings as one JSON object

Exit code 0: ready; 1: not ready, or a file cannot be used; 2: wrong usage.`;

const options = {
  plate: { type: 'string' },
  ball: { type: 'string' },
  card: { type: 'string' },
  chart: { type: 'string' },
  plan: { type: 'string' },
  json: { type: 'boolean', default: false },
} as const;

/** Reads test frames. @returns exit code. */
export async function checkCommand(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, options);
  if (positionals.length !== 1) throw new UsageError(`FILE: expected one test frame, received ${positionals.length}`);
  const input: CheckInput = { plan: values.plan ? await readPlan(values.plan) : undefined };
  const files = {
    frame: positionals[0],
    plate: values.plate,
    ball: values.ball,
    card: values.card,
    chart: values.chart,
  };
  for (const [use, file] of Object.entries(files) as [keyof typeof files, string | undefined][]) {
    if (!file) continue;
    try {
      if (!existsSync(file)) throw new PictureError('the file does not exist', 'Check the path.');
      input[use] = await decodePicture(file, 'photograph');
    } catch (error) {
      if (!faultOf(error)) throw error;
      console.error(`${file}: ${inWords(error)}`);
      return 1;
    }
  }
  input.jpeg = jpegFacts(await readFile(files.plate ?? files.frame));
  const report = checkSetup(input);
  if (!report.found) {
    console.error(
      `${files.frame}: no green or blue screen was found in it. Photograph the lit screen so that it fills at least a twentieth of the frame.`,
    );
    return 1;
  }
  if (values.json) console.log(JSON.stringify(plainReport(report)));
  else print(report);
  return report.ready ? 0 : 1;
}

function print({ ready, forecast, causes, readings }: ReturnType<typeof checkSetup>): void {
  console.log(
    `${ready ? 'Ready' : 'Not ready'}: ${forecast?.minutes.toFixed(0)} min by hand (${forecast?.low.toFixed(0)}–${forecast?.high.toFixed(0)}) for ${forecast?.frames} frames\n`,
  );
  causes.forEach(({ title, remedy, minutes }, n) =>
    console.log(`${n + 1}. ${title}${minutes >= 1 ? `, ${minutes.toFixed(0)} min` : ''}. ${remedy}`),
  );
  if (causes.length) console.log('');
  for (const { id, value, reason } of readings) {
    const { title, unit, digits }: ReadingFacts = readingFacts[id];
    console.log(`${isWithin(id, value) ? ' ' : '!'} ${title}: ${value.toFixed(digits)} ${unit}. ${reason}`);
  }
}
