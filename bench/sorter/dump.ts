import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { EVIDENCE } from '../../core/cut/evidence.ts';
import { surveyFrame } from '../../core/cut/index.ts';
import { lookInShadow, shadedOf } from '../../core/cut/prepare.ts';
import { sortFrame } from '../../core/cut/sorter/sortFrame.ts';
import type { Plane } from '../../core/image/raster.ts';
import { seededRandom, type Random } from '../../core/random.ts';
import { findPersons } from '../../server/persons/findPersons.ts';
import { benchCases } from '../cases.ts';
import { generateTruth } from '../generated.ts';
import { classes, sceneOf } from '../generator/cases.ts';
import type { Truth } from '../measure.ts';
import { renderTruth } from '../renderTruth.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import '../../server/kernels.ts';

/**
 * node --import tsx bench/sorter/dump.ts DIR COUNT SEED [FIRST STEP]: evidence planes of generated frames with their
 * truth, a file for each, to learn from; where the screen lies in shadow, a second one of the second look at it.
 * Layout: width, height, number of planes and 0 (int32 each), then the evidence planes as int8 (value × 63), then the
 * least, mean and greatest true coverage of each reduced pixel as uint8.
 */
const [folder, count, seed, first = '0', step = '1'] = process.argv.slice(2);
if (!seed) throw new Error('expected DIR COUNT SEED');

/**
 * Of all frames: painted by the stand-in, with a plate, without the map of persons, small ones, which are quicker
 * and as instructive, of a hard class, with a shadow, and under the conditions of another class too.
 */
const SHARES = { standIn: 0.22, plate: 0.25, noMap: 0.12, small: 0.75, hard: 0.5, shadow: 0.4, mixed: 0.25 };
/** Classes that are still cut worst, shown more often. */
const hard = classes.filter(({ what }) =>
  [
    'dark, shadow on the screen',
    'group',
    'plants',
    'plants alone, things',
    'striped, checked, badges',
    'cloth near the screen',
    'white cloth, bald, strong spill',
    'sheer cloth',
    'sequins, shiny and printed cloth',
    'fair hair, strong spill',
    'high gain',
    'small screen, wall beyond',
    'nets, lines, feathers',
  ].includes(what),
);

await mkdir(folder, { recursive: true });
for (let n = Number(first); n < Number(count); n += Number(step)) {
  const random = seededRandom(9000 + n + Number(seed));
  const withPlate = random() < SHARES.plate;
  const withMap = random() >= SHARES.noMap;
  const truth = random() < SHARES.standIn ? await fromStandIn(random, n) : await fromGenerator(random, n, withPlate);
  const persons = withMap ? await findPersons(truth.frame) : undefined;
  const seen = surveyFrame(truth.frame, { plate: withPlate ? truth.plate : undefined, persons });
  if (!seen) continue;
  const { width, height } = seen.reduced;
  const header = new Uint8Array(Int32Array.of(width, height, EVIDENCE, 0).buffer);
  const coverage = coverageOf(truth.matte, width, height, seen.factor);
  const write = (name: string, evidence: Float32Array) =>
    writeFile(join(folder, `${name}.bin`), Buffer.concat([header, asBytes(evidence), coverage]));
  const name = String(n).padStart(5, '0');
  await write(name, seen.evidence);
  const { evidence } = lookInShadow(seen, sortFrame(seen.evidence, width, height), shadedOf(seen).dark);
  if (evidence) await write(`${name}-shadow`, evidence);
  if (n % 50 === 0) console.log(n);
}

function asBytes(evidence: Float32Array): Uint8Array {
  return new Uint8Array(Int8Array.from(evidence, (v) => Math.max(-127, Math.min(127, Math.round(63 * v)))).buffer);
}

/** Scenarios of the bench's tuning part, with seeds of their own. */
function fromStandIn(random: Random, n: number): Promise<Truth & { plate: EncodedRaster }> {
  const tuning = benchCases().filter(({ part }) => part === 'tuning');
  const one = tuning[Math.floor(random() * tuning.length)];
  return renderTruth({ ...one, shot: { ...one.shot, height: 600 + Math.floor(500 * random()), seed: 555000 + n } });
}

function fromGenerator(random: Random, n: number, withPlate: boolean): Promise<Truth & { plate?: EncodedRaster }> {
  const kind = random() < SHARES.hard ? hard[Math.floor(random() * hard.length)] : classes[n % classes.length];
  const small = random() < SHARES.small;
  const other = classes[Math.floor(random() * classes.length)].scene;
  const mixed = random() < SHARES.mixed && other;
  const both: typeof kind = mixed
    ? {
        ...kind,
        scene: (scene, r) => {
          kind.scene?.(scene, r);
          mixed(scene, r);
        },
      }
    : kind;
  const scene = sceneOf(both, Number(seed) + n, small ? 0.2 + 0.28 * random() : undefined);
  if (random() < SHARES.shadow && scene.shadow.stops === 0)
    scene.shadow = {
      stops: 2.4 * random(),
      x: 0.16 * (random() - 0.5),
      y: 0.08 * random(),
      soft: 0.004 + 0.04 * random(),
    };
  if (!small) return generateTruth(scene, withPlate);
  // Small frames stand for reduced ones: sharper, and with less noise.
  scene.camera = { ...scene.camera, signalToNoise: scene.camera.signalToNoise * (1 + 2 * random()), smear: 0 };
  if (scene.blur < 2) scene.blur *= 0.6 * random();
  return generateTruth(scene, withPlate);
}

/** Least, mean and greatest coverage of each reduced pixel, three planes of 0–255. */
function coverageOf({ width, height, data }: Plane, across: number, down: number, factor: number): Uint8Array {
  const out = new Uint8Array(3 * across * down);
  for (let y = 0, p = 0; y < down; y++) {
    for (let x = 0; x < across; x++, p++) {
      let least = 1;
      let most = 0;
      let sum = 0;
      let n = 0;
      for (let yy = y * factor; yy < Math.min(height, (y + 1) * factor); yy++) {
        for (let xx = x * factor; xx < Math.min(width, (x + 1) * factor); xx++, n++) {
          const a = data[yy * width + xx];
          least = Math.min(least, a);
          most = Math.max(most, a);
          sum += a;
        }
      }
      out[p] = Math.round(255 * least);
      out[across * down + p] = Math.round((255 * sum) / n);
      out[2 * across * down + p] = Math.round(255 * most);
    }
  }
  return out;
}
