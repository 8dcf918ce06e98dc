import type { Plan } from './plan.ts';
import { reportOn, type Report } from './report.ts';

/** The report with a coarse map, a few milliseconds: for comparing many plans with each other. */
export function quickReport(plan: Plan): Report {
  return reportOn(plan, 10, 2);
}

/** Minutes by hand that a plan is compared by, such as those by one’s own log. */
export type MinutesOf = (plan: Plan) => number;

/** Forecast minutes by the quick report; compare it only with itself. */
export function forecastMinutes(plan: Plan): number {
  return quickReport(plan).forecast.minutes;
}
