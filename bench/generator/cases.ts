import { seededRandom, type Random } from '../../core/random.ts';
import { someCamera } from './camera.ts';
import { clothKinds } from './cloth.ts';
import { hsv, nearColour } from './colours.ts';
import { person } from './people.ts';
import { armPoses, hairStyles, type PersonNeed } from './personNeed.ts';
import type { Painted } from './picture.ts';
import type { Scene } from './scene.ts';
import { things, type ThingKind } from './things.ts';

/** What a class of frames is about; the rest of a frame is drawn by chance. */
interface Class {
  what: string;
  /** How people stand: heads in the frame's height, and what the frame cuts off. */
  stand?: 'whole' | 'half' | 'close' | 'group' | 'cut' | 'seated';
  people?: (random: Random, hue: number) => Partial<PersonNeed>;
  things?: readonly ThingKind[];
  nobody?: boolean;
  scene?: (scene: Scene, random: Random) => void;
}

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];
const between = (random: Random, from: number, to: number): number => from + (to - from) * random();
const white = (random: Random) => hsv(40, 0.08 * random(), 0.8 + 0.17 * random());

export const classes: readonly Class[] = [
  { what: 'half-length', stand: 'half' },
  { what: 'full length', stand: 'whole' },
  { what: 'close-up', stand: 'close' },
  { what: 'group', stand: 'group' },
  { what: 'cut by a side', stand: 'cut' },
  { what: 'seated', stand: 'seated' },
  {
    what: 'loose hair',
    people: (r) => ({ hair: pick(r, ['long', 'curly', 'frizzy', 'flying', 'tied']), wind: 2 * (r() - 0.5) }),
  },
  {
    what: 'fair hair, strong spill',
    people: (r) => ({ hair: pick(r, hairStyles), hairColour: hsv(38 + 10 * r(), 0.15 + 0.35 * r(), 0.7 + 0.25 * r()) }),
    scene: strongSpill,
  },
  {
    what: 'white cloth, bald, strong spill',
    people: (r) => ({
      colour: white,
      hair: r() < 0.5 ? 'bald' : 'short',
      kinds: ['smooth', 'knitted', 'woven', 'shiny'],
    }),
    scene: strongSpill,
  },
  { what: 'cloth near the screen', people: (_r, hue) => ({ colour: (q) => nearColour(q, hue) }) },
  {
    what: 'sequins, shiny and printed cloth',
    people: (_r, hue) => ({
      kinds: ['sequins', 'shiny', 'printed', 'furry'],
      colour: (q) => (q() < 0.5 ? nearColour(q, hue) : hsv(360 * q(), 0.7 * q(), 0.2 + 0.7 * q())),
    }),
  },
  {
    what: 'striped, checked, badges',
    people: () => ({ kinds: ['striped', 'checked', 'printed', 'denim'], extras: 1, badges: 8 }),
  },
  { what: 'plants', things: ['plant', 'bouquet'] },
  {
    what: 'plants alone, things',
    things: ['plant', 'bouquet', 'ball', 'furry', 'polished', 'board', 'tuft', 'feather', 'lines', 'shapes'],
    nobody: true,
  },
  { what: 'sheer cloth', things: ['sheer'] },
  { what: 'nets, lines, feathers', things: ['net', 'lines', 'feather', 'lattice', 'tuft'] },
  { what: 'fur, polish, plain forms', things: ['furry', 'polished', 'ball', 'shapes', 'board'] },
  {
    what: 'small screen, wall beyond',
    people: (r) => ({ arms: pick(r, ['wide', 'raised', 'hip', 'overhead']) }),
    scene: smallScreen,
  },
  {
    what: 'high gain',
    scene: (s, r) => {
      s.camera = { ...s.camera, signalToNoise: between(r, 8, 18), blotches: 0.3 + 0.6 * r() };
    },
  },
  {
    what: 'dark, shadow on the screen',
    scene: (s, r) => {
      s.camera = { ...s.camera, exposure: between(r, -2, -0.8), signalToNoise: between(r, 15, 60) };
      s.shadow = { stops: between(r, 0.5, 2.2), x: 0.12 * (r() - 0.5), y: 0.06 * r(), soft: 0.005 + 0.03 * r() };
    },
  },
  {
    what: 'uneven, creased, hot',
    scene: (s, r) => {
      s.screen = { ...s.screen, uneven: between(r, 1, 2.4), creases: 0.4 * r(), hot: 1.2 * r() };
    },
  },
  {
    what: 'out of focus or moved',
    scene: (s, r) => {
      if (r() < 0.5) s.blur = between(r, 2, 5);
      else s.motion = between(r, 6, 20);
    },
  },
];

export interface GeneratedCase {
  name: string;
  what: string;
  part: 'tuning' | 'reporting';
  scene: Scene;
}

/** Frames of each class in each part. */
const EACH = 9;

/** All cases of the bench, half of them for reporting only. */
export function generatedCases(): GeneratedCase[] {
  return (['tuning', 'reporting'] as const).flatMap((part, p) =>
    Array.from({ length: EACH * classes.length }, (_, n) => ({
      name: `${p ? 'H' : 'G'}${String(n + 1).padStart(3, '0')}`,
      what: classes[n % classes.length].what,
      part,
      scene: sceneOf(classes[n % classes.length], 70001 + 500 * p + n),
    })),
  );
}

/** A scene of a class; the seed decides all that the class leaves open. */
export function sceneOf(kind: Class, seed: number, megapixels?: number): Scene {
  const random = seededRandom(Math.imul(seed, 7919));
  const upright = random() < 0.75;
  const ratio = pick(random, [1.5, 4 / 3, 1.25, 1]);
  const area = (megapixels ?? 0.5 + 1.7 * random() * random()) * 1e6;
  const long = Math.round(Math.sqrt(area * ratio));
  const short = Math.round(long / ratio);
  const [width, height] = upright ? [short, long] : [long, short];
  const hue = random() < 0.22 ? between(random, 215, 240) : between(random, 105, 150);
  const turn = 6.28 * random();
  const scene: Scene = {
    width,
    height,
    seed,
    lamp: { x: Math.cos(turn), y: -Math.abs(Math.sin(turn)), ambient: 0.1 + 0.45 * random() },
    screen: {
      hue,
      uneven: 0.3 + 0.9 * random(),
      creases: random() < 0.5 ? 0.03 * random() : 0.2 * random(),
      hot: random() < 0.8 ? 0 : 0.6 * random(),
      free: [0, 0, 0, 0],
    },
    camera: someCamera(random),
    spill: {
      all: 0.05 * random() * random(),
      rim: 0.25 * random() * random(),
      below: random() < 0.7 ? 0 : 0.2 * random(),
      multiplied: 0.15 * random() * random(),
    },
    shadow:
      random() < 0.65
        ? { stops: 0, x: 0, y: 0, soft: 0 }
        : { stops: 1.2 * random(), x: 0.2 * (random() - 0.5), y: 0.08 * random(), soft: 0.01 + 0.05 * random() },
    blur: random() < 0.5 ? 0.3 + 0.5 * random() : 0.6 + 1.2 * random(),
    motion: 0,
    paint: () => undefined,
  };
  kind.scene?.(scene, random);
  scene.paint = (picture, r) => paintScene(picture, r, scene, kind);
  return scene;
}

function strongSpill(scene: Scene, random: Random): void {
  scene.spill = {
    all: between(random, 0.02, 0.12),
    rim: between(random, 0.2, 0.6),
    below: random() < 0.5 ? 0 : between(random, 0.1, 0.3),
    multiplied: 0.3 * random(),
  };
}

function smallScreen(scene: Scene, random: Random): void {
  const free = (): number => (random() < 0.65 ? between(random, 0.03, 0.24) : 0);
  scene.screen = {
    ...scene.screen,
    free: [
      free(),
      random() < 0.5 ? between(random, 0.03, 0.15) : 0,
      free(),
      random() < 0.3 ? between(random, 0.03, 0.15) : 0,
    ],
  };
}

function paintScene(picture: Painted, random: Random, scene: Scene, kind: Class): void {
  const { width, height, lamp } = scene;
  const { hue } = scene.screen;
  const stand = kind.stand ?? pick(random, ['whole', 'half', 'half', 'close', 'group'] as const);
  const thing = (x: number, y: number, size: number): void => {
    if (kind.things) things[pick(random, kind.things)](picture, random, { x, y, size, lamp });
  };
  if (kind.nobody) {
    const count = 1 + Math.floor(3 * random());
    for (let n = 0; n < count; n++)
      thing(
        width * between(random, 0.3, 0.7),
        height * between(random, 0.5, 0.95),
        Math.min(width, height) * between(random, 0.35, 0.8),
      );
    return;
  }
  const count = stand === 'group' ? 2 + Math.floor(4 * random()) : 1;
  // The head's height: by how much of the person the frame shows, and by how many stand side by side.
  const shown = {
    whole: between(random, 7.3, 9.5),
    half: between(random, 3, 5),
    close: between(random, 1.5, 2.4),
    group: between(random, 4, 8.5),
    cut: between(random, 3, 7),
    seated: between(random, 5.2, 6.5),
  }[stand];
  const head = Math.min(height / shown, stand === 'close' ? width / 1.3 : width / (1.4 + 1.6 * count * 0.75));
  const middle =
    stand === 'cut'
      ? (random() < 0.5 ? between(random, -0.02, 0.2) : between(random, 0.8, 1.02)) * width
      : width * (0.5 + 0.16 * (random() - 0.5));
  const top = Math.max(
    0.62 * head,
    stand === 'whole' || stand === 'seated'
      ? 0.5 * (height - shown * head) + 0.75 * head
      : head * between(random, stand === 'close' ? 0.55 : 0.7, 1.3),
  );
  for (let n = 0; n < count; n++) {
    const x = middle + (count > 1 ? (n - (count - 1) / 2) * head * between(random, 1.5, 2.3) : 0);
    const y = top + 0.4 * head * (random() - 0.3);
    const own = { ...kind.people?.(random, hue) };
    if (kind.things && random() < 0.4)
      thing(x + head * (random() - 0.5), y + head * between(random, 0.5, 2), head * between(random, 1.5, 4));
    const { hands } = person(picture, random, {
      x,
      y,
      head,
      lamp,
      kinds: clothKinds,
      arms: kind.things ? pick(random, ['raised', 'folded', 'hip', 'wide'] as const) : pick(random, armPoses),
      fromBehind: random() < 0.1,
      seated: stand === 'seated',
      near: (q) => nearColour(q, hue),
      extras: 0.5,
      ...own,
    });
    if (kind.things && random() < 0.8) thing(hands[1][0], hands[1][1], head * between(random, 1.2, 3.2));
  }
}
