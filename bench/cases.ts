import type { Plan } from '../core/plan/index.ts';
import { screenReflectance } from '../core/plan/index.ts';
import { demoFrames, demoShot, type Shot } from '../core/studio/index.ts';

/** One rendered frame to measure on. */
export interface BenchCase {
  name: string;
  what: string;
  /** Looked at while tuning, or only reported. */
  part: 'tuning' | 'reporting';
  plan: Plan;
  shot: Shot;
  jpegQuality: number;
}

const HEIGHT = 1600;

/** The first five demo frames of each setup, which were looked at while tuning, and the same people under other seeds, screens and light, which were not. */
export function benchCases(): BenchCase[] {
  const looked = demoFrames.filter((frame) => Number(frame.name.slice(-2)) <= 5);
  const cases: BenchCase[] = looked.map((frame) => ({ name: frame.name, what: frame.subjects.map((s) => s.name).join(' and '), part: 'tuning', ...demoShot(frame, HEIGHT), jpegQuality: 90 }));
  const held = (name: string, seed: number, what: string, change: (plan: Plan) => Plan, jpegQuality = 90): void => {
    const frame = looked.find((f) => f.name === name);
    if (!frame) throw new Error(name);
    const { plan, shot } = demoShot({ ...frame, subjects: frame.subjects.map((s) => ({ ...s, seed, moment: seed })) }, HEIGHT);
    cases.push({ name: `held ${seed}`, what, part: 'reporting', plan: change(plan), shot: { ...shot, seed }, jpegQuality });
  };
  const blue = (plan: Plan): Plan => ({ ...plan, screen: { ...plan.screen, colour: 'blue', ...screenReflectance.blue } });
  const power = (plan: Plan, id: string, factor: number): Plan => ({ ...plan, lamps: plan.lamps.map((lamp) => (lamp.id === id ? { ...lamp, power: lamp.power * factor } : lamp)) });
  held('SKM_0101', 7001, 'fair long hair, one screen lamp at a sixth', (plan) => power(plan, 'screen-right', 1 / 6));
  held('SKM_0102', 7002, 'bottle-green jacket, high gain', (plan) => ({ ...plan, camera: { ...plan.camera, iso: 12800, shutter: plan.camera.shutter / 10.24 } }));
  held('SKM_0103', 7003, 'curly hair, deep creases', (plan) => ({ ...plan, screen: { ...plan.screen, wrinkleDepth: 0.02 } }));
  held('SKM_0105', 7005, 'lime scarf, JPEG quality 80', (plan) => plan, 80);
  held('SKM_0203', 7008, 'curly hair, close to the screen', (plan) => ({ ...plan, people: [{ ...plan.people[0], z: 0.7 }] }));
  held('SKM_0205', 7010, 'long hair on blue', blue);
  held('SKM_0201', 7006, 'green hair on blue', blue);
  held('SKM_0204', 7009, 'white shirt, frizzy fair hair, farther from the screen', (plan) => ({ ...plan, people: [{ ...plan.people[0], z: 1.9 }] }));
  return cases;
}
