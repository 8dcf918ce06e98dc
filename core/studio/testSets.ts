import { demoPlans } from '../plan/demoPlans.ts';
import type { Plan } from '../plan/plan.ts';
import { screenReflectance } from '../plan/library.ts';
import { startingPlan } from '../plan/startingPlan.ts';
import { seededRandom } from '../random.ts';
import type { RehearsedCause } from '../screen/causeFacts.ts';
import { faults, soundSet, type TestSet } from './faults.ts';
import type { Shot } from './standIn.ts';

export type { TestSet } from './faults.ts';

/**
 * A set with the given faults, chosen by seed: green or blue, held upright or across, who poses, how strong each
 * fault is.
 * @param strength least and most, 0 just noticeable – 1 gross.
 */
export function seededSet(
  seed: number,
  causes: readonly RehearsedCause[],
  width: number,
  [least, most]: readonly [number, number] = [0, 1],
): TestSet {
  const random = seededRandom(seed * 2654435 + 17);
  const base = random() < 0.5 ? startingPlan('Test set', '2026-06-13') : demoPlans().tent;
  let set = soundSet(orientated(coloured(base, random() < 0.25), random() < 0.2), random);
  for (const cause of causes) set = faults[cause](set, least + (most - least) * random(), random, width);
  return set;
}

function coloured(plan: Plan, blue: boolean): Plan {
  return blue ? { ...plan, screen: { ...plan.screen, colour: 'blue', ...screenReflectance.blue } } : plan;
}

function orientated(plan: Plan, across: boolean): Plan {
  if (!across) return plan;
  const { camera } = plan;
  // Held across with the same lens the sides would look past the screen; a longer one keeps inside it.
  return {
    ...plan,
    camera: {
      ...camera,
      sensorWidth: camera.sensorHeight,
      sensorHeight: camera.sensorWidth,
      pixelsAcross: camera.pixelsDown,
      pixelsDown: camera.pixelsAcross,
      focal: camera.focal * 1.35,
    },
  };
}

/** Shots of a set: the person, the empty screen, ball and card, as the camera's own pixels would show them. */
export function shotsOf(
  { plan, subject, mistakes }: TestSet,
  seed: number,
  width: number,
): Record<'people' | 'plate' | 'ball' | 'grey card', Shot> {
  const height = Math.round((width * plan.camera.pixelsDown) / plan.camera.pixelsAcross);
  const shot = (kind: Shot['kind'], n: number): Shot => ({
    kind,
    subjects: kind === 'people' ? [subject] : [],
    seed: seed * 4 + n,
    width,
    height,
    ownGrain: true,
    mistakes,
  });
  return {
    people: shot('people', 0),
    plate: shot('plate', 1),
    ball: shot('ball', 2),
    'grey card': shot('grey card', 3),
  };
}
