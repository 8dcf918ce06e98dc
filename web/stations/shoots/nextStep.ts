import type { Shoot } from '../../../contract/index.ts';
import { minutes } from '../../shared/format.ts';

/** The one thing to do next with a shoot, where, and what it costs. */
export interface NextStep {
  words: string;
  path: 'plan' | 'check' | 'gather' | 'extract' | 'place' | 'hand-over';
  cost: string;
}

/** Minutes of a photographer for what needs no computing: a plan, a round of test frames, choosing backgrounds. */
const PLAN_MINUTES = 15;
const ROUND_MINUTES = 5;
const PLACING_SECONDS = 6;

/** @param cutSeconds of this machine for one frame; null while unknown. */
export function nextStep(shoot: Shoot, cutSeconds: number | null): NextStep {
  const { frames, cut, placed, plans, signed, handedOver } = shoot;
  if (shoot.pending)
    return { words: 'Watch the sample come in', path: 'gather', cost: `${shoot.pending} pictures to go` };
  if (!frames && !plans) return { words: 'Plan the set', path: 'plan', cost: `about ${PLAN_MINUTES} min` };
  if (!frames && !signed) return { words: 'Test the set', path: 'check', cost: `about ${ROUND_MINUTES} min a setup` };
  if (!frames) return { words: 'Bring in the frames', path: 'gather', cost: 'as long as the card takes' };
  if (cut < frames) {
    const left = frames - cut;
    const cost =
      cutSeconds === null ? 'unattended' : `${Math.max(1, Math.ceil((left * cutSeconds) / 60))} min unattended`;
    return { words: `Extract ${left === 1 ? 'one frame' : `${left} frames`}`, path: 'extract', cost };
  }
  if (placed < frames) {
    const left = frames - placed;
    return {
      words: `Choose ${left === 1 ? 'one background' : `${left} backgrounds`}`,
      path: 'place',
      cost: `about ${Math.max(1, Math.ceil((left * PLACING_SECONDS) / 60))} min`,
    };
  }
  if (!handedOver) return { words: 'Hand the pictures over', path: 'hand-over', cost: 'unattended' };
  return { words: 'See what is doubtful', path: 'extract', cost: minutes(shoot.minutes) };
}
