import type { Frame, Setup } from '../../../contract/index.ts';
import type { HandMask } from '../../../core/cut/guidance.ts';
import { roundedLine } from '../../../core/image/roundedLine.ts';
import { simplifyLine } from '../../../core/image/simplifyLine.ts';
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
  /** Whether its outline goes through the corners without a kink. */
  rounded?: boolean;
}

/** Corners that make a mask. */
export const LEAST_CORNERS = 3;
/** Corners that a mask holds. */
const MOST_CORNERS = 200;
/** An outline drawn in one go keeps what a pixel of so many across would show. */
const FINE = 2000;

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
  screen: { title: 'Screen here', words: 'what lies in it is the screen, whose colour is read there' },
  own: { title: 'Own settings', words: 'what lies in it is cut with settings of its own' },
};

export const scopes: Record<Scope, string> = {
  setup: 'all frames of the setup',
  subject: 'all frames of this subject',
  frame: 'this frame',
};

/** Adds a drawn mask to its setup or frame. */
export function keepMask(drawing: Drawing, setup: Setup, frame: Frame): void {
  const { effect, scope, soft } = drawing;
  const mask: HandMask = {
    effect,
    polygon: outlineOf(drawing),
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

/** The outline that a drawing makes. */
export function outlineOf({ corners, rounded }: Pick<Drawing, 'corners' | 'rounded'>): Drawing['corners'] {
  return rounded ? roundedLine(corners, MOST_CORNERS).map(within) : corners;
}

/** Curves may lead over the frame’s edge, where masks end. */
function within({ x, y }: { x: number; y: number }): { x: number; y: number } {
  const held = (v: number): number => Math.min(1, Math.max(0, v));
  return { x: held(x), y: held(y) };
}

/** A drawing with a line that was drawn in one go, as fine as a mask can hold it. */
export function withLine(drawing: Drawing, line: Drawing['corners']): Drawing {
  const room = MOST_CORNERS - drawing.corners.length;
  const points = line.map(({ x, y }) => within({ x, y }));
  let fine = 1 / FINE;
  let corners = simplifyLine(points, fine);
  while (corners.length > room && fine < 1) corners = simplifyLine(points, (fine *= 2));
  return { ...drawing, corners: [...drawing.corners, ...corners.slice(0, room)] };
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
