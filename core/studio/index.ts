export { demoFrames, demoPlan, demoScreens, type DemoFrame } from './cast.ts';
export { renderPortrait, type Portrait, type PortraitPlan } from './portrait.ts';
export type { Subject } from './figure.ts';
export type { ScreenSetup } from './litScreen.ts';
export { demoBackgrounds, paintBackground } from './backgrounds.ts';
