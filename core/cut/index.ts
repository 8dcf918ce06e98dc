export { cutFrame, noScreen, type CutAlso, type CutResult } from './cutFrame.ts';
export { analyseFrame, ANALYSIS_PIXELS, type Analysis } from './analysis.ts';
export { solveMatte, type Matte } from './matte.ts';
export { finishCut } from './finish.ts';
export { judgeQuality, doubtFacts, type Doubt, type DoubtKind, type LedgerEntry, type Place, type Quality } from './quality.ts';
export { defaultRecipe, recipeChoices, recipeSettings, sameRecipe, settingNames, type Method, type Recipe, type SettingFacts, type SettingName, type SpillMethod } from './recipe.ts';
export { guidanceFor, instructionsOf, noGuidance, patchOf, verdictOn, type Guidance, type Guided, type HandMask, type HandVerdict, type LitBy } from './guidance.ts';
export { type GreenPatch } from './ledger.ts';
export { Region } from './region.ts';
