export { surveyScreen, surveyBounds, type ScreenColour, type Survey } from './survey.ts';
export { fitScreenModel, type ScreenModel } from './screenModel.ts';
