import type { Plan } from '../plan/plan.ts';
import type { Report } from '../plan/report.ts';
import { sourcesOf } from '../plan/light.ts';
import type { Lawn } from './lawn.ts';

/** A measured lawn against the planned one. */
export interface PlanDifference {
  columns: number;
  rows: number;
  /** Measured less planned, stops, both around their mean; NaN where either shows no screen. */
  stops: Float64Array;
  /** Largest difference, stops. */
  most: number;
  /**
   * How much each lamp seems to give, as a share of the plan, relative to the strongest; only lamps that matter there.
   */
  lamps: { id: string; name: string; share: number }[];
}

/** Lamps that give less than this share of the screen's light cannot be judged by it. */
const LEAST_PART = 0.12;

/**
 * Compares a measured lawn with the plan's, and finds by least squares with strengths at or above 0 how much of its
 * planned light each lamp gives.
 */
export function comparePlan(lawn: Lawn, report: Report, plan: Plan): PlanDifference | undefined {
  const { map } = report;
  if (map.columns !== lawn.columns || map.rows !== lawn.rows) return undefined;
  const places = [...lawn.stops.keys()].filter((p) => !Number.isNaN(lawn.stops[p]) && map.empty[p] > 0);
  if (places.length < 12) return undefined;
  const mean = places.reduce((sum, p) => sum + map.empty[p], 0) / places.length;
  const own = places.reduce((sum, p) => sum + 2 ** lawn.stops[p], 0) / places.length;
  const stops = new Float64Array(lawn.stops.length).fill(NaN);
  for (const p of places) stops[p] = lawn.stops[p] - Math.log2(own) - Math.log2(map.empty[p] / mean);
  const sources = sourcesOf(plan, 2);
  const parts = map.bySource.map((values) => places.reduce((sum, p) => sum + values[p], 0) / places.length / mean);
  const judged = parts.map((_, n) => n).filter((n) => sources[n].kind !== 'room' && parts[n] >= LEAST_PART);
  // What is not judged is taken as planned.
  const rest = (p: number): number =>
    map.bySource.reduce((sum, values, n) => (judged.includes(n) ? sum : sum + values[p]), 0) / mean;
  const columns = judged.map((n) => places.map((p) => map.bySource[n][p] / mean));
  const measured = places.map((p) => 2 ** lawn.stops[p] / own - rest(p));
  const weights = nonNegative(columns, measured);
  const strongest = Math.max(1e-6, ...weights);
  return {
    columns: lawn.columns,
    rows: lawn.rows,
    stops,
    most: places.reduce((most, p) => Math.max(most, Math.abs(stops[p])), 0),
    lamps: judged.map((n, k) => ({
      id: sources[n].lamp.id,
      name: sources[n].lamp.name,
      share: weights[k] / strongest,
    })),
  };
}

/** Least squares with weights at or above 0, by coordinate descent. */
function nonNegative(columns: number[][], target: number[]): number[] {
  const weights = columns.map(() => 1);
  const residual = target.map((v, p) => v - columns.reduce((sum, column) => sum + column[p], 0));
  for (let pass = 0; pass < 400; pass++) {
    columns.forEach((column, n) => {
      const square = column.reduce((sum, v) => sum + v * v, 0);
      if (square === 0) return;
      const next = Math.max(0, weights[n] + column.reduce((sum, v, p) => sum + v * residual[p], 0) / square);
      const change = next - weights[n];
      weights[n] = next;
      column.forEach((v, p) => (residual[p] -= change * v));
    });
  }
  return weights;
}
