import { readingFacts, type ReadingId } from '../plan/readings.ts';
import type { WorkPlace } from './logged.ts';

/** Something that happened in a shoot. Times are ISO 8601 in UTC. */
export interface LogEvent {
  at: string;
  place: WorkPlace;
  setup: string;
  words: string;
  details: string[];
}

/** What is known of a shoot’s course, as it is kept. */
export interface Course {
  plans: { at: string; name: string; setup: string; minutes: number; frames: number }[];
  rounds: {
    at: string;
    signedAt: string | null;
    setup: string;
    readings: { id: ReadingId; value: number; beyond: boolean }[];
    minutes: number | null;
    openPoints: string[];
    camera: string;
  }[];
  /** `time` is the same as `at`, ms. */
  frames: { at: string; time: number; setup: string }[];
  batches: { at: string; kind: 'cut' | 'deliver' | 'sample'; total: number; failed: number }[];
  deliveries: { at: string; presets: string[]; files: number; keptBack: number }[];
}

/** Frames that came in within so many ms of the one before are one event. */
const TOGETHER = 10 * 60_000;
/** Changes of a reading from round to round that are told at the most, and from which share of its scale on. */
const MOST_CHANGES = 3;
const CHANGED = 0.05;

/** All that happened, in its order. */
export function timelineOf(course: Course): LogEvent[] {
  const events: LogEvent[] = [
    ...course.plans.map(({ at, name, setup, minutes, frames }) => ({
      at,
      place: 'plan' as const,
      setup,
      words: `Set “${name}” planned`,
      details: [`${Math.round(minutes)} min by hand foreseen for ${frames} frames`],
    })),
    ...roundEvents(course.rounds),
    ...frameEvents(course.frames),
    ...course.batches
      .filter(({ kind }) => kind === 'cut')
      .map(({ at, total, failed }) => ({
        at,
        place: 'extract' as const,
        setup: '',
        words: `${counted(total, 'frame')} extracted`,
        details: failed ? [`${failed} failed`] : [],
      })),
    ...course.deliveries.map(({ at, presets, files, keptBack }) => ({
      at,
      place: 'handOver' as const,
      setup: '',
      words: `${counted(files, 'file')} handed over`,
      details: [presets.join(', '), ...(keptBack ? [`${counted(keptBack, 'frame')} kept back`] : [])],
    })),
  ];
  return events.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
}

function roundEvents(rounds: Course['rounds']): LogEvent[] {
  const before = new Map<string, Course['rounds'][number]>();
  return rounds
    .toSorted((a, b) => (a.at < b.at ? -1 : 1))
    .flatMap((round) => {
      const { at, signedAt, setup, readings, minutes, openPoints, camera } = round;
      const last = before.get(setup);
      before.set(setup, round);
      const beyond = readings.filter((reading) => reading.beyond).length;
      const read: LogEvent = {
        at,
        place: 'check',
        setup,
        words: readings.length
          ? `Test frames read: ${beyond} of ${readings.length} out of bounds`
          : 'Test frames taken',
        details: [
          ...(camera ? [camera] : []),
          ...(minutes === null ? [] : [`${Math.round(minutes)} min by hand foreseen`]),
          ...changesOf(last?.readings ?? [], readings),
        ],
      };
      if (!signedAt) return [read];
      return [read, { at: signedAt, place: 'check', setup, words: 'Signed off', details: openPoints }];
    });
}

/** What was changed on the set, as far as readings show it. */
function changesOf(before: Course['rounds'][number]['readings'], now: typeof before): string[] {
  return now
    .flatMap(({ id, value }) => {
      const was = before.find((reading) => reading.id === id);
      const { scale, title, unit, digits } = readingFacts[id];
      const by = was ? Math.abs(value - was.value) / Math.abs(scale[1] - scale[0]) : 0;
      return was && by >= CHANGED
        ? [{ by, words: `${title}: ${was.value.toFixed(digits)} → ${value.toFixed(digits)} ${unit}`.trim() }]
        : [];
    })
    .sort((a, b) => b.by - a.by)
    .slice(0, MOST_CHANGES)
    .map(({ words }) => words);
}

function frameEvents(frames: Course['frames']): LogEvent[] {
  const events: (LogEvent & { count: number; last: number })[] = [];
  for (const { at, time, setup } of frames.toSorted((a, b) => (a.at < b.at ? -1 : 1))) {
    const open = events.findLast((event) => event.setup === setup);
    if (open && time - open.last <= TOGETHER) {
      open.count++;
      open.last = time;
    } else events.push({ at, place: 'gather', setup, words: '', details: [], count: 1, last: time });
  }
  return events.map(({ count, last: _, ...event }) => ({ ...event, words: `${counted(count, 'frame')} came in` }));
}

function counted(n: number, one: string): string {
  return `${n} ${one}${n === 1 ? '' : 's'}`;
}
