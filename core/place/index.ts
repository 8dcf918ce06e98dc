export {
  compositeOnBackground,
  compositeOnTone,
  judgingTones,
  onBackground,
  worstTone,
  type Tone,
  type ToneName,
} from './composite.ts';
export { cropAround, cropped, underCrop, type Crop } from './cropped.ts';
export { cutViews, differencePicture, mattePicture, shownAs, spillPicture, type CutView } from './judging.ts';
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
