export {
  compositeOnBackground,
  compositeOnTone,
  judgingTones,
  mattePicture,
  worstTone,
  type Tone,
  type ToneName,
} from './composite.ts';
export { cropAround, cropped, underCrop, type Crop } from './cropped.ts';
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
