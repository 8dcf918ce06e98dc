import type { EncodedRaster } from '../image/raster.ts';
import { mirroredLight } from './ballLight.ts';
import type { Also } from './extras.ts';
import { plainLook, type Look } from './look.ts';
import type { Measured } from './match.ts';
import { placedPicture } from './picture.ts';
import type { Placement } from './placement.ts';

/** Somebody else in a finished picture, from another frame. */
export interface Other {
  frameId: number;
  x: number;
  y: number;
  height: number;
  mirrored: boolean;
  where: OtherPlace;
}
export const otherPlaces = { behind: 'Behind', front: 'In front' } as const;
export type OtherPlace = keyof typeof otherPlaces;
export const MOST_OTHERS = 8;

/** Somebody as they are put into a picture. */
export interface PlacedPerson {
  cutout: EncodedRaster;
  placement: Placement;
  mirrored: boolean;
  /** Degrees. */
  turn: number;
  measured: Measured | undefined;
}

const ofBackground = [
  'behindTurn',
  'behindZoom',
  'behindBlur',
  'behindExposure',
  'behindWarmth',
  'behindSaturation',
  'mirrorBackground',
] as const satisfies (keyof Look)[];
const ofGrade = [
  'allExposure',
  'allContrast',
  'allWarmth',
  'allTint',
  'allSaturation',
  'allShadows',
  'allLights',
  'vignette',
] as const satisfies (keyof Look)[];

function without(look: Look, names: readonly (keyof Look)[]): Look {
  return { ...look, ...Object.fromEntries(names.map((name) => [name, plainLook[name]])) };
}

/**
 * A finished picture with several people, the farthest first: each stands on the picture of those behind, so that
 * shadows and light of the surroundings fall on them as well. What is done to the background is done once before, what is
 * done over all once after.
 * @returns RGB in the background's size and depth.
 */
export function placedPeople(
  people: readonly PlacedPerson[],
  background: EncodedRaster,
  look: Look,
  also: Also = {},
): EncodedRaster & { channels: 3 } {
  if (people.length < 2) {
    const [{ cutout, placement, mirrored, turn, measured }] = people;
    return placedPicture(cutout, background, placement, { ...look, mirrorPerson: mirrored, turn }, measured, also);
  }
  let picture: EncodedRaster = deepened(background);
  people.forEach(({ cutout, placement, mirrored, turn, measured }, n) => {
    const [first, last] = [n === 0, n === people.length - 1];
    const own = without({ ...look, mirrorPerson: mirrored, turn }, [
      ...(first ? [] : ofBackground),
      ...(last ? [] : ofGrade),
    ]);
    const seen = first || !look.mirrorBackground ? measured : measured && withSceneMirrored(measured);
    const parts = {
      behind: first ? also.behind : undefined,
      ...(last ? { ...also, behind: first ? also.behind : undefined } : {}),
    };
    picture = placedPicture(cutout, picture, placement, own, seen, parts);
  });
  return { ...picture, channels: 3, data: asDeepAs(background, picture) };
}

/** The scene's light once the background has been mirrored already. */
function withSceneMirrored(measured: Measured): Measured {
  const { lightFrom, balls } = measured;
  return {
    ...measured,
    lightFrom: lightFrom === null ? null : -lightFrom,
    balls: balls && { ...balls, scene: mirroredLight(balls.scene) },
  };
}

/** A picture with 16 bits, so that mixing several times costs nothing. */
function deepened(picture: EncodedRaster): EncodedRaster {
  if (picture.data instanceof Uint16Array) return picture;
  const data = new Uint16Array(picture.data.length);
  for (let i = 0; i < data.length; i++) data[i] = picture.data[i] * 257;
  return { ...picture, data };
}

function asDeepAs(like: EncodedRaster, { data }: EncodedRaster): Uint8Array | Uint16Array {
  if (like.data instanceof Uint16Array || data instanceof Uint8Array) return data;
  const out = new Uint8Array(data.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.round(data[i] / 257);
  return out;
}
