import { planJsonSchema } from '../contract/index.ts';
import {
  clock,
  isWithin,
  readingFacts,
  reportOn,
  savingsOf,
  scheduleOf,
  startingPlan,
  sunThroughDay,
} from '../core/plan/index.ts';
import { argumentsOf, UsageError } from './arguments.ts';
import { readPlan } from './readPlan.ts';

export const planUsage = `silent-lawn plan FILE.json [options]

  --json               all outputs as one JSON object
  --schema             print the JSON Schema of plan files and end (no FILE)
  --start              print a plan laid out by the rules of thumb and end (no FILE)`;

/** Computes everything about a plan file. @returns exit code. */
export async function planCommand(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, {
    json: { type: 'boolean', default: false },
    schema: { type: 'boolean', default: false },
    start: { type: 'boolean', default: false },
  });
  if (values.schema || values.start) {
    console.log(JSON.stringify(values.schema ? planJsonSchema() : startingPlan('New plan', '2027-01-01'), null, 2));
    return 0;
  }
  if (positionals.length !== 1) throw new UsageError(`FILE.json: expected one plan, received ${positionals.length}`);
  const plan = await readPlan(positionals[0]);
  const { map, ...report } = reportOn(plan);
  const schedule = scheduleOf(plan, report.kit, report.forecast);
  const savings = savingsOf(plan).map(({ words, minutes }) => ({ words, minutes }));
  if (values.json) {
    const rounded = (values: ArrayLike<number>): (number | null)[] =>
      Array.from(values, (v) => (Number.isFinite(v) ? Number(v.toFixed(3)) : null));
    const lawnMap = {
      columns: map.columns,
      rows: map.rows,
      lux: rounded(map.empty),
      luxWithPeople: rounded(map.shadowed),
      level: rounded(map.level),
    };
    const readings = report.readings.map(({ id, value, verdict, reason }) => ({
      id,
      value,
      verdict,
      reason,
      ...readingFacts[id],
    }));
    console.log(JSON.stringify({ ...report, readings, lawnMap, savings, schedule, sun: sunThroughDay(plan) ?? null }));
    return 0;
  }
  console.log(
    `${plan.name}: ${report.forecast.frames} frames, ${report.forecast.minutes.toFixed(0)} min by hand (${report.forecast.low.toFixed(0)}–${report.forecast.high.toFixed(0)})\n`,
  );
  for (const { id, value, reason } of report.readings) {
    const { title, unit, digits, remedy } = readingFacts[id];
    console.log(
      `${isWithin(id, value) ? ' ' : '!'} ${title}: ${value.toFixed(digits)} ${unit}. ${reason}${isWithin(id, value) ? '' : ` ${remedy}`}`,
    );
  }
  console.log('\nSaves most:');
  for (const { words, minutes } of savings.slice(0, 8)) console.log(`  ${minutes.toFixed(1)} min  ${words}`);
  console.log(`\nReady at ${clock(schedule.ready)}; deadline ${clock(schedule.deadline)}.`);
  for (const { words, remedy } of schedule.misfits) console.log(`! ${words} ${remedy}`);
  for (const caution of report.cautions) console.log(`– ${caution}`);
  return 0;
}
