export { plainReport, type PlainMap, type PlainReport } from './plain.ts';
export { surveyScreen, surveyBounds, type ScreenColour, type Survey } from './survey.ts';
export { fitScreenModel, type ScreenModel } from './screenModel.ts';
export { gatherPlate, type Gathered } from './gather.ts';
export {
  checkSetup,
  type CheckInput,
  type CheckReading,
  type CheckReport,
  type Evidence,
  type Marks,
} from './check.ts';
export { causeFacts, rehearsedFacts, type Cause, type CauseId, type RehearsedCause } from './causes.ts';
export { angleBetween, anglesOf, directionOf } from './direction.ts';
export { type BallReading, type Circle, type LightMove } from './ball.ts';
export { recogniseKind, type TargetKind } from './targets.ts';
export type { Box } from './box.ts';
export type { Lawn } from './lawn.ts';
export type { Outline } from './outline.ts';
export type { PlanDifference } from './difference.ts';
