import { faceOf } from '../plan/exposure.ts';
import { entry, lampModels } from '../plan/library.ts';
import { illuminance, sourcesOf } from '../plan/light.ts';
import type { Plan } from '../plan/plan.ts';
import { lampFrom } from '../plan/startingPlan.ts';
import { subtract, unit } from '../plan/vector.ts';
import { linearOf } from '../plan/wardrobe.ts';
import type { Random } from '../random.ts';
import type { RehearsedCause } from '../screen/causeFacts.ts';
import { demoPeople, type SubjectName } from './cast.ts';
import type { Subject } from './figure.ts';
import type { Mistakes } from './standIn.ts';

/**
 * A set as it is photographed for a test: the plan as it really stands, who poses, and what goes wrong at the camera.
 */
export interface TestSet {
  plan: Plan;
  subject: Subject;
  mistakes: Mistakes;
}

/**
 * Brings a fault into a set. Returns a new set.
 * @param strength 0 just noticeable – 1 gross.
 * @param pixels width of the pictures to be taken, for faults at the camera.
 */
type Fault = (set: TestSet, strength: number, random: Random, pixels: number) => TestSet;

const between = (from: number, to: number, t: number): number => from + (to - from) * t;
const either = (random: Random): -1 | 1 => (random() < 0.5 ? -1 : 1);

/** A plan is plain JSON. */
const copyOf = (plan: Plan): Plan => JSON.parse(JSON.stringify(plan)) as Plan;

function withPlan(set: TestSet, change: (plan: Plan) => void): TestSet {
  const plan = copyOf(set.plan);
  change(plan);
  return { ...set, plan };
}

/** Light of the key on the face as a meter pointed at it reads it, lx. */
function keyOnFace(plan: Plan): number {
  const face = faceOf(plan.people[0]);
  return sourcesOf(plan, 3).reduce(
    (sum, source) =>
      source.lamp.role === 'key' ? sum + illuminance(source, face, unit(subtract(source.centre, face))) : sum,
    0,
  );
}

function screenLamps(plan: Plan): Plan['lamps'] {
  return plan.lamps.filter(({ role }) => role === 'screen');
}

/** Every fault that a test frame can show, by the cause that Check has to name. */
export const faults: Record<RehearsedCause, Fault> = {
  weakLamp: (set, strength, random) =>
    withPlan(set, (plan) => {
      const lamps = screenLamps(plan);
      lamps[random() < 0.5 ? 0 : lamps.length - 1].power *= between(0.3, 0.06, strength);
    }),
  lampsNear: (set, strength) =>
    withPlan(set, (plan) => {
      for (const lamp of screenLamps(plan)) {
        lamp.position.z = between(0.55, 0.35, strength);
        lamp.position.x = Math.sign(lamp.position.x) * (plan.screen.width / 2 + between(0.05, -0.1, strength));
        lamp.aim.x = lamp.position.x * 0.75;
        lamp.power *= 0.5;
      }
    }),
  hotMiddle: (set, strength) =>
    withPlan(set, (plan) => {
      for (const lamp of screenLamps(plan)) {
        lamp.aim.x = 0;
        lamp.beam = between(38, 24, strength);
        lamp.position.z *= 1.25;
        lamp.power *= 0.45;
      }
    }),
  tooClose: (set, strength) =>
    withPlan(set, (plan) => {
      const moved = plan.people[0].z - between(0.75, 0.45, strength);
      for (const person of plan.people) person.z -= moved;
      plan.camera.position.z -= moved;
      for (const lamp of plan.lamps) {
        if (lamp.role === 'screen') continue;
        lamp.position.z -= moved;
        lamp.aim.z -= moved;
      }
    }),
  keyShadow: (set, strength, random) =>
    withPlan(set, (plan) => {
      const key = plan.lamps.find(({ role }) => role === 'key');
      if (!key) return;
      const person = plan.people[0];
      const before = keyOnFace(plan);
      // A hard lamp from the front, a little to one side: the shadow lands beside the person.
      Object.assign(key, {
        ...lampFrom(
          entry(lampModels, 'Bare reflector, LED', 'lamp'),
          key.id,
          'key',
          { x: person.x + either(random) * between(0.75, 0.5, strength), y: 1.85, z: person.z + 3 },
          { x: person.x, y: 1.55, z: person.z },
        ),
        name: key.name,
        circuit: key.circuit,
      });
      key.power = 1;
      // As bright on the face as the key was, or somewhat brighter.
      key.output *= (before / Math.max(1e-9, keyOnFace(plan))) * between(1, 1.5, strength);
    }),
  window: (set, strength, random) =>
    withPlan(set, (plan) => {
      const side = either(random);
      const model = entry(lampModels, 'Window, north light', 'lamp');
      plan.lamps.push(
        lampFrom(
          model,
          'daylight',
          'fill',
          { x: side * (plan.screen.width / 2 + 0.7), y: 1.5, z: 0.9 },
          { x: side * 0.2, y: 1.4, z: 0 },
          { name: 'Window', circuit: '', temperature: 9500, output: model.output * between(1, 2.2, strength) },
        ),
      );
    }),
  wrinkles: (set, strength) =>
    withPlan(set, (plan) =>
      Object.assign(plan.screen, { wrinklePeriod: 0.16, wrinkleDepth: between(0.024, 0.036, strength) }),
    ),
  overlit: (set, strength) =>
    withPlan(set, (plan) => {
      const factor = between(2.5, 3.8, strength);
      for (const lamp of screenLamps(plan)) lamp.output *= factor;
    }),
  gain: (set, strength) =>
    withPlan(set, (plan) => {
      const factor = between(3.8, 8, strength);
      plan.camera.iso *= factor;
      plan.camera.shutter /= factor;
    }),
  mixedLamps: (set, strength, random) =>
    withPlan(set, (plan) => {
      const lamp = screenLamps(plan)[random() < 0.5 ? 0 : 1];
      const warm = random() < 0.5;
      lamp.temperature = warm ? between(4000, 3000, strength) : between(7800, 10000, strength);
      lamp.tint += (warm ? -1 : 1) * between(1, 6, strength);
    }),
  whiteBalance: (set, strength, random) => {
    const shift = either(random) * between(0.14, 0.4, strength);
    return { ...set, mistakes: { ...set.mistakes, balance: [Math.exp(shift), 1, Math.exp(-shift)] } };
  },
  clothing: (set, strength, random) => {
    const blue = set.plan.screen.colour === 'blue';
    const near = blue ? ['2f4f9c', '2746a0', '3552b4'] : ['2c8f4e', '3f9f4c', '4aa558'];
    const colour = linearOf(near[Math.min(2, Math.floor(between(0, 2.99, strength) * 0.6 + random() * 1.2))]);
    return { ...set, subject: { ...set.subject, garment: { ...set.subject.garment, colour } } };
  },
  smallScreen: (set, strength, random) =>
    withPlan(set, (plan) => {
      const { camera, screen } = plan;
      const share = between(0.07, 0.2, strength);
      const across = ((camera.sensorWidth / camera.focal) * camera.position.z) as number;
      if (random() < 0.6) {
        // Off to one side: a stripe of wall.
        const side = either(random);
        camera.position.x = side * (screen.width / 2 - across * (0.5 - share));
        for (const person of plan.people) person.x += (camera.position.x * person.z) / camera.position.z;
        camera.pan = (-side * 0) as number;
      } else screen.width = across * (1 - 2 * share * 0.7);
    }),
  defocus: (set, strength, _random, pixels) => ({
    ...set,
    mistakes: { ...set.mistakes, defocus: Math.max(7, pixels * between(0.011, 0.03, strength)) },
  }),
  motion: (set, strength, _random, pixels) => ({
    ...set,
    mistakes: { ...set.mistakes, motion: Math.max(9, pixels * between(0.014, 0.035, strength)) },
  }),
};

/** People whose clothes and hair stand apart from either screen. */
const calm: SubjectName[] = ['maren', 'ada', 'otto', 'pim', 'gale', 'noor', 'bram', 'dov'];
const onGreen: SubjectName[] = ['maren', 'ada', 'otto', 'pim', 'gale', 'mina', 'noor', 'dov'];
const onBlue: SubjectName[] = ['ada', 'otto', 'pim', 'gale', 'bram', 'dov', 'rowan'];

/** One of the sound ways to set up, chosen by chance: within all bounds that a test frame shows. */
export function soundSet(plan: Plan, random: Random): TestSet {
  const set = copyOf(plan);
  const blue = set.screen.colour === 'blue';
  const jitter = (share: number): number => 1 + (random() * 2 - 1) * share;
  for (const lamp of screenLamps(set)) {
    // The key stands a quarter of a stop above the screen, in the middle of what is accepted.
    lamp.power *= 0.85 * jitter(0.05);
    lamp.position.x *= jitter(0.04);
    lamp.position.z *= jitter(0.06);
    lamp.temperature += (random() * 2 - 1) * 60;
  }
  for (const lamp of set.lamps) {
    if (lamp.role === 'screen') continue;
    lamp.position.x += (random() * 2 - 1) * 0.15;
    lamp.position.y += (random() * 2 - 1) * 0.1;
    lamp.power *= jitter(0.08);
  }
  set.screen.wrinkleDepth *= 0.3 + 0.6 * random();
  set.people[0].height = 1.58 + 0.3 * random();
  set.people[0].x += (random() * 2 - 1) * 0.12;
  // Held across the frame is low; the head stays in it.
  if (set.camera.sensorWidth > set.camera.sensorHeight) set.camera.position.y = set.people[0].height - 0.22;
  const names = blue ? onBlue : random() < 0.5 ? onGreen : calm;
  const subject = demoPeople[names[Math.floor(random() * names.length)]];
  return { plan: set, subject: { ...subject, prop: undefined, moment: Math.floor(random() * 1000) }, mistakes: {} };
}

/** A plan with one fault in it, for frames that do not come from a seeded set. */
export function faultIn(
  plan: Plan,
  { cause, strength }: { cause: RehearsedCause; strength: number },
  random: Random,
): Plan {
  return faults[cause]({ plan, subject: demoPeople.maren, mistakes: {} }, strength, random, 1000).plan;
}
