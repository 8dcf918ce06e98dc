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
export {
  clampPlacement,
  defaultPlacement,
  isCutOff,
  mirroredExtent,
  pixelsLost,
  placedRectangle,
  placementFacts,
  scaleOn,
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
export { miredOf } from '../colour/lightGains.ts';
export { matchBounds, matchOf, sidesOf, skinTurn, type Match, type Measured } from './match.ts';
export { distanceOf, lensByLines, lineWays, tiltOf, type Lens, type LinePair, type LineWay } from './lens.ts';
export { painted, paintWayNames, paintWays, type Paint, type PaintWay } from './paint.ts';
export {
  alikeWays,
  eyesAbove,
  facedLike,
  figureOf,
  noSceneFacts,
  onHorizon,
  scaledByGround,
  sceneRanges,
  waysKnown,
  type AlikeWay,
  type Figure,
  type SceneFacts,
} from './scene.ts';
export {
  cardFields,
  cardFonts,
  cardPlaces,
  cardRanges,
  cardSvg,
  unknownFields,
  MOST_LINES,
  type Card,
  type CardFields,
  type CardFont,
  type CardLine,
  type CardPlace,
  type Drawn,
} from './card.ts';
export { MOST_OTHERS, otherPlaces, placedPeople, type Other, type OtherPlace, type PlacedPerson } from './people.ts';
export { byPair } from './pairs.ts';
export { histogramsOf, type Histograms } from './histograms.ts';
export { fitBallLight, lightAt, type BallLight, type Facing } from './ballLight.ts';
export { cubeOf, readCube, writeCube, type Cube } from './cube.ts';
export {
  areStraight,
  curveChannels,
  curvePoints,
  curveThrough,
  straightCurves,
  type CurveChannel,
  type CurvePoint,
  type Curves,
} from './curves.ts';
export {
  laidIn,
  isNoExtras,
  layerPlaces,
  layerWays,
  MOST_LAYERS,
  noExtras,
  withCard,
  type Also,
  type Extras,
  type Laid,
  type Layer,
  type LayerPlace,
  type LayerWay,
} from './extras.ts';
export { gradeCube, placedPicture } from './picture.ts';
export { placedViews, shownPlaced, type PlacedView } from './placedViews.ts';
export { snapped, type Guide, type Snapping } from './snapped.ts';
export { inARow, isSamePlace, standsAs, type Shown, type StandingModel } from './standing.ts';
export { litApart, plainSides, tonesOf, type Tones } from './tones.ts';
