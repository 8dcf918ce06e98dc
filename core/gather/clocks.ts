import { medianOf } from '../screen/statistics.ts';
import { plainNumber, type Sortable } from './assign.ts';
import { grouped } from './grouped.ts';

/** Cameras whose clocks differ, by the slates that more than one of them saw. */

export interface ClockOff {
  camera: string;
  /** The camera that it is compared with: the one with the most frames. */
  like: string;
  /** Seconds to be added to what its clock shows now. */
  seconds: number;
  /** How many slates say so. */
  slates: number;
}

/** Slates are held to one camera after the other: what differs by less is no clock, seconds. */
const LEAST = 45;

/** @param frames of a shoot, their clocks as they are set now. */
export function clocksOff(frames: readonly Sortable[]): ClockOff[] {
  const cameras = [...grouped(frames, ({ camera }) => camera)].toSorted(([, a], [, b]) => b.length - a.length);
  const [first, ...others] = cameras.map(([camera, own]) => ({ camera, seen: slateTimes(own) }));
  return others.flatMap(({ camera, seen }): ClockOff[] => {
    const differences = [...seen].flatMap(([number, at]) => {
      const there = first.seen.get(number);
      return there === undefined ? [] : [there - at];
    });
    const seconds = Math.round(medianOf(differences));
    return differences.length && Math.abs(seconds) >= LEAST
      ? [{ camera, like: first.camera, seconds, slates: differences.length }]
      : [];
  });
}

/** When each slate was seen first. */
function slateTimes(frames: readonly Sortable[]): Map<string, number> {
  const times = new Map<string, number>();
  for (const { slate, at } of frames) {
    if (slate === null || at === null) continue;
    const number = plainNumber(slate);
    times.set(number, Math.min(at, times.get(number) ?? Infinity));
  }
  return times;
}
