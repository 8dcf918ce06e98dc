import { join, resolve } from 'node:path';
import { demoPeople, takeFrame, type Shot, type SubjectName } from '../core/studio/index.ts';
import { encodeForeground, encodeScreen } from '../server/standIn/encodeTruth.ts';
import { encodeMatte, encodeShot } from '../server/standIn/encodeShot.ts';
import { writeWhole } from '../server/store/writeWhole.ts';
import { makeFolder } from './cut.ts';
import { argumentsOf, UsageError } from './arguments.ts';
import { Outputs } from './outputs.ts';
import { readPlan } from './readPlan.ts';

const KINDS = ['people', 'plate', 'ball', 'grey card', 'colour chart'] as const;

export const shootUsage = `silent-lawn shoot FILE.json --out DIR [options]

  --out DIR            where frames go: NAME.jpg or .tif, and NAME.matte.png, NAME.foreground.png, NAME.screen.png
  --kind K             people (default), plate, ball, 'grey card', 'colour chart'
  --people A,B         who stands there (default: one after the other); known: ${Object.keys(demoPeople).join(', ')}
  --count N            frames to take (default 1)
  --height N           pixels from top to bottom (default: the plan's camera)
  --seed N             first take's number; the same number gives the same picture (default 1)
  --force              write over files that are there already; never over the plan
  --json               one line of JSON for each frame`;

/** Renders frames of a plan with everything that is true about them. @returns exit code. */
export async function shootCommand(args: string[]): Promise<number> {
  const { file, out, kind, people, count, height: wanted, seed, json, force } = readArguments(args);
  const plan = await readPlan(file);
  await makeFolder(out);
  const outputs = await Outputs.over([file], force);
  const height = wanted ?? plan.camera.pixelsDown;
  const width = Math.max(1, Math.round((plan.camera.pixelsAcross * height) / plan.camera.pixelsDown));
  const names = Object.keys(demoPeople) as SubjectName[];
  for (let n = 0; n < count; n++) {
    const chosen = people.length ? people : [names[(seed + n - 1) % names.length]];
    const shot: Shot = {
      kind,
      subjects: chosen.map((name, k) => ({ ...demoPeople[name], moment: (seed + n) * 7 + k })),
      seed: seed + n,
      width,
      height,
    };
    const start = performance.now();
    const taken = takeFrame(plan, shot);
    const milliseconds = Math.round(performance.now() - start);
    const name = `${kind === 'people' ? 'frame' : kind.replace(' ', '-')}-${String(seed + n).padStart(4, '0')}`;
    const target = join(out, `${name}.${plan.camera.file === 'jpeg' ? 'jpg' : 'tif'}`);
    const encoders: Record<string, () => Promise<Buffer>> = {
      [target]: () => encodeShot(taken, plan.camera, `${plan.event.date.replaceAll('-', ':')} 12:00:00`),
      [join(out, `${name}.matte.png`)]: () => encodeMatte(taken),
      [join(out, `${name}.foreground.png`)]: () => encodeForeground(taken),
      [join(out, `${name}.screen.png`)]: () => encodeScreen(taken),
    };
    for (const [path, encode] of Object.entries(encoders)) {
      const refusal = await outputs.refusal(path);
      if (refusal) throw new UsageError(`--out: ${refusal.reason}. ${refusal.remedy}`);
      await writeWhole(path, await encode());
      await outputs.note(path);
    }
    console.log(
      json
        ? JSON.stringify({
            file: target,
            kind,
            people: kind === 'people' ? chosen : [],
            width,
            height,
            ms: milliseconds,
          })
        : target,
    );
  }
  await outputs.close();
  return 0;
}

function readArguments(args: string[]) {
  const { values, positionals } = argumentsOf(args, {
    out: { type: 'string' },
    kind: { type: 'string', default: 'people' },
    people: { type: 'string' },
    count: { type: 'string', default: '1' },
    height: { type: 'string' },
    seed: { type: 'string', default: '1' },
    force: { type: 'boolean', default: false },
    json: { type: 'boolean', default: false },
  });
  if (positionals.length !== 1) throw new UsageError(`FILE.json: expected one plan, received ${positionals.length}`);
  if (!values.out) throw new UsageError('--out: expected a folder, received none');
  const kind = KINDS.find((k) => k === values.kind);
  if (!kind) throw new UsageError(`--kind: expected ${KINDS.join(', ')}, received ${values.kind}`);
  const people = (values.people ?? '').split(',').filter(Boolean);
  for (const name of people)
    if (!Object.hasOwn(demoPeople, name))
      throw new UsageError(`--people: expected some of ${Object.keys(demoPeople).join(', ')}, received ${name}`);
  const whole = (name: string, text: string, min: number, max: number): number => {
    const value = Number(text);
    if (!Number.isInteger(value) || value < min || value > max)
      throw new UsageError(`--${name}: expected a whole number from ${min} to ${max}, received ${text}`);
    return value;
  };
  return {
    file: positionals[0],
    out: resolve(values.out),
    kind,
    people: people as SubjectName[],
    count: whole('count', values.count, 1, 10000),
    height: values.height === undefined ? undefined : whole('height', values.height, 60, 12000),
    seed: whole('seed', values.seed, 0, 1e6),
    json: values.json,
    force: values.force,
  };
}
