import type { Face } from '../persons/faces.ts';
import { FACE_METRES } from '../persons/faces.ts';
import type { BallLight } from './ballLight.ts';
import { clampPlacement, placedRectangle, type Placement, type Size } from './placement.ts';

/** What is known of a scene beside its pixels; null where nobody has said. */
export interface SceneFacts {
  /** Where the horizon lies, or would lie behind walls and hills: 0 the upper edge, 1 the lower. */
  horizon: number | null;
  /** Of the camera above the ground that people stand on, metres. */
  cameraHeight: number | null;
  /** Focal length that it was taken with, millimetres as on 36 × 24 mm. */
  focal: number | null;
  /** From which side the light comes: −1 left, 0 from neither, 1 right. */
  lightFrom: number | null;
  /** A matt ball photographed there, exposed as the background. */
  ball: BallLight | null;
  /** How each is known; typed or marked by hand if nothing is said. */
  by: Partial<Record<keyof typeof sceneRanges, HowKnown>>;
  /** How it was taken, for whoever lights the person: lens, distance, sensitivity, shutter, time of day. */
  notes: string;
}
export const noSceneFacts: SceneFacts = {
  horizon: null,
  cameraHeight: null,
  focal: null,
  lightFrom: null,
  ball: null,
  by: {},
  notes: '',
};

/** How a fact of a scene is known, other than by a hand. */
export const waysKnown = { lines: 'by lines', file: 'written in the file' } as const;
export type HowKnown = keyof typeof waysKnown;

/** Ranges, inclusive. */
export const sceneRanges = {
  horizon: { label: 'Horizon from top', min: -1, max: 2, step: 0.005, unit: '% of height' },
  cameraHeight: { label: 'Camera above the ground', min: 0.1, max: 10, step: 0.05, unit: 'm' },
  focal: { label: 'Focal length', min: 8, max: 600, step: 1, unit: 'mm (35 mm film)' },
  lightFrom: { label: 'Light from left or right', min: -1, max: 1, step: 0.1, unit: '−1 to 1' },
};

/** Metres from the ground to the eyes of whoever stands, of a grown person, and their range. */
export const eyesAbove = { label: 'Their eyes above the ground', min: 0.3, max: 2.2, default: 1.58, unit: 'm' };
/** Metres from the ground to the top of the head, at so many metres from the ground to the eyes. */
const TOP_ABOVE_EYES = 0.12;

/** A person in their frame, for standing in a scene. */
export interface Figure {
  cut: Size;
  /** Shares of the frame's height: the middle between the eyes from the top, and one metre at the person. */
  eyes: number;
  metre: number;
  /** The lowest of the person, where they do not go on below the frame. */
  feet: number | null;
}

/**
 * How large a person is in their frame: by the whole height where feet and head are in it, else by the face. Of a group
 * the middle counts.
 * @param top, feet shares of the frame's height; feet null if they are not in the frame.
 * @returns undefined without a face.
 */
export function figureOf(
  cut: Size,
  faces: readonly Face[],
  top: number,
  feet: number | null,
  eyesHigh: number,
): Figure | undefined {
  if (!faces.length) return undefined;
  const mean = (value: (face: Face) => number): number =>
    faces.reduce((sum, face) => sum + value(face), 0) / faces.length;
  const byFace = mean(({ height }) => height) / FACE_METRES;
  const metre = feet !== null && faces.length === 1 ? (feet - top) / (eyesHigh + TOP_ABOVE_EYES) : byFace;
  return { cut, eyes: mean(({ eyesY }) => eyesY), metre, feet };
}

/**
 * Whoever stands on the ground of a scene meets its horizon at the height of the camera: at a scale of s to the metre
 * the eyes are s · (camera − eyes above the ground) below it.
 * @returns the same scale and place across; the height at which the horizon meets them where it does.
 */
export function onHorizon(
  { eyes, metre }: Figure,
  horizon: number,
  cameraHeight: number,
  eyesHigh: number,
  placement: Placement,
): Placement {
  const eyesAt = horizon + placement.height * metre * (cameraHeight - eyesHigh);
  return clampPlacement({ ...placement, y: eyesAt + (1 - eyes) * placement.height });
}

/**
 * The scale of somebody whose feet are at the place where they were put: the ground there is the camera's height below
 * the horizon.
 * @returns undefined where the feet are not in the frame, or above the horizon.
 */
export function scaledByGround(
  { feet, metre }: Figure,
  horizon: number,
  cameraHeight: number,
  placement: Placement,
): Placement | undefined {
  if (feet === null) return undefined;
  const ground = placement.y - (1 - feet) * placement.height;
  if (ground <= horizon) return undefined;
  const height = (ground - horizon) / cameraHeight / metre;
  return clampPlacement({ ...placement, height, y: ground + (1 - feet) * height });
}

/** Ways in which all stand alike. */
export const alikeWays = {
  scale: 'Scale as photographed',
  heads: 'Head size and eyes',
  eyes: 'Eyes at one height',
} as const;
export type AlikeWay = keyof typeof alikeWays;

/**
 * Where somebody stands so that their face is as large and at the same place as another's; or only the eyes at the same
 * height, at the scale they have. Of a group the middle counts.
 * @param at where they stand by scale, which also bounds how large a group may be.
 * @returns undefined where one of them has no face.
 */
export function facedLike(
  like: { cut: Size; faces: readonly Face[]; placement: Placement },
  cut: Size,
  faces: readonly Face[],
  background: Size,
  at: Placement,
  way: 'heads' | 'eyes',
): Placement | undefined {
  const model = figureOf(like.cut, like.faces, 0, null, eyesAbove.default);
  const figure = figureOf(cut, faces, 0, null, eyesAbove.default);
  if (!model || !figure) return undefined;
  const eyesAt = like.placement.y - (1 - model.eyes) * like.placement.height;
  const alike = (like.placement.height * model.metre) / figure.metre;
  // Groups are as large as leaves them whole.
  const height =
    way === 'heads' && faces.length === 1 ? alike : Math.min(at.height, way === 'heads' ? alike : at.height);
  const across = (size: Size, placement: Placement, of: readonly Face[]): number => {
    const { left, width } = placedRectangle(size, background, placement);
    return (left + width * middleOf(of)) / background.width;
  };
  const wanted = { ...at, height, y: eyesAt + (1 - figure.eyes) * height };
  if (way === 'eyes') return clampPlacement(wanted);
  const off = across(like.cut, like.placement, like.faces) - across(cut, wanted, faces);
  return clampPlacement({ ...wanted, x: wanted.x + off });
}

function middleOf(faces: readonly Face[]): number {
  return faces.reduce((sum, { eyesX }) => sum + eyesX, 0) / faces.length;
}
