export { cutFrame, noScreen, type CutAlso, type CutResult } from './cutFrame.ts';
export { analyseFrame, analysePrepared, type Analysis } from './analysis.ts';
export { ANALYSIS_PIXELS, prepareFrame, surveyFrame, type KnownBefore, type Prepared } from './prepare.ts';
export { solveCoverage, solveMatte } from './matte.ts';
export { coverageHistogram, type Matte } from './coverage.ts';
export { shapeMatte } from './shape.ts';
export { finishCut } from './finish.ts';
export { personLightByCard, personLightFor, withPersonLight } from './personLight.ts';
export { doubtFacts, type DoubtKind } from './doubts.ts';
export type { Place } from './places.ts';
export { judgeQuality, type Doubt, type LedgerEntry, type Quality } from './quality.ts';
export {
  defaultRecipe,
  departed,
  labelOf,
  personLight,
  recipeChoices,
  recipeSettings,
  recipeAt,
  sameRecipe,
  settingNames,
  spillColour,
  type Departure,
  type Method,
  type PersonLight,
  type Recipe,
  type SettingFacts,
  type SettingName,
  type SpillMethod,
} from './recipe.ts';
export {
  guidanceFor,
  noGuidance,
  patchOf,
  verdictOn,
  type Guidance,
  type Guided,
  type HandMask,
  type HandVerdict,
} from './guidance.ts';
export { strokesOf, touchKinds, type Path, type Stroke, type Touch } from '../touch/touch.ts';
export { type GreenPatch } from './greenPatch.ts';
export {
  fingerprintOf,
  EXTRACTION,
  isCurrent,
  orderOf,
  plateFor,
  type Order,
  type OrderedFrame,
  type OrderingSetup,
  type Shot,
} from './order.ts';
export { ownMatteUses, type OwnCoverage, type OwnMatte, type OwnMatteUse } from './ownMatte.ts';
export { Region } from './region.ts';
