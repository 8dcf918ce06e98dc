import type { Plan } from '../../core/plan/index.ts';
import type { Shot } from '../../core/studio/index.ts';
import type { ShotInput } from './renderTask.ts';

/** The stand-in camera writes frames of this height here; the command line writes any size. */
const SHOT_HEIGHT = 2400;

/** Frames are half a minute apart, from noon on. */
function clockOf(seed: number): string {
  const two = (n: number): string => String(n).padStart(2, '0');
  const at = 12 * 3600 + (seed % 1400) * 30;
  return [Math.floor(at / 3600), Math.floor(at / 60) % 60, at % 60].map(two).join(':');
}

/** What the stand-in camera is asked for on a planned set. */
export function photograph(plan: Plan, kind: Shot['kind'], subjects: Shot['subjects'], seed: number): ShotInput {
  const { pixelsAcross, pixelsDown } = plan.camera;
  const height = Math.min(pixelsDown, SHOT_HEIGHT);
  const width = Math.max(1, Math.round((pixelsAcross * height) / pixelsDown));
  return {
    plan,
    shot: { kind, subjects, seed, width, height },
    takenAt: `${plan.event.date.replaceAll('-', ':')} ${clockOf(seed)}`,
  };
}
