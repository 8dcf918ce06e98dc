import { differenceCiede2000, type Rgb } from 'culori';
import { encoderFor } from '../core/colour/transfer.ts';
import type { EncodedRaster, LinearRaster } from '../core/image/raster.ts';
import {
  compositeOnBackground,
  cubeOf,
  defaultLook,
  matchOf,
  miredOf,
  placedPeople,
  placedPicture,
  plainLook,
  plainSides,
  tonesOf,
  type Also,
  type BallLight,
  type Look,
} from '../core/place/index.ts';
import { seededRandom } from '../core/random.ts';
import type { Lights } from '../core/studio/lights.ts';
import { readBallFrame } from '../core/screen/targets.ts';
import type { Plan } from '../core/plan/index.ts';
import {
  ballIn,
  demoBackgrounds,
  demoFrames,
  demoShot,
  paintBackground,
  takeFrame,
  type Shot,
} from '../core/studio/index.ts';
import { writeSection } from './section.ts';

/** Height of the frames and backgrounds that are compared, pixels. */
const HEIGHT = 480;
/** Of the pictures that are timed: 24 megapixels. */
const FULL = { width: 4000, height: 6000 };
/** People under random lights whose lighter side is read. */
const LIGHTS = 200;
/** Every so many-th pixel of the person is compared. */
const EVERY = 7;
const placement = { x: 0.5, y: 1, height: 1 };

/**
 * How near the match of a person to a background comes to the same person rendered in that background's own light.
 * @param wanted name of one background; all of them without.
 */
export async function match(wanted?: string): Promise<void> {
  const look: Look = { ...plainLook };
  for (const name of ['toLevel', 'toTint', 'toBlacks', 'toSaturation', 'toSide'] as const)
    look[name] = defaultLook[name];
  const rows: string[] = [];
  const all = { before: [] as number[], after: [] as number[], balls: [] as number[] };
  const frames = demoFrames.filter(({ subjects }) => subjects.length === 1).filter((_, n) => n % 3 === 0);
  for (const { name, title, scene, lights, facts } of demoBackgrounds) {
    if (wanted && wanted !== name) continue;
    const background = paintBackground(scene(), Math.round((HEIGHT * 3) / 4), HEIGHT, 5);
    const there = tonesOf(background);
    if (!there) continue;
    const before: number[] = [];
    const after: number[] = [];
    const balls: number[] = [];
    const sceneBall = ballIn(lights);
    const sides: number[] = [];
    let proposed = '';
    for (const frame of frames) {
      const { plan, shot } = demoShot(frame, HEIGHT);
      const clean = { ...shot, noiseless: true };
      const cut = cutOf(takeFrame(plan, { ...clean, withoutBounce: true }).foreground);
      const truth = compositeOnBackground(
        cutOf(takeFrame(plan, { ...clean, lights }).foreground),
        background,
        placement,
      );
      const person = tonesOf(cut);
      if (!person) continue;
      const measured = { person, scene: there, cut, background, lightFrom: facts.lightFrom };
      const placed = placedPicture(cut, background, placement, look, measured);
      before.push(apart(compositeOnBackground(cut, background, placement), truth, cut));
      after.push(apart(placed, truth, cut));
      const own = ballOf(plan, shot);
      if (own && sceneBall) {
        const known = { ...measured, balls: { person: own, scene: sceneBall } };
        balls.push(apart(placedPicture(cut, background, placement, look, known), truth, cut));
      }
      sides.push(Math.sign(person.side));
      const { exposure, warmth } = matchOf(measured, look, placement).proposed;
      proposed = `${exposure.toFixed(2)} stops, ${Math.round(warmth)} mired`;
    }
    all.before.push(...before);
    all.after.push(...after);
    all.balls.push(...balls);
    rows.push(
      `| ${title} | ${mean(before).toFixed(1)} | ${mean(after).toFixed(1)} | ${(mean(after) / mean(before)).toFixed(2)} | ${mean(balls).toFixed(1)} | ${(mean(balls) / mean(before)).toFixed(2)} | ${proposed} (seen ${Math.round(miredOf(there.light))} mired, level ${there.level.toFixed(3)}, side ${there.side.toFixed(2)}) |`,
    );
  }
  const { before, after, balls } = all;
  const table = `Mean CIEDE2000 of the person against the same person rendered in the scene's own light, ${frames.length} frames on each background,
defaults, nothing joined or graded.

| background | unmatched | matched | ratio | with balls | ratio | proposed for the last of them |
| --- | --: | --: | --: | --: | --: | --- |
${rows.join('\n')}
| all | ${mean(before).toFixed(1)} | ${mean(after).toFixed(1)} | ${(mean(after) / mean(before)).toFixed(2)} | ${mean(balls).toFixed(1)} | ${(mean(balls) / mean(before)).toFixed(2)} | |

With balls: one read from a frame of the person's set, one as it would look in the scene; the same defaults.
What stays is mostly the shape of the light: which way places of the person face is only guessed from the outline, and shadows that fall
on the person stay where they fell.`;
  console.log(table);
  if (wanted) return;
  await writeSection('accuracy.md', 'Match of person and background', table);
  await sides();
  await cost();
}

const ballsRead = new Map<string, BallLight | undefined>();

/** The light on a ball at the person's place, as it is read from a frame of the stand-in camera. */
function ballOf(plan: Plan, shot: Shot): BallLight | undefined {
  if (!ballsRead.has(plan.name)) {
    const { frame } = takeFrame(plan, { ...shot, kind: 'ball', width: shot.width * 2, height: shot.height * 2 });
    ballsRead.set(plan.name, readBallFrame(frame, plan.screen.colour === 'blue' ? 2 : 1)?.light);
  }
  return ballsRead.get(plan.name);
}

/** How often the side from which a person is lit is read right. */
async function sides(): Promise<void> {
  const random = seededRandom(31);
  const frames = demoFrames.filter(({ subjects }) => subjects.length === 1);
  const wrong: string[] = [];
  let told = 0;
  let silent = 0;
  const mirrored = { should: 0, offered: 0, wrongly: 0 };
  for (let n = 0; n < LIGHTS; n++) {
    const frame = frames[n % frames.length];
    const right = random() < 0.5;
    const [x, y, z] = [(right ? 1 : -1) * (0.3 + 0.6 * random()), 0.2 + 0.6 * random(), 0.3 + 0.6 * random()];
    const length = Math.hypot(x, y, z);
    const key = 0.5 + 0.5 * random();
    const fill = 0.1 + 0.25 * random();
    const lights: Lights = {
      key: { direction: [x / length, y / length, z / length], colour: [key, key * 0.95, key * 0.88] },
      others: [],
      ambient: [fill, fill, fill],
      bounce: [0, 0, 0],
    };
    const { plan, shot } = demoShot(frame, 240);
    const tones = tonesOf(cutOf(takeFrame(plan, { ...shot, noiseless: true, lights }).foreground));
    if (!tones) continue;
    // The scene's light is marked, from either side.
    const sceneRight = random() < 0.5;
    const offered = Math.abs(tones.side) >= plainSides.person && tones.side > 0 !== sceneRight;
    const should = right !== sceneRight;
    if (should) mirrored.should++;
    if (offered && should) mirrored.offered++;
    if (offered && !should) mirrored.wrongly++;
    if (Math.abs(tones.side) < plainSides.person) silent++;
    else if (tones.side > 0 === right) told++;
    else wrong.push(frame.name);
  }
  const table = `${LIGHTS} people of the sample, each under one main light from a random side (17° and more beside the camera) with random fill.

| said | frames |
| --- | --: |
| the right side | ${told} (${Math.round((100 * told) / LIGHTS)} %) |
| nothing, as the sides are too alike | ${silent} |
| the wrong side | ${wrong.length} |

Before scenes whose light is marked at either side, mirroring is offered for ${mirrored.offered} of ${mirrored.should} people who should be mirrored, and for
${mirrored.wrongly} of the other ${LIGHTS - mirrored.should}.`;
  console.log(table);
  await writeSection('accuracy.md', 'Side of the light on a person', table);
}

/** What a finished picture costs at full size, in times of mixing the two alone. */
async function cost(): Promise<void> {
  const { width, height } = FULL;
  const behind: EncodedRaster = { width, height, channels: 3, data: new Uint8Array(width * height * 3).fill(120) };
  const data = new Uint8Array(width * height * 4).fill(160);
  for (let p = 0; p < width * height; p++) data[p * 4 + 3] = Math.abs((p % width) - width / 2) < width / 4 ? 255 : 0;
  const cut: EncodedRaster = { width, height, channels: 4, data };
  const timed = (work: () => unknown): number => {
    const start = performance.now();
    work();
    return performance.now() - start;
  };
  const small = { x: 0.5, y: 1, height: 0.94 };
  const looks: [string, Look][] = [
    ['as proposed', defaultLook],
    ['all of it at once', { ...defaultLook, haze: 0.2, wall: 0.5, behindBlur: 4, vignette: 0.5, contrast: 1.2 }],
  ];
  const person = { cutout: cut, placement: small, mirrored: false, turn: 0, measured: undefined };
  const also: Also = {
    lut: cubeOf('Warm', 33, (rgb) => (rgb[2] *= 0.9)),
    front: [{ picture: cut, strength: 0.2, way: 'light' }],
  };
  const rounds = [1, 2, 3].map(() => [
    timed(() => compositeOnBackground(cut, behind, small)),
    ...looks.map(([, look]) => timed(() => placedPicture(cut, behind, small, look, undefined))),
    timed(() => placedPicture(cut, behind, small, defaultLook, undefined, also)),
    timed(() => placedPeople([person, person], behind, defaultLook)),
    timed(() => tonesOf(cut)),
  ]);
  const [mixed, ...others] = rounds[0].map((_, n) => rounds.map((round) => round[n]).sort((a, b) => a - b)[1]);
  const table = `24 megapixels, person and background, one thread, the middle of three runs, in times of mixing the two in linear light alone
(${(mixed / 1000).toFixed(1)} s here).

| | times |
| --- | --: |
${[...looks.map(([title]) => `finished, ${title}`), 'finished, with a look-up table and a layer', 'finished, two people', 'measuring the cut, once'].map((title, n) => `| ${title} | ${(others[n] / mixed).toFixed(2)} |`).join('\n')}`;
  console.log(table);
  await writeSection('speed.md', 'Finished pictures', table);
}

function cutOf({ width, height, data }: LinearRaster): EncodedRaster & { channels: 4 } {
  const out = new Uint16Array(width * height * 4);
  const encode = encoderFor(out);
  for (let i = 0; i < out.length; i += 4) {
    const a = Math.min(1, data[i + 3]);
    for (let c = 0; c < 3 && a > 0; c++) out[i + c] = encode(data[i + c] / data[i + 3]);
    out[i + 3] = Math.round(a * 65535);
  }
  return { width, height, channels: 4, data: out };
}

const difference = differenceCiede2000();

/** Mean difference of two pictures where a cut of their height, in their middle, covers. */
function apart(a: EncodedRaster, b: EncodedRaster, cut: EncodedRaster): number {
  const left = Math.round((a.width - cut.width) / 2);
  const rgb = ({ data }: EncodedRaster, i: number): Rgb => ({
    mode: 'rgb',
    r: data[i] / 255,
    g: data[i + 1] / 255,
    b: data[i + 2] / 255,
  });
  let sum = 0;
  let count = 0;
  for (let p = 0; p < cut.width * cut.height; p += EVERY) {
    if (cut.data[p * 4 + 3] < 32768) continue;
    const x = left + (p % cut.width);
    if (x < 0 || x >= a.width) continue;
    const i = (Math.floor(p / cut.width) * a.width + x) * 3;
    sum += difference(rgb(a, i), rgb(b, i));
    count++;
  }
  return sum / Math.max(1, count);
}

const mean = (values: number[]): number => values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length);
