import type { PlanReading } from '../plan/readings.ts';
import type { Box } from './box.ts';

/** Something seen at a place that explains a reading. */
export interface Evidence extends Box {
  words: string;
}

export interface CheckReading extends PlanReading {
  /** Minutes of hand repair that it costs with all frames of the event. */
  minutes: number;
  evidence: Evidence[];
}
