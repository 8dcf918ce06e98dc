export {
  byOwnLog,
  causeTitle,
  doubtKinds,
  factorsFrom,
  fitDoubts,
  fitForecast,
  forecastCauses,
  noFactors,
  type Factors,
  type FittedCause,
} from './factors.ts';
export { factorRange, fitFactors, type FittedFactor, type Observation } from './fit.ts';
export { lessonsOf, materialCards, type Lesson, type MaterialCard, type OfShoot } from './lessons.ts';
export {
  costOf,
  foreseenBy,
  noCosts,
  secondsOf,
  workPlaces,
  type CauseOfForecast,
  type CostSum,
  type Foreseen,
  type LoggedSetup,
  type ShootCosts,
  type WorkPlace,
  type WorkTime,
} from './logged.ts';
export { timelineOf, type Course, type LogEvent } from './timeline.ts';
