import type { BallReading } from './ball.ts';
import type { CauseId } from './causeFacts.ts';
import type { CheckReading, Evidence } from './checkReading.ts';
import type { PlanDifference } from './difference.ts';
import type { LawnSpread } from './lawn.ts';
import type { CastShadow } from './people.ts';
import type { ScreenColour } from './survey.ts';

export interface Cause {
  id: CauseId;
  title: string;
  /** How far it lies beyond what is accepted: 1 just at the bound. */
  weight: number;
  /** Minutes of hand repair that go with it. */
  minutes: number;
  /** What to move, and by how much. */
  remedy: string;
  evidence: Evidence[];
}

/** What causes are told from. */
export interface Observed {
  readings: CheckReading[];
  spread?: LawnSpread;
  shadow?: CastShadow;
  ball?: BallReading;
  difference?: PlanDifference;
  colour: ScreenColour;
}

/** Adds a cause if it lies beyond what is accepted. */
export type Add = (id: CauseId, weight: number, remedy: string, evidence?: Evidence[]) => unknown;
