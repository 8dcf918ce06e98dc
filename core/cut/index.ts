export { cutFrame, noScreen, type CutResult } from './cutFrame.ts';
export { analyseFrame, ANALYSIS_PIXELS, type Analysis } from './analysis.ts';
export { solveMatte, type Matte } from './matte.ts';
export { finishCut } from './finish.ts';
export { judgeQuality, doubtFacts, type Doubt, type Quality } from './quality.ts';
export { defaultRecipe, recipeSettings, type Recipe, type SettingFacts } from './recipe.ts';
export { type GreenPatch } from './ledger.ts';
export { Region } from './regions.ts';
