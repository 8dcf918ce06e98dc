import { demoPlans } from '../plan/demoPlans.ts';
import type { Plan } from '../plan/plan.ts';
import { linearOf as colour } from '../plan/wardrobe.ts';
import type { Colour, Subject } from './figure.ts';
import type { Shot } from './standIn.ts';

const skins = {
  fair: colour('e3b59b'),
  light: colour('d9a486'),
  olive: colour('c08d68'),
  brown: colour('8f5f43'),
  dark: colour('63402e'),
};
const hairs = {
  fair: colour('c9a66b'),
  brown: colour('5a3d28'),
  black: colour('221b18'),
  red: colour('9a4a22'),
  grey: colour('9b9890'),
  green: colour('3f8f4a'),
  violet: colour('6d3f8c'),
};
const eyes = { brown: colour('5b3a21'), blue: colour('6d8799'), hazel: colour('77683f') };

interface Looks {
  skin: keyof typeof skins;
  /** Colour, style, length in m, share of loose strands, strands. */
  hair: [keyof typeof hairs, Subject['hair']['style'], number, number, number];
  garment: [Subject['garment']['kind'], string, string];
  scarf?: string;
  beard?: boolean;
  prop?: Subject['prop'];
  build?: number;
  age?: number;
  eyes: keyof typeof eyes;
  glasses?: boolean;
  jewellery?: boolean;
  headwear?: [NonNullable<Subject['headwear']>['kind'], string];
}

/** The people of the Saltmarsh Kite Meet; their order is their seed. */
const people = {
  maren: person(1, 'Maren Holt', {
    skin: 'fair',
    hair: ['fair', 'long', 0.34, 0.1, 30000],
    garment: ['knit', '3d4a63', 'd8d4cc'],
    eyes: 'blue',
  }),
  tobin: person(2, 'Tobin Reyes, Heron crew', {
    skin: 'olive',
    hair: ['black', 'short', 0.05, 0.1, 17000],
    garment: ['jacket', '1f4a37', 'c9c4b8'],
    build: 1.07,
    beard: true,
    eyes: 'brown',
  }),
  ada: person(3, 'Ada Okoro', {
    skin: 'dark',
    hair: ['black', 'curly', 0.16, 0.15, 26000],
    garment: ['tee', 'c8542f', 'c8542f'],
    jewellery: true,
    eyes: 'brown',
  }),
  lio: person(4, 'Lio Castellan, kite maker', {
    skin: 'light',
    hair: ['brown', 'short', 0.06, 0.12, 17000],
    garment: ['tee', '6c2f45', '6c2f45'],
    prop: 'kite',
    eyes: 'hazel',
  }),
  wren: person(5, 'Wren Ashdown, Kelp crew', {
    skin: 'fair',
    hair: ['red', 'long', 0.3, 0.16, 30000],
    garment: ['knit', '2b2c33', '2b2c33'],
    scarf: 'b3cf3a',
    eyes: 'hazel',
  }),
  juno: person(6, 'Juno Marsh, Cinder crew', {
    skin: 'light',
    hair: ['green', 'short', 0.085, 0.14, 21000],
    garment: ['jacket', '2a2a2e', 'e6e2da'],
    eyes: 'blue',
  }),
  bram: person(7, 'Bram Veld', {
    skin: 'light',
    hair: ['grey', 'short', 0.045, 0.1, 16000],
    garment: ['knit', 'd9d5cb', 'd9d5cb'],
    build: 1.08,
    beard: true,
    age: 0.9,
    eyes: 'blue',
  }),
  safi: person(8, 'Safi Noor', {
    skin: 'brown',
    hair: ['black', 'curly', 0.11, 0.2, 26000],
    garment: ['jacket', '35506e', 'dcd2b8'],
    eyes: 'brown',
  }),
  elin: person(9, 'Elin Sorrel', {
    skin: 'fair',
    hair: ['fair', 'frizzy', 0.17, 0.24, 26000],
    garment: ['tee', 'e8e5de', 'e8e5de'],
    eyes: 'blue',
  }),
  pim: person(10, 'Pim Harrow, Slack Tide band', {
    skin: 'olive',
    hair: ['brown', 'long', 0.26, 0.12, 28000],
    garment: ['tee', '26262b', '26262b'],
    beard: true,
    build: 1.04,
    eyes: 'brown',
  }),
  noor: person(11, 'Hana Idris', {
    skin: 'brown',
    hair: ['black', 'none', 0, 0, 0],
    garment: ['knit', '59405c', '59405c'],
    headwear: ['scarf', 'b98a4a'],
    eyes: 'brown',
  }),
  otto: person(12, 'Otto Lind', {
    skin: 'fair',
    hair: ['grey', 'none', 0, 0, 0],
    garment: ['jacket', '6b5c45', 'd8d4cc'],
    glasses: true,
    age: 1,
    build: 1.05,
    eyes: 'blue',
  }),
  kesi: person(13, 'Kesi Adeyemi', {
    skin: 'dark',
    hair: ['black', 'frizzy', 0.13, 0.3, 30000],
    garment: ['tee', 'd8b23a', 'd8b23a'],
    jewellery: true,
    glasses: true,
    eyes: 'brown',
  }),
  rowan: person(14, 'Rowan Pike, Heron crew', {
    skin: 'light',
    hair: ['red', 'short', 0.06, 0.16, 18000],
    garment: ['jacket', '1f4a37', '2b2c33'],
    headwear: ['cap', '1f4a37'],
    eyes: 'hazel',
  }),
  isla: person(15, 'Isla Thorne, Kelp crew', {
    skin: 'fair',
    hair: ['brown', 'long', 0.38, 0.2, 30000],
    garment: ['knit', '2b2c33', '2b2c33'],
    scarf: 'b3cf3a',
    headwear: ['beanie', 'c9c4b8'],
    eyes: 'blue',
  }),
  gale: person(16, 'Gale Winter, Slack Tide band', {
    skin: 'light',
    hair: ['fair', 'long', 0.3, 0.4, 26000],
    garment: ['jacket', '26262b', '6c2f45'],
    age: 0.5,
    eyes: 'blue',
  }),
  dov: person(17, 'Dov Carrick, net mender', {
    skin: 'olive',
    hair: ['grey', 'curly', 0.07, 0.2, 20000],
    garment: ['knit', '7a2b22', '7a2b22'],
    prop: 'lattice',
    beard: true,
    age: 0.7,
    eyes: 'brown',
  }),
  mina: person(18, 'Mina Sato, Cinder crew', {
    skin: 'light',
    hair: ['violet', 'long', 0.2, 0.12, 28000],
    garment: ['jacket', '2a2a2e', 'c8542f'],
    headwear: ['brim', '8a7350'],
    eyes: 'brown',
  }),
} satisfies Record<string, Subject>;

function person(seed: number, who: string, looks: Looks): Subject {
  const [hair, style, length, flyaway, strands] = looks.hair;
  const [kind, cloth, shirt] = looks.garment;
  return {
    name: who,
    seed: 100 + seed,
    skin: skins[looks.skin],
    hair: { colour: hairs[hair], style, length, flyaway, strands, wind: 0 },
    beard: looks.beard ?? false,
    garment: {
      colour: colour(cloth),
      kind,
      shirt: colour(shirt),
      scarf: looks.scarf ? colour(looks.scarf) : undefined,
      legs: colour('2e3442'),
    },
    headwear: looks.headwear && { kind: looks.headwear[0], colour: colour(looks.headwear[1]) },
    glasses: looks.glasses,
    jewellery: looks.jewellery,
    age: looks.age ?? 0.2,
    pose: 'down',
    prop: looks.prop,
    moment: 0,
    eyes: eyes[looks.eyes] as Colour,
    build: looks.build ?? 1,
  };
}

export type SubjectName = keyof typeof people;
export const demoPeople: Record<SubjectName, Subject> = people;

export interface DemoFrame {
  /** File name without its ending. */
  name: string;
  setup: 'tent' | 'window';
  subjects: Subject[];
  /** Who is on it, in words. */
  who: string;
}

/** Who is photographed, in order: names, pose, wind. Several names make a group. */
const tent: [SubjectName[], Subject['pose'], number?][] = [
  [['maren'], 'down'],
  [['tobin'], 'down'],
  [['ada'], 'hip'],
  [['lio'], 'raised'],
  [['wren'], 'down'],
  [['maren'], 'hip'],
  [['tobin'], 'hips'],
  [['ada'], 'wave'],
  [['wren'], 'hip', 0.5],
  [['noor'], 'down'],
  [['otto'], 'down'],
  [['dov'], 'holding'],
  [['rowan'], 'hips'],
  [['isla'], 'down'],
  [['kesi'], 'hip'],
  [['noor'], 'hip'],
  [['otto'], 'hip'],
  [['rowan'], 'down'],
  [['isla'], 'wave', 0.6],
  [['tobin', 'rowan'], 'down'],
  [['wren', 'isla'], 'down'],
  [['lio'], 'hips'],
  [['mina'], 'down'],
  [['maren', 'ada', 'otto'], 'down'],
  [['gale'], 'down', 0.9],
  [['kesi'], 'wave'],
  [['mina'], 'hip'],
  [['dov'], 'down'],
];
const window: typeof tent = [
  [['juno'], 'down'],
  [['bram'], 'hip'],
  [['safi'], 'hip'],
  [['elin'], 'down'],
  [['pim'], 'down'],
  [['juno'], 'hips'],
  [['bram'], 'down'],
  [['safi'], 'wave'],
  [['elin'], 'hip', 0.5],
  [['pim'], 'hip'],
  [['gale'], 'hip'],
  [['mina'], 'hips'],
  [['kesi'], 'down'],
  [['noor'], 'wave'],
  [['gale'], 'wave', 0.7],
  [['juno', 'mina'], 'down'],
  [['dov'], 'holding'],
  [['elin'], 'wave'],
  [['otto'], 'hips'],
  [['pim', 'gale'], 'down'],
];

/** The 48 frames of the demo, 18 people in two setups. */
export const demoFrames: DemoFrame[] = [
  ...tent.map((row, n) => frame('tent', 101 + n, row)),
  ...window.map((row, n) => frame('window', 201 + n, row)),
];

function frame(setup: DemoFrame['setup'], number: number, [names, pose, wind = 0]: (typeof tent)[number]): DemoFrame {
  const subjects = names.map((name, n): Subject => {
    const subject = people[name] as Subject;
    const chosen =
      subject.prop === 'kite' && pose !== 'raised'
        ? undefined
        : subject.prop === 'lattice' && pose !== 'holding'
          ? undefined
          : subject.prop;
    return { ...subject, pose, prop: chosen, moment: number * 3 + n, hair: { ...subject.hair, wind } };
  });
  const who = names.map((name) => name[0].toUpperCase() + name.slice(1)).join(', ');
  return { name: `SKM_0${number}`, setup, subjects, who };
}

/**
 * Plan and shot of a demo frame. Groups are taken with the camera held across, three with a wider lens.
 * @param height of an upright frame in pixels; one held across is as high as an upright one is wide.
 */
export function demoShot({ name, setup, subjects }: DemoFrame, height: number): { plan: Plan; shot: Shot } {
  const planned = demoPlans()[setup];
  const { sensorWidth, sensorHeight, pixelsAcross, pixelsDown, focal, position } = planned.camera;
  const group = subjects.length > 1;
  const across = {
    sensorWidth: sensorHeight,
    sensorHeight: sensorWidth,
    pixelsAcross: pixelsDown,
    pixelsDown: pixelsAcross,
    focal: subjects.length > 2 ? focal * 0.75 : focal,
    position: { ...position, y: subjects.length > 2 ? 1.42 : 1.5 },
  };
  const camera = group ? { ...planned.camera, ...across } : planned.camera;
  const short = Math.round((height * pixelsAcross) / pixelsDown);
  const plan: Plan = { ...planned, camera, people: [{ ...planned.people[0], count: subjects.length }] };
  return {
    plan,
    shot: {
      kind: 'people',
      subjects,
      seed: Number(name.slice(-4)),
      width: group ? height : short,
      height: group ? short : height,
    },
  };
}
