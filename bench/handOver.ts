import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { cutFrame, defaultRecipe, noGuidance } from '../core/cut/index.ts';
import { shippedPresets, type Preset, type WrittenFacts } from '../core/handOver/index.ts';
import { defaultLook, defaultPlacement } from '../core/place/index.ts';
import { demoBackgrounds, demoFrames, demoShot, paintBackground, takeFrame } from '../core/studio/index.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { encodePicture } from '../server/pictures/encode.ts';
import { decodeCutout } from '../server/pictures/views.ts';
import { makeFiles, type FilesInput } from '../server/stations/handOver/filesTask.ts';
import { LocalStore } from '../server/store/localStore.ts';
import { Pools } from '../server/threads/pools.ts';
import { writeSection } from './section.ts';
import '../server/kernels.ts';

/** Height of the frame and of its background, pixels. */
const HEIGHT = 3000;
/** Frames of the batch, and what is made of each. */
const BATCH = 24;
const USED = ['Print 13 × 18 cm', 'Screen', 'Cutout'];
const facts: WrittenFacts = {
  title: 'Bench',
  photographer: 'Ada Marsh',
  rights: '',
  place: '',
  instructions: '',
  person: '',
  taken: '',
};

/** Makes the files of a hand-over and writes how long they take against decoding and encoding alone. */
export async function handOver(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-bench-hand-'));
  const store = new LocalStore(join(folder, 'store'));
  const pools = new Pools(store.at, availableParallelism());
  try {
    const input = await prepared(store);
    const floor = await least(3, () => encodedAlone(input, store));
    const of = (names: readonly string[]): FilesInput => ({
      ...input,
      wanted: names.map((name, row) => ({ row, preset: preset(name), facts, madeFrom: name })),
    });
    const rows: string[] = [];
    for (const { name } of shippedPresets) {
      const seconds = await least(3, () => makeFiles(of([name]), { store, tell: () => undefined }));
      rows.push(`| ${name} | ${(seconds / floor).toFixed(1)} | ${seconds.toFixed(1)} s |`);
    }
    const batch = async (frames: number, threads: number): Promise<number> => {
      let left = frames;
      const start = performance.now();
      const work = async (): Promise<void> => {
        while (left-- > 0) await pools.run('batch', 'files', of(USED));
      };
      await Promise.all(Array.from({ length: threads }, work));
      return (performance.now() - start) / 1000 / frames;
    };
    await batch(availableParallelism(), availableParallelism());
    const alone = await batch(8, 1);
    const each = await batch(BATCH, availableParallelism());
    const lines = [
      `A portrait of ${HEIGHT} pixels' height on a background of that height, matched and joined. 1.0 is decoding the cut and the background and encoding the finished picture as JPEG (${floor.toFixed(1)} s).`,
      '',
      '| one file as | times that | here |',
      '| --- | --: | --: |',
      ...rows,
      '',
      `${USED.join(', ')} of ${BATCH} frames on ${availableParallelism()} threads: ${(each / floor).toFixed(1)} a frame for all three, ${(alone / each).toFixed(1)} times as fast as on one; 400 frames take ${Math.round((400 * each) / 60)} min here.`,
    ];
    await writeSection('speed.md', 'Hand over', lines.join('\n'));
    console.log(lines.join('\n'));
  } finally {
    await pools.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

const preset = (name: string): Preset => shippedPresets.find((one) => one.name === name) as Preset;

async function prepared(store: LocalStore): Promise<FilesInput> {
  const { plan, shot } = demoShot(demoFrames[0], HEIGHT);
  const { frame } = takeFrame(plan, shot);
  const photograph = await encodePicture(frame, 'jpeg');
  const file = await store.put(photograph);
  const picture = await decodePicture(await store.need(file, 'this photograph'), 'frame');
  const cut = cutFrame(picture, defaultRecipe, noGuidance, {});
  if (!cut.ok) throw new Error(cut.reason);
  const behind = paintBackground(demoBackgrounds[0].scene(), Math.round(HEIGHT * 0.75), HEIGHT, 1);
  return {
    photograph: file,
    order: { recipe: defaultRecipe, guidance: noGuidance, plate: null },
    cut: { file: await store.put(await encodePicture(cut.cutout, 'png')), depth: 8 },
    finished: {
      background: await store.put(await encodePicture(behind, 'jpeg')),
      light: { lightFrom: null },
      placement: defaultPlacement,
      look: defaultLook,
      others: [],
      people: null,
      crops: {},
    },
    wanted: [],
  };
}

/** What cannot be avoided: both pictures decoded, one of the finished size encoded. */
async function encodedAlone({ cut, finished }: FilesInput, store: LocalStore): Promise<void> {
  await decodeCutout(await store.need(cut.file, 'this cut'), cut.depth);
  const scene = await decodePicture(await store.need(finished?.background ?? '', 'the background'), 'background');
  await encodePicture(scene, 'jpeg');
}

async function least(times: number, work: () => Promise<unknown>): Promise<number> {
  let best = Infinity;
  for (let n = 0; n < times; n++) {
    const start = performance.now();
    await work();
    best = Math.min(best, (performance.now() - start) / 1000);
  }
  return best;
}
