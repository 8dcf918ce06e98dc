import { demoFrames, demoPlan, demoScreens, type DemoFrame, type PortraitPlan } from '../core/studio/index.ts';

/** One rendered frame to measure on. */
export interface BenchCase {
  name: string;
  what: string;
  /** Looked at while tuning, or only reported. */
  part: 'tuning' | 'reporting';
  plan: PortraitPlan;
  jpegQuality: number;
}

const HEIGHT = 1600;
const WIDTH = 1067;
const blue = { colour: [0.04, 0.09, 0.42] as const };

/** The demo frames, which were looked at while tuning, and the same people under other seeds, screens and light, which were not. */
export function benchCases(): BenchCase[] {
  const cases: BenchCase[] = demoFrames.map((frame) => ({ name: frame.name, what: frame.subject.name, part: 'tuning', plan: demoPlan(frame, WIDTH, HEIGHT), jpegQuality: 90 }));
  const held = (from: number, seed: number, what: string, change: (plan: PortraitPlan, frame: DemoFrame) => void, jpegQuality = 90): void => {
    const frame = demoFrames[from];
    const plan = demoPlan({ ...frame, subject: { ...frame.subject, seed } }, WIDTH, HEIGHT);
    plan.screen = { ...plan.screen };
    change(plan, frame);
    cases.push({ name: `held ${seed}`, what, part: 'reporting', plan, jpegQuality });
  };
  held(0, 7001, 'fair long hair, two stops uneven', (plan) => Object.assign(plan.screen, { left: 1.9, right: 0.5, lampDistance: 0.7 }));
  held(1, 7002, 'bottle-green jacket, high noise', (plan) => Object.assign(plan, { readNoise: 0.009, shotNoise: 0.0004 }));
  held(2, 7003, 'curly hair, deep wrinkles', (plan) => Object.assign(plan.screen, { wrinkles: 0.3 }));
  held(4, 7005, 'lime scarf, JPEG quality 80', () => undefined, 80);
  held(7, 7008, 'curly hair in the tent light', (plan) => Object.assign(plan, { screen: demoScreens.tent.screen, bounce: demoScreens.tent.bounce }));
  held(9, 7010, 'long hair on blue', (plan) => Object.assign(plan.screen, blue));
  held(5, 7006, 'green hair on blue', (plan) => Object.assign(plan.screen, blue));
  held(8, 7009, 'white shirt, fair curls, half the bounce', (plan) => Object.assign(plan, { bounce: 0.35 }));
  return cases;
}
