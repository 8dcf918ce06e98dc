import { describe, expect, test } from 'vitest';
import { readFileSync } from 'node:fs';
import {
  cameraFacts,
  circuitFacts,
  eventFacts,
  lampFacts,
  lampKinds,
  lampRoles,
  outputUnits,
  personFacts,
  placeFacts,
  roomFacts,
  screenColours,
  screenFacts,
  type Fact,
} from '../core/plan/facts.ts';
import {
  demoPlans,
  diffusions,
  gels,
  materials,
  quickReport,
  scheduleOf,
  startingPlan,
  sunThroughDay,
  type Plan,
} from '../core/plan/index.ts';
import { seededRandom } from '../core/random.ts';
import { planJsonSchema, planSchema } from './plan.ts';

/** Any plan inside the schema, corners of the ranges included. */
function anyPlan(seed: number): Plan {
  const random = seededRandom(seed);
  const number = ({ min, max }: Fact): number => {
    const r = random();
    return r < 0.12 ? min : r < 0.24 ? max : min + random() ** 2 * (max - min);
  };
  const numbers = <T extends Record<string, Fact>>(facts: T): { [K in keyof T]: number } =>
    Object.fromEntries(Object.entries(facts).map(([k, f]) => [k, number(f)])) as never;
  const oneOf = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const place = () => numbers(placeFacts);
  const start = startingPlan('Any', '2026-02-28');
  const camera = {
    ...start.camera,
    ...numbers(cameraFacts),
    pixelsAcross: 400,
    pixelsDown: 200 + Math.floor(random() * 800),
    position: { ...place(), z: 1.7 + random() * 80 },
    file: oneOf(['jpeg', '16-bit'] as const),
  };
  return {
    ...start,
    room: { outdoors: random() < 0.5, ...numbers(roomFacts) },
    screen: {
      ...numbers(screenFacts),
      colour: oneOf(Object.keys(screenColours) as Plan['screen']['colour'][]),
      material: oneOf(materials).name,
      supply: 'owned',
    },
    lamps: Array.from({ length: Math.floor(random() * 4) }, (_, n) => ({
      ...start.lamps[0],
      id: `l${n}`,
      ...numbers(lampFacts),
      position: place(),
      aim: place(),
      kind: oneOf(Object.keys(lampKinds)) as Plan['lamps'][0]['kind'],
      role: oneOf(Object.keys(lampRoles)) as Plan['lamps'][0]['role'],
      unit: oneOf(Object.keys(outputUnits)) as Plan['lamps'][0]['unit'],
      gel: oneOf(gels).name,
      diffusion: oneOf(diffusions).name,
    })),
    people: Array.from({ length: Math.floor(random() * 3) }, (_, n) => ({
      id: `p${n}`,
      name: 'P',
      ...numbers(personFacts),
      count: 1 + Math.floor(random() * 12),
    })),
    camera,
    circuits: random() < 0.5 ? [] : [{ name: 'Circuit 1', ...numbers(circuitFacts) }],
    event: { ...start.event, ...numbers(eventFacts), guests: Math.floor(random() * 300) },
  };
}

describe('plan files', () => {
  test('no plan inside the schema gives a number that is none, or a fault', () => {
    for (let seed = 1; seed <= 150; seed++) {
      const plan = planSchema.parse(anyPlan(seed));
      const report = quickReport(plan);
      for (const { id, value } of report.readings) expect(Number.isFinite(value), `seed ${seed}, ${id}`).toBe(true);
      const { minutes, low, high } = report.forecast;
      for (const value of [
        minutes,
        low,
        high,
        report.kit.cost,
        report.kit.mass,
        report.kit.setUpMinutes,
        report.coverage.share,
      ])
        expect(Number.isFinite(value), `seed ${seed}`).toBe(true);
      const schedule = scheduleOf(plan, report.kit, report.forecast);
      for (const { from, to } of schedule.stretches)
        expect(Number.isFinite(from) && Number.isFinite(to), `seed ${seed}`).toBe(true);
      sunThroughDay(plan);
    }
  }, 120_000);

  test.each([
    ['an unknown field', (plan: Plan) => ({ ...plan, extra: 1 }), 'extra'],
    [
      'a number outside its range',
      (plan: Plan) => ({ ...plan, camera: { ...plan.camera, aperture: 0.2 } }),
      'aperture',
    ],
    ['not a number', (plan: Plan) => ({ ...plan, room: { ...plan.room, left: NaN } }), 'left'],
    ['an unknown gel', (plan: Plan) => ({ ...plan, lamps: [{ ...plan.lamps[0], gel: 'mauve' }] }), 'gel'],
    ['two lamps of one id', (plan: Plan) => ({ ...plan, lamps: [plan.lamps[0], plan.lamps[0]] }), 'lamps'],
    [
      'a material nobody knows',
      (plan: Plan) => ({ ...plan, screen: { ...plan.screen, material: 'Cobweb' } }),
      'material',
    ],
    ['a time of day that is none', (plan: Plan) => ({ ...plan, event: { ...plan.event, arrive: '25:00' } }), 'arrive'],
    [
      'a colour that is none',
      (plan: Plan) => ({ ...plan, event: { ...plan.event, roster: [{ name: 'x', colours: ['grass'], people: 1 }] } }),
      'colours',
    ],
    [
      'a camera behind the screen',
      (plan: Plan) => ({ ...plan, camera: { ...plan.camera, position: { x: 0, y: 1, z: -1 } } }),
      'camera',
    ],
    ['another version', (plan: Plan) => ({ ...plan, version: 2 }), 'version'],
  ])('%s is refused by name', (_, spoil, where) => {
    const result = planSchema.safeParse(spoil(startingPlan('Test', '2026-06-13')));
    expect(result.success).toBe(false);
    expect(JSON.stringify(result.error?.issues)).toContain(where);
  });

  test('the demo’s plans pass, also after a way through JSON', () => {
    for (const plan of Object.values(demoPlans()))
      expect(planSchema.parse(JSON.parse(JSON.stringify(plan)))).toEqual(plan);
  });

  test('the documented schema is the one in use', () => {
    expect(JSON.parse(readFileSync(new URL('../docs/plan.schema.json', import.meta.url), 'utf8'))).toEqual(
      JSON.parse(JSON.stringify(planJsonSchema())),
    );
  });
});
