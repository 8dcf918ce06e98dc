import type { Frame } from '../../../contract/index.ts';
import { simplifyLine } from '../../../core/image/simplifyLine.ts';
import {
  inOrder,
  touchKinds,
  touchSettings,
  type Path,
  type Touch,
  type TouchKind,
} from '../../../core/touch/touch.ts';
import { api } from '../../state/api.ts';
import { untilAnswered } from '../../state/request.ts';
import { changeFrame, changeFrames } from '../../state/changes.ts';
import { attempt } from '../../state/store.ts';

/** Touches of the hand on a frame. */

/** What the hand holds. */
export interface Brush extends Pick<Touch, 'kind' | 'size' | 'softness' | 'strength'> {
  /** Whether it draws the outline of a zone. */
  zone: boolean;
}

export const usualBrush: Omit<Brush, 'kind'> = {
  zone: false,
  size: touchSettings.size.usual,
  softness: touchSettings.softness.usual,
  strength: touchSettings.strength.usual,
};

/** A line keeps what a pixel of so many across would show. */
const FINE = 6000;

/** Lays a touch on a frame, above all others. */
export async function layOn(frame: Frame, brush: Brush, points: Path['points']): Promise<void> {
  const line: Path = { closed: brush.zone, points: simplifyLine(points, 1 / FINE) };
  const kept = await attempt(untilAnswered(() => api.keepPath(line)));
  if (!kept) return;
  const { zone: _, ...rest } = brush;
  await changeTouches(
    frame,
    (touches) => [
      ...touches,
      { ...rest, id: crypto.randomUUID(), at: Math.max(0, ...touches.map(({ at }) => at)) + 1, on: true, ...kept },
    ],
    touchKinds[brush.kind].title.toLowerCase(),
  );
}

/** Lays touches on other frames along lines of their own, as one step. */
export async function carryOver(carried: readonly { frame: Frame; touch: Touch; line: Path }[]): Promise<void> {
  const kept = await Promise.all(
    carried.map(async ({ frame, touch, line }) => {
      const path = await attempt(untilAnswered(() => api.keepPath(line)));
      return path ? [{ frame, touch: { ...touch, ...path, id: crypto.randomUUID() } }] : [];
    }),
  );
  const laid = kept.flat();
  const frames = [...new Map(laid.map(({ frame }) => [frame.id, frame])).values()];
  await changeFrames(
    frames,
    ({ id, guidance }) => {
      const above = Math.max(0, ...guidance.touches.map(({ at }) => at)) + 1;
      const own = laid.filter(({ frame }) => frame.id === id).map(({ touch }, n) => ({ ...touch, at: above + n }));
      return { guidance: { ...guidance, touches: [...guidance.touches, ...own] } };
    },
    'touches carried over',
  );
}

/** Switches a touch on or off, or sets one of its numbers. */
export function changeTouch(frame: Frame, { id, kind }: Touch, to: Partial<Touch>): void {
  void changeTouches(
    frame,
    (touches) => touches.map((one) => (one.id === id ? { ...one, ...to } : one)),
    touchKinds[kind].title.toLowerCase(),
  );
}

export function removeTouch(frame: Frame, { id, kind }: Touch): void {
  void changeTouches(
    frame,
    (touches) => touches.filter((one) => one.id !== id),
    `${touchKinds[kind].title.toLowerCase()}, removed`,
  );
}

/** Lays a touch on one place earlier (−1) or later (1). */
export function moveTouch(frame: Frame, touch: Touch, way: -1 | 1): void {
  const sorted = inOrder(frame.guidance.touches);
  const n = sorted.findIndex(({ id }) => id === touch.id);
  const other = sorted[n + way];
  if (!other) return;
  const beyond = sorted[n + 2 * way];
  changeTouch(frame, touch, { at: beyond ? (other.at + beyond.at) / 2 : other.at + way });
}

function changeTouches(frame: Frame, make: (touches: Touch[]) => Touch[], label: string): Promise<void> {
  return changeFrame(frame, ({ guidance }) => ({ guidance: { ...guidance, touches: make(guidance.touches) } }), label);
}

/** Kinds of touches by what they are about, as the panel groups them. */
export const kindGroups: { title: string; kinds: TouchKind[] }[] = [
  { title: 'Coverage', kinds: ['add', 'take', 'greysUp', 'greysDown', 'hardEdge'] },
  { title: 'Outline', kinds: ['edgeOut', 'edgeIn', 'softer'] },
  { title: 'Hair', kinds: ['strand', 'trim'] },
  { title: 'Solved anew', kinds: ['hair', 'sheer', 'screen', 'person'] },
  { title: 'Colour', kinds: ['spillGone', 'spillLeft', 'edgeColour', 'edgePaint'] },
];
