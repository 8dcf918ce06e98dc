import { seededRandom } from '../random.ts';
import { blocksView, insideRoom, singleChanges, withLamp, type Change } from './changes.ts';
import { lampFactsByKind } from './library.ts';
import type { Lamp, Plan } from './plan.ts';
import { forecastMinutes, type MinutesOf } from './quick.ts';
import { distance } from './vector.ts';

/** What the search may change. */
export interface Freedom {
  lamps: boolean;
  powers: boolean;
  people: boolean;
  camera: boolean;
  exposure: boolean;
}

export const wholeFreedom: Freedom = { lamps: true, powers: true, people: true, camera: true, exposure: true };

export interface Improvement {
  plan: Plan;
  before: number;
  after: number;
  /** What was done, in the order of what it saved. */
  moves: { words: string; minutes: number }[];
}

/** Rounds of the search; each tries every single change, then some larger leaps of one lamp. */
const ROUNDS = 14;
const LEAPS = 16;

/**
 * Lowers the forecast by moving what may be moved, inside the room: repeated best single change (steepest descent),
 * with seeded leaps of single lamps against getting stuck. Gear is not added or exchanged, the screen stays as it is.
 * @param seed same seed, same result.
 * @param onRound called with the share done (0–1) after every round; return false to stop there.
 */
export function improve(
  plan: Plan,
  freedom: Freedom = wholeFreedom,
  seed = 1,
  onRound: (share: number, minutes: number) => boolean = () => true,
  minutesOf: MinutesOf = forecastMinutes,
): Improvement {
  const random = seededRandom(seed);
  const before = minutesOf(plan);
  let best = plan;
  let minutes = before;
  for (let round = 0; round < ROUNDS; round++) {
    let winner: { plan: Plan; minutes: number } | undefined;
    for (const { plan: candidate } of [
      ...singleChanges(best).filter((change) => allowed(change, freedom)),
      ...leaps(best, freedom, random),
    ]) {
      const value = minutesOf(candidate);
      if (value < (winner?.minutes ?? minutes - 0.05)) winner = { plan: candidate, minutes: value };
    }
    if (winner) ({ plan: best, minutes } = winner);
    if (!onRound((round + 1) / ROUNDS, minutes) || !winner) break;
  }
  return { plan: best, before, after: minutes, moves: tell(plan, best, before, minutesOf) };
}

function allowed({ moves, words }: Change, freedom: Freedom): boolean {
  if (moves === 'lamp' || moves === 'aim') return freedom.lamps;
  if (moves === 'power') return freedom.powers;
  if (moves === 'person') return freedom.people && (freedom.camera || !words.includes('camera'));
  if (moves === 'camera') return freedom.camera;
  return moves === 'exposure' && freedom.exposure && !words.includes('16 bit');
}

function leaps(plan: Plan, freedom: Freedom, random: () => number): { plan: Plan }[] {
  if (!freedom.lamps) return [];
  const standing = plan.lamps.filter((lamp) => lampFactsByKind[lamp.kind].standing);
  if (!standing.length) return [];
  const out: { plan: Plan }[] = [];
  for (let n = 0; n < LEAPS; n++) {
    const lamp = standing[Math.floor(random() * standing.length)];
    const position = {
      x: lamp.position.x + (random() - 0.5) * 3,
      y: Math.max(0.4, lamp.position.y + (random() - 0.5) * 1.2),
      z: lamp.position.z + (random() - 0.5) * 2.5,
    };
    const aim = { x: lamp.aim.x + (random() - 0.5) * 1.6, y: lamp.aim.y + (random() - 0.5) * 0.8, z: lamp.aim.z };
    if (insideRoom(plan, position) && !blocksView(plan, position))
      out.push({ plan: withLamp(plan, lamp.id, () => ({ position, aim })) });
  }
  return out;
}

/**
 * Turns the difference of two plans into moves, one for each thing moved, with what each saves when made in this order.
 */
function tell(from: Plan, to: Plan, before: number, minutesOf: MinutesOf): Improvement['moves'] {
  const steps: { words: string; apply: (plan: Plan) => Plan }[] = [];
  // The screen lamps work together: one of them moved alone would tell nothing.
  const together = [
    from.lamps.filter((lamp) => lamp.role === 'screen'),
    ...from.lamps.filter((lamp) => lamp.role !== 'screen').map((lamp) => [lamp]),
  ];
  for (const group of together) {
    const goals = group.map((lamp) => to.lamps[from.lamps.indexOf(lamp)]);
    const words = group.map((lamp, n) => lampWords(lamp, goals[n])).filter(Boolean);
    if (words.length)
      steps.push({
        words: words.join('; '),
        apply: (plan) =>
          goals.reduce(
            (done, goal) =>
              withLamp(done, goal.id, () => ({ position: goal.position, aim: goal.aim, power: goal.power })),
            plan,
          ),
      });
  }
  const people = from.people.some((person, n) => person.z !== to.people[n].z);
  if (people)
    steps.push({
      words: `People ${to.people.map((person) => `${person.z.toFixed(2)} m`).join(', ')} from the screen`,
      apply: (plan) => ({ ...plan, people: to.people }),
    });
  const c = to.camera;
  if (distance(from.camera.position, c.position) > 0.02 || from.camera.focal !== c.focal)
    steps.push({
      words: `Camera ${c.position.z.toFixed(2)} m from the screen, ${Math.round(c.focal * 1000)} mm lens`,
      apply: (plan) => ({ ...plan, camera: { ...plan.camera, position: c.position, focal: c.focal } }),
    });
  if (from.camera.aperture !== c.aperture || from.camera.iso !== c.iso || from.camera.shutter !== c.shutter)
    steps.push({
      words: `f/${c.aperture.toFixed(1)}, 1/${Math.round(1 / c.shutter)} s, ISO ${Math.round(c.iso)}`,
      apply: (plan) => ({ ...plan, camera: { ...plan.camera, aperture: c.aperture, iso: c.iso, shutter: c.shutter } }),
    });
  // Told in the order in which they save most on top of what was done before.
  const moves: Improvement['moves'] = [];
  let plan = from;
  let minutes = before;
  while (steps.length) {
    const tried = steps.map((step) => ({ step, value: minutesOf(step.apply(plan)) })).sort((a, b) => a.value - b.value);
    const [{ step, value }] = tried;
    plan = step.apply(plan);
    moves.push({ words: step.words, minutes: minutes - value });
    minutes = value;
    steps.splice(steps.indexOf(step), 1);
  }
  return moves;
}

function lampWords(lamp: Lamp, goal: Lamp): string {
  const words: string[] = [];
  if (distance(lamp.position, goal.position) > 0.02) words.push(`to ${place(goal.position)}`);
  if (distance(lamp.aim, goal.aim) > 0.02) words.push(`aimed at ${place(goal.aim)}`);
  if (Math.abs(lamp.power - goal.power) > 0.005) words.push(`dimmer at ${Math.round(goal.power * 100)} %`);
  return words.length ? `${lamp.name} ${words.join(', ')}` : '';
}

function place({ x, y, z }: { x: number; y: number; z: number }): string {
  const sideways = Math.abs(x) < 0.02 ? 'the middle' : `${Math.abs(x).toFixed(2)} m ${x < 0 ? 'left' : 'right'}`;
  return `${sideways}, ${y.toFixed(2)} m high, ${z.toFixed(2)} m from the screen`;
}
