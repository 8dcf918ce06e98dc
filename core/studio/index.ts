export { demoFrames, demoPeople, demoShot, type DemoFrame, type SubjectName } from './cast.ts';
export { takeFrame, type Shot, type TakenFrame } from './standIn.ts';
export type { Subject } from './figure.ts';
export { ballIn, demoBackgrounds, paintBackground } from './backgrounds.ts';
export { seededSet, shotsOf, type TestSet } from './testSets.ts';
export { judgeRehearsal, rehearse, remedies, type RemedyId } from './rehearsal.ts';
export { faultIn } from './faults.ts';
