import { medianOf, quantileOf } from '../screen/statistics.ts';
import type { ScreenSigns } from './facts.ts';
import { grouped } from './grouped.ts';

/** Which frames were taken with the same arrangement of screen, lights and camera. */

export interface Signs {
  id: number;
  camera: string;
  /** Whether the frame is higher than wide: a camera that is turned sees another part of the same light. */
  upright: boolean;
  /** Seconds on one clock; null if no camera wrote it. */
  at: number | null;
  /** Exposure by the camera's settings: binary logarithm of time × sensitivity ÷ aperture²; null if it wrote none. */
  exposure: number | null;
  /** Millimetres. */
  focal: number | null;
  screen: ScreenSigns | null;
}

/** A test frame that was signed off: what its setup’s frames are to look like, if the same camera took them. */
export type Reference = Omit<Signs, 'id' | 'at' | 'screen'> & { screen: ScreenSigns };

/** Whether a frame can be compared with a test frame. */
export function comparable(
  { camera, upright, screen }: Pick<Signs, 'camera' | 'upright' | 'screen'>,
  reference: Reference,
): boolean {
  return camera === reference.camera && upright === reference.upright && screen?.colour === reference.screen.colour;
}

export interface ProposedSetup {
  frames: number[];
  /** What sets it apart from the one before, in words; empty for the first. */
  reasons: string[];
}

export const bounds = {
  /** Steps of exposure by the camera's settings. */
  exposure: 0.9,
  /** Ratio of focal lengths, as a logarithm: a zoom moved a little in use is the same setup. */
  focal: 0.15,
  /** Distance of the screen's chromaticities. */
  chroma: 0.05,
  /** Root mean square difference of the patterns of light, steps, together with a pause. */
  pattern: 0.14,
  /** A pause: so many times the gap that nine of ten stay under (guests come minutes apart), and at least so many seconds. */
  pauseTimes: 2.5,
  pauseLeast: 240,
  /** So many of the last frames of a setup stand for it. */
  recent: 9,
};

/** Root mean square difference of two patterns of light, steps. */
export function patternDistance(a: readonly number[], b: readonly number[]): number {
  return Math.sqrt(a.reduce((sum, v, n) => sum + (v - b[n]) ** 2, 0) / Math.max(1, a.length));
}

/** What tells two frames of one camera apart, in words; a pattern of light alone only after a pause. */
function differences(frame: Signs, usual: Signs, paused: boolean): string[] {
  const reasons: string[] = [];
  const { screen, focal, exposure } = frame;
  if (screen && usual.screen) {
    const [r, b] = [screen.chroma[0] - usual.screen.chroma[0], screen.chroma[1] - usual.screen.chroma[1]];
    if (screen.colour !== usual.screen.colour) reasons.push(`the screen is ${screen.colour}`);
    else if (Math.sqrt(r * r + b * b) > bounds.chroma) reasons.push('the screen has another tone');
    if (paused && frame.upright === usual.upright && patternDistance(screen.grid, usual.screen.grid) > bounds.pattern)
      reasons.push('the light falls on the screen in another way');
  }
  if (focal && usual.focal && Math.abs(Math.log(focal / usual.focal)) > bounds.focal)
    reasons.push(`${Math.round(focal)} mm instead of ${Math.round(usual.focal)}`);
  if (exposure !== null && usual.exposure !== null && Math.abs(exposure - usual.exposure) > bounds.exposure)
    reasons.push(
      `exposed ${Math.abs(exposure - usual.exposure).toFixed(1)} steps ${exposure > usual.exposure ? 'more' : 'less'}`,
    );
  return reasons;
}

/**
 * Setups by what the frames show and how they were taken. Each camera has its own; frames that match one that was there
 * before go back to it. What changes without a pause and without the camera being touched is no new setup but a fault
 * in one (see `driftsOf`). Frames without any sign stay with the frame before them.
 */
export function proposeSetups(frames: readonly Signs[]): ProposedSetup[] {
  const groups: { camera: string; members: Signs[]; reasons: string[] }[] = [];
  for (const [camera, own] of grouped(frames, (frame) => frame.camera)) {
    const timed = own.toSorted((a, b) => (a.at ?? 0) - (b.at ?? 0) || a.id - b.id);
    const gaps = timed.slice(1).map((frame, n) => (frame.at ?? 0) - (timed[n].at ?? 0));
    const pause = Math.max(bounds.pauseLeast, bounds.pauseTimes * (gaps.length ? quantileOf(gaps, 0.9) : 0));
    let current: (typeof groups)[number] | undefined;
    timed.forEach((frame, n) => {
      if (!current) {
        current = {
          camera,
          members: [frame],
          reasons: groups.length ? [`another camera: ${camera || 'not named'}`] : [],
        };
        groups.push(current);
        return;
      }
      const paused = n > 0 && frame.at !== null && gaps[n - 1] > pause;
      const reasons = differences(frame, usualOf(current.members, frame.upright), paused);
      if (reasons.length) {
        const earlier = groups.find(
          (group) =>
            group !== current &&
            group.camera === camera &&
            !differences(frame, usualOf(group.members, frame.upright), true).length,
        );
        if (earlier) current = earlier;
        else {
          if (paused) reasons.push(`after a pause of ${Math.round(gaps[n - 1] / 60)} min`);
          current = { camera, members: [], reasons };
          groups.push(current);
        }
      }
      current.members.push(frame);
    });
  }
  return groups.map(({ members, reasons }) => ({ frames: members.map(({ id }) => id), reasons }));
}

/** What the latest frames of a setup have in common; of those that were held the same way, if there are any. */
function usualOf(members: readonly Signs[], upright: boolean): Signs {
  const alike = members.filter((member) => member.upright === upright);
  const recent = (alike.length ? alike : members).slice(-bounds.recent);
  const middle = (values: (number | null)[]): number | null => {
    const known = values.filter((v): v is number => v !== null);
    return known.length ? medianOf(known) : null;
  };
  const screens = recent.flatMap(({ screen }) => (screen ? [screen] : []));
  const last = screens.at(-1);
  return {
    ...recent[recent.length - 1],
    exposure: middle(recent.map(({ exposure }) => exposure)),
    focal: middle(recent.map(({ focal }) => focal)),
    screen: last
      ? {
          ...last,
          chroma: [medianOf(screens.map(({ chroma }) => chroma[0])), medianOf(screens.map(({ chroma }) => chroma[1]))],
          level: medianOf(screens.map(({ level }) => level)),
          grid: last.grid.map((_, n) => medianOf(screens.map(({ grid }) => grid[n]))),
        }
      : null,
  };
}
