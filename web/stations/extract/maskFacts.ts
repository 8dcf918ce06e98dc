import type { Frame, Setup } from '../../../contract/index.ts';
import type { HandMask } from '../../../core/cut/guidance.ts';
import { changeFrame, changeSetup } from '../../state/changes.ts';

export type Scope = 'setup' | 'subject' | 'frame';

/** A mask that is being drawn. */
export interface Drawing {
  effect: HandMask['effect'];
  scope: Scope;
  /** Shares of the frame. */
  corners: { x: number; y: number }[];
  /** How far its border fades, share of the frame's height. */
  soft?: number;
}

/** Corners that make a mask. */
export const LEAST_CORNERS = 3;

export const effects: Record<HandMask['effect'], { title: string; words: string }> = {
  clear: { title: 'Clear', words: 'what lies in it goes: walls, stands, lamps' },
  solid: { title: 'Solid', words: 'what lies in it stays whole' },
  crop: { title: 'Crop', words: 'what lies outside it goes' },
  sheer: {
    title: 'See-through',
    words: 'the screen shines through what lies in it: sheer cloth, drawn within its edges',
  },
  spillLeft: { title: 'Keep colour', words: 'no spill is taken from what lies in it' },
  spillGone: { title: 'No spill', words: 'all spill is taken from what lies in it, even from green that stays' },
};

export const scopes: Record<Scope, string> = {
  setup: 'all frames of the setup',
  subject: 'all frames of this subject',
  frame: 'this frame',
};

/** Adds a drawn mask to its setup or frame. */
export function keepMask({ effect, scope, corners, soft }: Drawing, setup: Setup, frame: Frame): void {
  const mask: HandMask = {
    effect,
    polygon: corners,
    ...(scope === 'subject' ? { wholeSubject: true } : {}),
    ...(soft ? { soft } : {}),
  };
  if (scope === 'setup') void changeSetup(setup, { masks: [...setup.masks, mask] }, 'mask');
  else
    void changeFrame(
      frame,
      ({ guidance }) => ({ guidance: { ...guidance, masks: [...guidance.masks, mask] } }),
      'mask',
    );
}

/** Share of the frame that a polygon covers, 0–1. */
export function areaOf(polygon: readonly { x: number; y: number }[]): number {
  let twice = 0;
  polygon.forEach((p, n) => {
    const q = polygon[(n + 1) % polygon.length];
    twice += p.x * q.y - q.x * p.y;
  });
  return Math.abs(twice) / 2;
}
