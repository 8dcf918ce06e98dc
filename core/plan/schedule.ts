import type { Forecast } from './forecast.ts';
import type { Kit } from './kit.ts';
import type { Plan } from './plan.ts';
import { clock, minutesOf } from './sun.ts';

/** One stretch of the day. Times are minutes after midnight of the shoot's date. */
export interface Stretch {
  who: 'team' | 'camera' | 'machine' | 'by hand';
  words: string;
  from: number;
  to: number;
  /** Runs by itself. */
  unattended: boolean;
}

export interface Slot {
  minute: number;
  name: string;
}

export interface Schedule {
  stretches: Stretch[];
  slots: Slot[];
  /** Guests per hour that the setup takes. */
  perHour: number;
  /** How many guests fit before pack-down must begin. */
  capacity: number;
  /** When everything is ready, and the deadline. */
  ready: number;
  deadline: number;
  /** What does not fit, and what would make it fit. */
  misfits: { words: string; remedy: string }[];
}

const TEST_MINUTES = 20;
const IMPORT_SECONDS = 0.6;
const FINISH_SECONDS = 2.5;

/** Lays out the day and the night: set-up, tests, guests, pack-down, extraction, repair, finishing, handing over. */
export function scheduleOf(plan: Plan, kit: Kit, forecast: Forecast): Schedule {
  const { event } = plan;
  const misfits: Schedule['misfits'] = [];
  const arrive = minutesOf(event.arrive);
  const tested = arrive + kit.setUpMinutes + TEST_MINUTES;
  const first = minutesOf(event.firstGuest);
  if (tested > first)
    misfits.push({
      words: `Set-up and test end at ${clock(tested)}, ${Math.ceil(tested - first)} min after the first guest.`,
      remedy: `Arrive by ${clock(first - kit.setUpMinutes - TEST_MINUTES)}, or bring another helper.`,
    });
  const begin = Math.max(first, tested);
  const packBy = minutesOf(event.packedBy) - kit.packDownMinutes;
  const { times, over } = slotTimes(event, begin);
  const end = times.length ? times[times.length - 1] + event.minutesPerGuest : begin;
  const breakMinutes = event.breaks
    .filter(({ start }) => minutesOf(start) >= begin && minutesOf(start) < packBy)
    .reduce((sum, { minutes }) => sum + minutes, 0);
  const capacity = Math.max(0, Math.floor((packBy - begin - breakMinutes) / event.minutesPerGuest));
  if (event.guests > capacity) {
    const faster = Math.max(0, (packBy - begin - breakMinutes) / Math.max(1, event.guests));
    misfits.push({
      words: `${event.guests - capacity} of ${event.guests} guests do not fit before pack-down must begin at ${clock(packBy)}.`,
      remedy: `Take ${faster.toFixed(1)} min for each, begin ${Math.ceil(end - packBy)} min earlier, or set up a second place.`,
    });
  }
  if (over) misfits.push({ words: 'More than two days of guests.', remedy: 'Split the shoot.' });
  const packed = end + kit.packDownMinutes;
  const seconds = (each: number): number => (forecast.frames * each) / 60;
  const imported = packed + seconds(IMPORT_SECONDS);
  const cut = imported + seconds(event.cutSeconds);
  // The first frames are ready at once; repair runs beside the rest of the batch but cannot end before it.
  const repaired = Math.max(cut, imported + Math.min(5, seconds(event.cutSeconds)) + forecast.minutes);
  const ready = repaired + seconds(FINISH_SECONDS);
  const deadline = minutesOf(event.deadlineTime) + daysBetween(event.date, event.deadlineDate) * 1440;
  if (ready > deadline) {
    misfits.push({
      words: `Everything is ready at ${clock(ready)}, ${Math.ceil(ready - deadline)} min after the deadline.`,
      remedy:
        forecast.minutes >= ready - deadline
          ? `Save ${Math.ceil(ready - deadline)} min of hand repair (see what saves most), agree on a later hour, or share the repair.`
          : 'Agree on a later hour, or begin to import and cut during the shoot.',
    });
  }
  const stretches: Stretch[] = [
    { who: 'team', words: 'Set up', from: arrive, to: arrive + kit.setUpMinutes, unattended: false },
    { who: 'team', words: 'Test frame and check', from: arrive + kit.setUpMinutes, to: tested, unattended: false },
    { who: 'camera', words: `${event.guests} guests`, from: begin, to: end, unattended: false },
    ...event.breaks
      .filter(({ start }) => minutesOf(start) >= begin && minutesOf(start) < end)
      .map(({ start, minutes }): Stretch => ({
        who: 'team',
        words: 'Break',
        from: minutesOf(start),
        to: minutesOf(start) + minutes,
        unattended: false,
      })),
    { who: 'team', words: 'Pack down', from: end, to: packed, unattended: false },
    { who: 'machine', words: `Import ${forecast.frames} frames`, from: packed, to: imported, unattended: true },
    { who: 'machine', words: 'Extract', from: imported, to: cut, unattended: true },
    {
      who: 'by hand',
      words: `Repair, about ${Math.round(forecast.minutes)} min`,
      from: repaired - forecast.minutes,
      to: repaired,
      unattended: false,
    },
    { who: 'machine', words: 'Finished pictures, hand-over', from: repaired, to: ready, unattended: true },
  ];
  const names = event.roster.flatMap((guest) =>
    Array.from({ length: Math.min(guest.people, 20000) }, (_, n) =>
      guest.people > 1 ? `${guest.name} ${n + 1}` : guest.name,
    ),
  );
  return {
    stretches,
    slots: times.map((minute, n) => ({ minute, name: names[n] ?? `Guest ${n + 1}` })),
    perHour: 60 / event.minutesPerGuest,
    capacity,
    ready,
    deadline,
    misfits,
  };
}

function slotTimes(event: Plan['event'], begin: number): { times: number[]; over: boolean } {
  const times: number[] = [];
  const breaks = [...event.breaks].sort((a, b) => minutesOf(a.start) - minutesOf(b.start));
  let now = begin;
  for (let n = 0; n < event.guests; n++) {
    for (const { start, minutes } of breaks) {
      const from = minutesOf(start);
      if (now + event.minutesPerGuest > from && now < from + minutes) now = from + minutes;
    }
    if (now > 2 * 1440) return { times, over: true };
    times.push(now);
    now += event.minutesPerGuest;
  }
  return { times, over: false };
}

/** Whole days from one YYYY-MM-DD to another. */
export function daysBetween(from: string, to: string): number {
  return dayNumber(to) - dayNumber(from);
}

/** Days since 1 March of year 0 in the proleptic Gregorian calendar. */
function dayNumber(date: string): number {
  const [y, m, d] = date.split('-').map(Number);
  const year = m <= 2 ? y - 1 : y;
  return (
    365 * year +
    Math.floor(year / 4) -
    Math.floor(year / 100) +
    Math.floor(year / 400) +
    Math.floor((153 * ((m + 9) % 12) + 2) / 5) +
    d
  );
}
