import { luminance } from '../core/colour/luminance.ts';
import { linearTable } from '../core/colour/transfer.ts';
import { cutFrame, defaultRecipe } from '../core/cut/index.ts';
import type { EncodedRaster } from '../core/image/raster.ts';
import { grouped } from '../core/gather/grouped.ts';
import { fringeOn, fringeSamples } from '../core/place/fringe.ts';
import { painted } from '../core/place/index.ts';
import { demoBackgrounds, paintBackground } from '../core/studio/index.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import '../server/kernels.ts';
import { colourDifference } from '../server/pictures/colourDifference.ts';
import { spearman } from './accuracyReport.ts';
import type { Truth } from './measure.ts';
import { framesOf, setNames } from './sets.ts';
import { writeSection } from './section.ts';

/** Plain tones beside the painted scenes. */
const TONES = { white: '#f4f4f4', grey: '#767676', black: '#121214', red: '#be1818', navy: '#0c1024' };
/** The person fills the background. */
const placement = { x: 0.5, y: 1, height: 1 };
/** Every so many-th half-covered pixel is compared. */
const EVERY = 7;

/** How well the fringe that is seen on a background is foretold. @param folder of photographs with truth. */
export async function fringe(folder?: string, every = 9): Promise<void> {
  const rows: string[] = [];
  const all: Pair[] = [];
  for (const set of setNames) {
    const pairs: Pair[] = [];
    const frames = framesOf(set, folder).filter(
      ({ part }, n) => part === 'reporting' && (set === 'photographs' || n % every === 0),
    );
    for (const frame of frames) pairs.push(...(await pairsOf(frame.name, await frame.load(false))));
    if (!pairs.length) continue;
    all.push(...pairs);
    rows.push(rowOf({ standIn: 'Stand-in', generated: 'Generator', photographs: 'Photographs' }[set], pairs));
  }
  rows.push(rowOf('all', all));
  await writeSection(
    'accuracy.md',
    'Fringe foretold',
    `Written by \`npm run bench -- fringe [DIR [EVERY]]\`. Frames of the reporting parts, cut with the default recipe, over nine backgrounds each (five plain
tones, the four painted scenes). Truth: CIEDE2000 between the finished picture and the true one, summed over all truly half-covered pixels, as thousandths
of the frame; foretold: \`fringeOn\`, which knows the cut alone. Aim: an order (Spearman) of at least 0.8 over people and backgrounds. *Of one person* is the mean
order of the backgrounds for each person; *best*, how often the background that is named best is truly among the best three of nine.

| set | people | pairs | order of all | of one person | best |
| --- | --: | --: | --: | --: | --: |
${rows.join('\n')}`,
  );
}

interface Pair {
  person: string;
  truth: number;
  foretold: number;
}

async function pairsOf(person: string, truth: Truth): Promise<Pair[]> {
  const persons = await findPersons(truth.frame);
  const cut = cutFrame(truth.frame, defaultRecipe, undefined, { persons });
  if (!cut.ok) return [];
  const { width, height } = truth.matte;
  const samples = fringeSamples(cut.cutout);
  const backgrounds = [
    ...Object.values(TONES).map((tone) => painted({ from: tone, to: tone, way: 'plain' }, width, height)),
    ...demoBackgrounds.map(({ scene }) => paintBackground(scene(), width, height, 5)),
  ];
  return backgrounds.map((background) => ({
    person,
    truth: seenOn(cut.cutout, truth, background),
    foretold: fringeOn(
      samples,
      { screen: luminance(...truth.screen), cut: cut.cutout, background, on: background, placement },
      colourDifference,
    ),
  }));
}

function seenOn(cut: EncodedRaster, { matte, clean }: Truth, background: EncodedRaster): number {
  const table = linearTable(cut.data);
  const behind = linearTable(background.data);
  const white = cut.data instanceof Uint16Array ? 65535 : 255;
  let sum = 0;
  let half = 0;
  for (let p = 0; p < matte.data.length; p++) {
    const true_ = matte.data[p];
    if (true_ <= 0.02 || true_ >= 0.98 || half++ % EVERY) continue;
    const a = cut.data[4 * p + 3] / white;
    const [got, wanted] = [
      [0, 0, 0],
      [0, 0, 0],
    ];
    for (let c = 0; c < 3; c++) {
      const there = behind[background.data[background.channels * p + c]];
      got[c] = a * table[cut.data[4 * p + c]] + (1 - a) * there;
      wanted[c] = clean.data[4 * p + c] + (1 - true_) * there;
    }
    sum += colourDifference(got, wanted);
  }
  return (1000 * EVERY * sum) / matte.data.length;
}

function rowOf(title: string, pairs: readonly Pair[]): string {
  const people = [...grouped(pairs, ({ person }) => person).values()];
  const order = (list: readonly Pair[]): number =>
    spearman(
      list.map(({ truth }) => truth),
      list.map(({ foretold }) => foretold),
    );
  const own = people.reduce((sum, list) => sum + order(list), 0) / people.length;
  const best = people.filter((list) => {
    const named = list.reduce((a, b) => (b.foretold < a.foretold ? b : a));
    return list.filter(({ truth }) => truth < named.truth).length < 3;
  }).length;
  return `| ${title} | ${people.length} | ${pairs.length} | ${order(pairs).toFixed(2)} | ${own.toFixed(2)} | ${best} of ${people.length} |`;
}
