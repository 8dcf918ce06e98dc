import { stringify } from 'csv-stringify/sync';
import ical from 'ical-generator';
import { clock, quickReport, scheduleOf, type Plan } from '../../../core/plan/index.ts';

/** The slot list of a plan's day as a table: time, name; formulas escaped, as spreadsheets would run them. */
export function slotsCsv(plan: Plan): string {
  const { slots } = dayOf(plan);
  return stringify(
    slots.map(({ minute, name }) => [clock(minute), name]),
    { header: true, columns: ['time', 'guest'], escape_formulas: true, bom: true },
  );
}

/**
 * The same as iCalendar: one entry for each guest, one for each stretch of the team's day. Times are those of the
 * place.
 */
export function slotsCalendar(plan: Plan, id: number): string {
  const { slots, stretches } = dayOf(plan);
  const calendar = ical({ name: plan.name, prodId: { company: 'Silent Lawn', product: 'Plan' } });
  const [year, month, day] = plan.event.date.split('-').map(Number);
  // The place's clock is so many hours ahead of universal time; entries are written in universal time.
  const at = (minute: number): Date =>
    new Date(Date.UTC(year, month - 1, day, 0, Math.round(minute - plan.room.utcOffset * 60)));
  slots.forEach(({ minute, name }, n) =>
    calendar.createEvent({
      id: `plan-${id}-slot-${n}`,
      start: at(minute),
      end: at(minute + plan.event.minutesPerGuest),
      stamp: at(0),
      summary: name,
    }),
  );
  stretches
    .filter((stretch) => !stretch.unattended && stretch.who !== 'camera' && stretch.to > stretch.from)
    .forEach(({ words, who, from, to }, n) =>
      calendar.createEvent({
        id: `plan-${id}-stretch-${n}`,
        start: at(from),
        end: at(to),
        stamp: at(0),
        summary: `${words} (${who})`,
      }),
    );
  return calendar.toString();
}

function dayOf(plan: Plan): ReturnType<typeof scheduleOf> {
  const report = quickReport(plan);
  return scheduleOf(plan, report.kit, report.forecast);
}
