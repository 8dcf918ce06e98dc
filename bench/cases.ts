import { demoPlans, screenReflectance, startingPlan, type Plan } from '../core/plan/index.ts';
import { linearOf } from '../core/plan/wardrobe.ts';
import { seededRandom } from '../core/random.ts';
import { demoPeople, faultIn, type Shot, type Subject, type SubjectName } from '../core/studio/index.ts';

/** One rendered frame to measure on. */
export interface BenchCase {
  name: string;
  what: string;
  /** Looked at while tuning, or only reported. */
  part: 'tuning' | 'reporting';
  plan: Plan;
  shot: Shot;
  /** Of the JPEG with halved chroma; undefined: 16-bit file. */
  jpegQuality?: number;
}

const HEIGHT = 1600;

interface Scenario {
  what: string;
  /** For the tuning part, and for the reporting part. */
  who: [SubjectName[], SubjectName[]];
  pose?: Subject['pose'];
  wind?: number;
  set?: 'tent' | 'window' | 'rules';
  dress?: (subject: Subject) => Subject;
  change?: (plan: Plan) => Plan;
  /** A fault of the simulator: cause and strength. */
  fault?: Parameters<typeof faultIn>[1];
  quality?: number;
  sixteen?: boolean;
  mistakes?: Shot['mistakes'];
}

const one = (a: SubjectName, b: SubjectName): Scenario['who'] => [[a], [b]];
const colour =
  (hex: string) =>
  (subject: Subject): Subject => ({ ...subject, garment: { ...subject.garment, colour: linearOf(hex) } });
const camera =
  (change: Partial<Plan['camera']>) =>
  (plan: Plan): Plan => ({ ...plan, camera: { ...plan.camera, ...change } });
const screen =
  (change: Partial<Plan['screen']>) =>
  (plan: Plan): Plan => ({ ...plan, screen: { ...plan.screen, ...change } });
const blue = screen({ colour: 'blue', ...screenReflectance.blue });
const near =
  (z: number) =>
  (plan: Plan): Plan => ({ ...plan, people: plan.people.map((person) => ({ ...person, z })) });
const both =
  (...changes: ((plan: Plan) => Plan)[]) =>
  (plan: Plan): Plan =>
    changes.reduce((changed, change) => change(changed), plan);

/**
 * Every case that a cut must handle, each once for tuning and once, with other people and another seed, for reporting
 * only.
 */
const scenarios: Scenario[] = [
  { what: 'long fair hair', who: one('maren', 'gale') },
  { what: 'long hair in the wind', who: one('gale', 'isla'), wind: 0.9 },
  { what: 'frizzy fair hair, window light', who: one('elin', 'elin'), set: 'window', pose: 'hip' },
  { what: 'frizzy dark hair', who: one('kesi', 'safi'), pose: 'wave' },
  { what: 'curly hair', who: one('ada', 'dov') },
  { what: 'short hair, beard', who: one('bram', 'tobin'), set: 'rules', dress: colour('6b5c45') },
  {
    what: 'bald, glasses, creases in focus',
    who: one('otto', 'otto'),
    change: both(screen({ wrinkleDepth: 0.018 }), camera({ aperture: 13, iso: 12000 })),
  },
  { what: 'head scarf', who: one('noor', 'noor'), pose: 'hip' },
  { what: 'fur collar', who: one('pim', 'gale'), dress: (s) => ({ ...s, fur: linearOf('8a6a4a') }) },
  {
    what: 'plume',
    who: one('mina', 'mina'),
    dress: (s) => ({
      ...s,
      plume: linearOf('e8e0d0'),
      headwear: s.headwear ?? { kind: 'brim', colour: linearOf('3a2c22') },
    }),
  },
  {
    what: 'veil',
    who: one('ada', 'wren'),
    dress: (s) => ({ ...s, prop: 'veil', garment: { ...s.garment, scarf: undefined } }),
  },
  { what: 'sheer kite', who: one('lio', 'lio'), pose: 'raised', dress: (s) => ({ ...s, prop: 'kite' }) },
  {
    what: 'lattice held before the body',
    who: one('dov', 'otto'),
    pose: 'holding',
    dress: (s) => ({ ...s, prop: 'lattice' }),
  },
  { what: 'both arms akimbo', who: one('pim', 'mina'), pose: 'hips' },
  { what: 'spread fingers', who: one('noor', 'maren'), pose: 'wave' },
  { what: 'bottle-green jacket', who: one('tobin', 'rowan') },
  {
    what: 'bottle-green jacket and cap, akimbo',
    who: one('rowan', 'tobin'),
    pose: 'hips',
    dress: (s) => ({ ...s, headwear: { kind: 'cap', colour: linearOf('1f4a37') } }),
  },
  { what: 'lime scarf', who: one('wren', 'isla') },
  { what: 'olive jacket', who: one('otto', 'safi'), dress: colour('6d7032') },
  { what: 'teal shirt', who: one('ada', 'pim'), dress: colour('1f7f7a') },
  { what: 'emerald shirt near the screen’s colour', who: one('pim', 'bram'), dress: colour('1f7a45') },
  { what: 'green dyed hair', who: one('juno', 'juno') },
  { what: 'green dyed hair on blue', who: one('juno', 'juno'), change: blue },
  { what: 'denim jacket on blue', who: one('safi', 'rowan'), change: blue, dress: colour('3d5a80') },
  { what: 'white shirt close to the screen', who: one('elin', 'bram'), dress: colour('e8e5de'), change: near(0.8) },
  { what: 'two stops uneven', who: one('maren', 'kesi'), fault: { cause: 'weakLamp', strength: 1 } },
  {
    what: 'shiny plastic with hot spots',
    who: one('ada', 'gale'),
    change: screen({ gloss: 0.12, wrinkleDepth: 0.01, wrinklePeriod: 0.3 }),
  },
  { what: 'shadow on the screen', who: one('gale', 'wren'), fault: { cause: 'keyShadow', strength: 0.6 } },
  { what: 'high gain', who: one('maren', 'mina'), change: camera({ iso: 12800, shutter: 1 / 1600 }) },
  { what: 'JPEG quality 80', who: one('isla', 'maren'), quality: 80 },
  { what: '16-bit file', who: one('wren', 'ada'), sixteen: true },
  { what: 'lamps of different colours', who: one('kesi', 'pim'), fault: { cause: 'mixedLamps', strength: 0.8 } },
  { what: 'screen smaller than the frame', who: one('otto', 'gale'), change: screen({ width: 1.25, height: 2.05 }) },
  {
    what: 'screen too narrow, arms near its edge',
    who: one('noor', 'ada'),
    pose: 'hips',
    change: screen({ width: 1.0, height: 2.4 }),
  },
  { what: 'out of focus', who: one('pim', 'maren'), mistakes: { defocus: 12 } },
  { what: 'moved', who: one('bram', 'ada'), mistakes: { motion: 14 } },
  {
    what: 'group of two',
    who: [
      ['maren', 'otto'],
      ['pim', 'noor'],
    ],
  },
  { what: 'fair hair by the window', who: one('elin', 'maren'), set: 'window' },
  { what: 'long hair on blue', who: one('pim', 'maren'), change: blue },
  { what: 'yellower, darker green', who: one('gale', 'safi'), change: screen({ red: 0.11, green: 0.31, blue: 0.06 }) },
  {
    what: 'green jacket under long hair in the wind',
    who: one('isla', 'gale'),
    wind: 0.8,
    dress: (s) => ({ ...s, garment: { ...demoPeople.rowan.garment } }),
  },
  { what: 'emerald shirt under long hair in the wind', who: one('isla', 'maren'), wind: 0.8, dress: colour('1f7a45') },
  { what: 'teal shirt under frizzy fair hair', who: one('elin', 'elin'), dress: colour('1f7f7a') },
  {
    what: 'long hair dyed green',
    who: one('maren', 'gale'),
    dress: (s) => ({ ...s, hair: { ...s.hair, colour: demoPeople.juno.hair.colour } }),
  },
];

export function benchCases(): BenchCase[] {
  return (['tuning', 'reporting'] as const).flatMap((part, p) =>
    scenarios.map((scenario, n) => benchCase(scenario, part, n, (p ? 8100 : 4100) + n)),
  );
}

function benchCase(
  { what, who, pose = 'down', wind = 0, set = 'tent', dress, change, fault, quality = 90, sixteen, mistakes }: Scenario,
  part: BenchCase['part'],
  n: number,
  seed: number,
): BenchCase {
  const names = who[part === 'tuning' ? 0 : 1];
  const planned = set === 'rules' ? startingPlan('Rules of thumb', '2026-06-13') : demoPlans()[set];
  const grouped = names.length > 1 ? held(planned, names.length) : planned;
  const faulty = fault ? faultIn(grouped, fault, seededRandom(seed)) : grouped;
  const plan = change ? change(faulty) : faulty;
  const { pixelsAcross, pixelsDown } = plan.camera;
  const scale = HEIGHT / Math.max(pixelsAcross, pixelsDown);
  const subjects = names.map((name, k): Subject => {
    const subject: Subject = {
      ...demoPeople[name],
      prop: undefined,
      pose,
      seed: demoPeople[name].seed + (part === 'tuning' ? 0 : 500),
      moment: seed + k,
      hair: { ...demoPeople[name].hair, wind },
    };
    return dress ? dress(subject) : subject;
  });
  const shot: Shot = {
    kind: 'people',
    subjects,
    seed,
    width: Math.round(pixelsAcross * scale),
    height: Math.round(pixelsDown * scale),
    mistakes,
  };
  return {
    name: `${part === 'tuning' ? 'T' : 'R'}${String(n + 1).padStart(2, '0')}`,
    what,
    part,
    plan,
    shot,
    jpegQuality: sixteen ? undefined : quality,
  };
}

/** The camera held across for a group. */
function held(plan: Plan, count: number): Plan {
  const { sensorWidth, sensorHeight, pixelsAcross, pixelsDown, position } = plan.camera;
  return {
    ...plan,
    camera: {
      ...plan.camera,
      sensorWidth: sensorHeight,
      sensorHeight: sensorWidth,
      pixelsAcross: pixelsDown,
      pixelsDown: pixelsAcross,
      position: { ...position, y: 1.5 },
    },
    people: [{ ...plan.people[0], count }],
  };
}
