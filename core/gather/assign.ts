import { medianOf } from '../screen/statistics.ts';
import { grouped } from './grouped.ts';
import type { Subject } from './subject.ts';

/** Which frame shows whom: by slates, by the times of slots, by the order of the list. */

export type AssignedBy = 'slate' | 'time' | 'order';
export const assignedBy: Record<AssignedBy, string> = {
  slate: 'by the slate before it',
  time: 'by the time of its slot',
  order: 'by the order of the list',
};

/** What is known of a frame when it is sorted. */
export interface Sortable {
  id: number;
  camera: string;
  /** Seconds on one clock for all cameras; null if no camera wrote it. */
  at: number | null;
  /** Number that was read from a slate on it. */
  slate: string | null;
  /** Whether somebody is on it. */
  person: boolean;
  /** Colours of clothing and hair, if they were measured; as long for every frame. */
  looks: readonly number[] | null;
}
export interface Slot {
  /** Seconds on the same clock. */
  from: number;
  name: string;
}
export interface Assigned {
  frameId: number;
  /** Name of the subject. */
  subject: string;
  by: AssignedBy;
  /** How sure it is, 0–1. */
  sure: number;
  /** Whether the frame is the slate itself. */
  slate: boolean;
}
export interface Assignment {
  assigned: Assigned[];
  /** Slates that were read and are nobody's of the list: number and frame. */
  unknown: { frameId: number; number: string }[];
}

export const bounds = {
  /** Frames after their slate: as sure as this, less where they come late. */
  bySlate: 0.98,
  /** By the order of a list at most: whoever did not come shifts all that follow. */
  byOrder: 0.85,
  /** A frame this many times the usual gap between subjects after the one before it may be of somebody without a slate. */
  late: 8,
  /** Looks that differ by this much are another person's; the gap between subjects counts as much as they. */
  otherLooks: 0.35,
  /** A slot's beginning may lie this far, seconds, from the first frame of its subject. */
  slotReach: 1800,
};

/**
 * Who is on which frame. Frames of a camera that saw slates go by them; those of one that did not, but shot beside
 * another, by that one's slates; without any by slots where there are times, else by the order of the list.
 * @param frames in any order. @param roster in the order in which they come. @param slots of the plan, by name.
 */
export function assignFrames(
  frames: readonly Sortable[],
  roster: readonly Pick<Subject, 'name' | 'number'>[],
  slots: readonly Slot[] = [],
): Assignment {
  const timed = frames.filter((frame) => frame.at !== null).toSorted(inTime);
  const byNumber = new Map(roster.map((subject) => [plainNumber(subject.number || subject.name), subject.name]));
  const slates = timed.filter(({ slate }) => slate !== null);
  if (!slates.length) return { assigned: withoutSlates(timed, roster, slots), unknown: [] };
  const unknown = slates
    .filter(({ slate }) => !byNumber.has(plainNumber(slate ?? '')))
    .map(({ id, slate }) => ({ frameId: id, number: slate ?? '' }));
  const gap = usualGap(slates.map(({ at }) => at ?? 0));
  const assigned: Assigned[] = [];
  for (const [camera, own] of grouped(timed, (frame) => frame.camera)) {
    const ownSlates = own.some(({ slate }) => slate !== null);
    // A second camera beside one that sees the slates goes by those.
    const all = ownSlates ? own : timed.filter((frame) => frame.camera === camera || frame.slate !== null);
    let subject: string | undefined;
    let before: number | undefined;
    for (const frame of all) {
      if (frame.slate !== null) {
        subject = byNumber.get(plainNumber(frame.slate));
        before = frame.at ?? undefined;
        if (subject !== undefined && frame.camera === camera)
          assigned.push({ frameId: frame.id, subject, by: 'slate', sure: bounds.bySlate, slate: true });
        continue;
      }
      if (subject === undefined || !frame.person) continue;
      const late = gap > 0 && before !== undefined && (frame.at ?? 0) - before > bounds.late * gap;
      before = frame.at ?? undefined;
      const sure = bounds.bySlate * (ownSlates ? 1 : 0.85) * (late ? 0.6 : 1);
      assigned.push({ frameId: frame.id, subject, by: 'slate', sure, slate: false });
    }
  }
  return { assigned, unknown };
}

/** Slates are written and read in any case and with any noughts before. */
export function plainNumber(number: string): string {
  return number
    .trim()
    .toLowerCase()
    .replace(/^0+(?=.)/, '');
}

function inTime(a: Sortable, b: Sortable): number {
  return (a.at ?? 0) - (b.at ?? 0) || a.id - b.id;
}

function usualGap(times: readonly number[]): number {
  const gaps = times.slice(1).map((at, n) => at - times[n]);
  return gaps.length ? medianOf(gaps) : 0;
}

/** Runs of frames that show one person each, in the order of time, and who they are. */
function withoutSlates(
  timed: readonly Sortable[],
  roster: readonly Pick<Subject, 'name'>[],
  slots: readonly Slot[],
): Assigned[] {
  const people = timed.filter(({ person }) => person);
  if (!people.length || !roster.length) return [];
  const named = new Set(roster.map(({ name }) => name));
  const usable = slots.filter(({ name }) => named.has(name)).toSorted((a, b) => a.from - b.from);
  return usable.length > 1 ? bySlots(people, usable) : byOrder(people, roster);
}

/** How much speaks for a new person before each frame but the first: a long gap, other clothes and hair. */
function breaksOf(people: readonly Sortable[]): number[] {
  const gaps = people.slice(1).map((frame, n) => Math.log(1 + Math.max(0, (frame.at ?? 0) - (people[n].at ?? 0))));
  const usual = gaps.length ? medianOf(gaps) : 0;
  const spread = Math.max(0.5, medianOf(gaps.map((gap) => Math.abs(gap - usual))) || 0);
  return gaps.map((gap, n) => {
    const other = lookDistance(people[n], people[n + 1]);
    return (
      Math.min(3, (gap - usual) / spread / 2) + (other === undefined ? 0 : 2 * Math.min(2, other / bounds.otherLooks))
    );
  });
}

/** Root mean square of the differences of two people's colours; undefined where one was not measured. */
export function lookDistance(a: Pick<Sortable, 'looks'>, b: Pick<Sortable, 'looks'>): number | undefined {
  if (!a.looks?.length || a.looks.length !== b.looks?.length) return undefined;
  const theirs = b.looks;
  return Math.sqrt(a.looks.reduce((sum, v, n) => sum + (v - theirs[n]) ** 2, 0) / a.looks.length);
}

/** As many runs as there are people on the list, cut where most speaks for it. */
function byOrder(people: readonly Sortable[], roster: readonly Pick<Subject, 'name'>[]): Assigned[] {
  const breaks = breaksOf(people);
  const wanted = Math.min(roster.length, people.length) - 1;
  const order = breaks.map((_, n) => n).toSorted((a, b) => breaks[b] - breaks[a]);
  const cutAt = new Set(order.slice(0, wanted));
  // How far what was cut stands above what was not tells whether the number of people is right.
  const margin = wanted > 0 && wanted < breaks.length ? breaks[order[wanted - 1]] - breaks[order[wanted]] : 1;
  const sure = Math.max(0.3, Math.min(bounds.byOrder, 0.6 + margin / 4));
  let run = 0;
  return people.map((frame, n) => {
    if (n > 0 && cutAt.has(n - 1)) run++;
    return { frameId: frame.id, subject: roster[run].name, by: 'order', sure, slate: false };
  });
}

/**
 * Each slot in turn begins at one of the frames or was missed: the way through that costs least, by how far its first
 * frame lies from its time and by what speaks for a new person there.
 */
function bySlots(people: readonly Sortable[], slots: readonly Slot[]): Assigned[] {
  const breaks = breaksOf(people);
  const length = usualGap(slots.map(({ from }) => from)) || 300;
  const begins = (n: number): number => 4 - (n === 0 ? 4 : breaks[n - 1]);
  const off = (n: number, { from }: Slot): number => {
    const by = Math.abs((people[n].at ?? 0) - from);
    return by > bounds.slotReach ? Infinity : (by / length) ** 2;
  };
  // least[k][n]: the least cost by which the first n frames are given to the first k slots, the last begun being k.
  const missed = 3;
  const rows = slots.length + 1;
  const width = people.length + 1;
  const least = new Float64Array(rows * width).fill(Infinity);
  const from = new Int32Array(rows * width).fill(-1);
  // Frames before the first slot are nobody's, at a price.
  for (let n = 0; n < width; n++) least[n] = 2 * n;
  // Frames before a new beginning go to the slot before; breaks inside a run cost what speaks for them.
  const inside = [0];
  people.forEach((_, n) => inside.push(inside[n] + (n === 0 ? 0 : Math.max(0, breaks[n - 1] - 1))));
  for (let k = 1; k < rows; k++) {
    for (let end = 0; end < width; end++) {
      const skip = least[(k - 1) * width + end] + missed;
      if (skip < least[k * width + end]) [least[k * width + end], from[k * width + end]] = [skip, end];
      for (let start = 0; start < end; start++) {
        const cost =
          least[(k - 1) * width + start] + begins(start) + off(start, slots[k - 1]) + inside[end] - inside[start + 1];
        if (cost < least[k * width + end]) [least[k * width + end], from[k * width + end]] = [cost, start];
      }
    }
  }
  const out: Assigned[] = [];
  let end = people.length;
  for (let k = rows - 1; k > 0; k--) {
    const start = from[k * width + end];
    if (start < 0) break;
    for (let n = start; n < end; n++) {
      const near = Math.min(1, Math.abs((people[start].at ?? 0) - slots[k - 1].from) / length);
      out.push({
        frameId: people[n].id,
        subject: slots[k - 1].name,
        by: 'time',
        sure: 0.85 - 0.35 * near,
        slate: false,
      });
    }
    end = start;
  }
  return out.reverse();
}
