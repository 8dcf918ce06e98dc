export * from './plan.ts';
export * from './facts.ts';
export * from './readings.ts';
export {
  cameraModels,
  diffusions,
  gels,
  lampModels,
  materials,
  screenReflectance,
  type CameraModel,
  type LampModel,
} from './library.ts';
export { lampFrom, personAt, screenFrom, startingPlan } from './startingPlan.ts';
export { reportOn, type Report } from './report.ts';
export { quickReport, forecastMinutes, type MinutesOf } from './quick.ts';
export { savingsOf, schoolsOf, singleChanges, type Change, type Saving } from './changes.ts';
export { improve, wholeFreedom, type Freedom, type Improvement } from './improve.ts';
export { scheduleOf, type Schedule, type Slot, type Stretch } from './schedule.ts';
export { clock, minutesOf, sunThroughDay, type SunAt, type SunDay } from './sun.ts';
export { cameraView, project, type CameraView } from './cameraView.ts';
export { fingertips, type Coverage } from './coverage.ts';
export type { LawnMap } from './lawnMap.ts';
export type { Forecast } from './forecast.ts';
export type { Kit } from './kit.ts';
export { demoPlans } from './demoPlans.ts';
export type { Vec } from './vector.ts';
export { setSheet, shutterWords, type SheetSection } from './setSheet.ts';
export { fieldUnit, lengthWords, type Units } from './units.ts';
