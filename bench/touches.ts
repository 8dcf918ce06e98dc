import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defaultRecipe, noGuidance, type Guidance, type Path, type Recipe, type Touch } from '../core/cut/index.ts';
import { StagedCut } from '../core/cut/stagedCut.ts';
import { demoFrames, demoShot, takeFrame } from '../core/studio/index.ts';
import { ribbonOf } from '../core/touch/ribbon.ts';
import '../server/kernels.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { encodePicture, fromRaster } from '../server/pictures/encode.ts';
import { largePicture } from './largePicture.ts';
import { writeSection } from './section.ts';

/** Rows of a frame that are in sight at full size. */
const ROWS = [900, 2000] as const;
const MEGAPIXELS = 24;

/**
 * How soon a touch shows at full size before the batch, as ratios to decode + encode of the same frame in the same run.
 * Writes its section of docs/speed.md.
 */
export async function touches(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-touches-'));
  try {
    const { plan, shot } = demoShot(demoFrames[0], 2400);
    const base = await fromRaster(takeFrame(plan, shot).frame)
      .toColourspace('srgb')
      .png({ compressionLevel: 1 })
      .toBuffer();
    const file = join(folder, 'large.jpg');
    await largePicture(base, MEGAPIXELS, file);
    const began = performance.now();
    const frame = await decodePicture(file, 'frame');
    const decoded = performance.now() - began;
    const persons = await findPersons(frame);
    const staged = new StagedCut(frame, { persons }, 1);
    const line: Path = { closed: false, points: [0.4, 0.6].map((x) => ({ x, y: 0.25, pressure: 1 })) };
    const paths = new Map([['line', line]]);
    const touch = (n: number, kind: Touch['kind']): Touch => ({
      ...{ id: `${n}`, at: n, kind, on: true, size: 0.02, softness: 0.5, strength: 0.5, path: 'line' },
    });
    const rows: [string, number][] = [];
    const timed = (what: string, work: () => unknown): void => {
      const start = performance.now();
      work();
      rows.push([what, performance.now() - start]);
    };
    const look = (recipe: Recipe, guidance: Guidance) => staged.rows(recipe, guidance, paths, ROWS);
    const laid: Touch[] = [];
    const lay = (what: string, kind: Touch['kind']): void => {
      laid.push(touch(laid.length, kind));
      timed(what, () => look(defaultRecipe, { ...noGuidance, touches: [...laid] }));
    };
    timed('first look at a frame', () => look(defaultRecipe, noGuidance));
    lay('a stroke on coverage', 'take');
    lay('one that moves the outline', 'edgeIn');
    lay('one on colour', 'spillGone');
    lay('one that is solved anew', 'hair');
    timed('it is switched off', () => look(defaultRecipe, { ...noGuidance, touches: laid.slice(0, -1) }));
    timed('spill changed', () => look({ ...defaultRecipe, spill: 0.5 }, { ...noGuidance, touches: laid.slice(0, -1) }));
    const cutout = staged.cut(defaultRecipe, noGuidance);
    if (!cutout) throw new Error('no screen');
    timed('the outline unrolled', () =>
      ribbonOf(cutout, { inside: 30, outside: 42, over: Math.round(0.003 * cutout.height) }),
    );
    const encoding = performance.now();
    await encodePicture(cutout, 'png');
    const floor = decoded + performance.now() - encoding;
    await writeSection(
      'speed.md',
      'Touches at full size',
      `Until a changed cut is in sight at full size before the batch has made it: ${MEGAPIXELS} megapixels, ${ROWS[1] - ROWS[0]} rows in sight, one core, a warm process. As ratios to
decoding and encoding the same frame in the same run (${(floor / 1000).toFixed(2)} s on the machine that wrote this); the aim is 1 s for a touch, 0.3 s for the outline.

| what | ÷ codec floor of ${MEGAPIXELS} MP | seconds in this run |
| --- | --: | --: |
${rows.map(([what, ms]) => `| ${what} | ${(ms / floor).toFixed(2)} | ${(ms / 1000).toFixed(2)} |`).join('\n')}`,
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
