export {
  compositeOnBackground,
  compositeOnTone,
  judgingTones,
  mattePicture,
  type Tone,
  type ToneName,
} from './composite.ts';
export { surroundingsOf } from './surroundings.ts';
export {
  clampPlacement,
  defaultPlacement,
  fitted,
  isCutOff,
  pixelsLost,
  placedRectangle,
  placementFacts,
  type Extent,
  type Placement,
  type Size,
} from './placement.ts';
