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
  isCutOff,
  mirroredExtent,
  pixelsLost,
  placedRectangle,
  placementFacts,
  sidesShown,
  standingLike,
  withSidesHidden,
  type Extent,
  type Placement,
  type Size,
  type Standing,
} from './placement.ts';
export {
  defaultLook,
  isPlain,
  lookFacts,
  lookGroups,
  lookSettings,
  lookSwitches,
  plainLook,
  type Look,
  type LookFacts,
  type LookGroup,
  type LookSetting,
  type LookSwitch,
} from './look.ts';
export { matchBounds, matchOf, miredOf, skinTurn, type Match, type Measured } from './match.ts';
export { placedPicture } from './picture.ts';
export { placedViews, shownPlaced, type PlacedView } from './placedViews.ts';
export { tonesOf, type Tones } from './tones.ts';
