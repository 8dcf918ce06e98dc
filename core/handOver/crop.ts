import { mirroredExtent, placedRectangle, type Extent, type Placement, type Size } from '../place/placement.ts';
import type { Face } from '../persons/faces.ts';

/** A part of a picture of a set shape: left, top and width as shares of the picture; the height follows from the shape. */
export interface PrintCrop {
  x: number;
  y: number;
  width: number;
}

/** Where people are in a finished picture, shares of it. */
export interface People {
  /** Around all of them. */
  box: Extent;
  /** The highest and lowest line of eyes, if faces were found. */
  eyes: { top: number; bottom: number } | null;
  /** The lowest chin; 0 without faces. */
  chin: number;
  /** Their hands, as far as they were found. */
  hands: Extent[];
}

/**
 * Shares of a crop’s height: eyes lie here, above the highest head is left at least so much, and so much below a hand;
 * and how much smaller a crop may get, and how far the eyes may go up, for the sake of a hand.
 */
export const cropAims = { eyes: 0.38, headRoom: 0.05, side: 0.02, hand: 0.015, smaller: 0.8, higher: 0.12 };
/** Smallest crop, as a share of the largest. */
export const LEAST_CROP = 0.1;

/** A shape’s name among a frame’s crops: width to height in thousandths. */
export function shapeKey({ width, height }: Size): string {
  return (width / height).toFixed(3);
}

/** Height of a crop, as a share of the picture. */
export function cropHeight({ width }: Pick<PrintCrop, 'width'>, shape: Size, picture: Size): number {
  return (((width * picture.width) / shape.width) * shape.height) / picture.height;
}

/** The widest crop of a shape that a picture holds, as a share of the picture’s width. */
export function widestCrop(shape: Size, picture: Size): number {
  return Math.min(1, ((picture.height / shape.height) * shape.width) / picture.width);
}

/** A crop kept within its picture, and not smaller than the smallest. */
export function clampCrop(crop: PrintCrop, shape: Size, picture: Size): PrintCrop {
  const widest = widestCrop(shape, picture);
  const width = Math.max(widest * LEAST_CROP, Math.min(widest, crop.width));
  const height = cropHeight({ width }, shape, picture);
  return {
    x: Math.max(0, Math.min(1 - width, crop.x)),
    y: Math.max(0, Math.min(1 - height, crop.y)),
    width,
  };
}

/** Somebody’s cut as it stands in a picture. */
export interface StandsIn {
  cut: Size;
  extent: Extent;
  faces: readonly Face[];
  hands: readonly Extent[];
  placement: Placement;
  mirrored: boolean;
}

/** Where the people of a finished picture are. @param picture its background’s size. */
export function peopleIn(standing: readonly StandsIn[], picture: Size): People | null {
  if (!standing.length) return null;
  let [left, top, right, bottom] = [1, 1, 0, 0];
  let eyes: People['eyes'] = null;
  let chin = 0;
  const found: Extent[] = [];
  for (const { cut, extent, faces, hands, placement, mirrored } of standing) {
    const rectangle = placedRectangle(cut, picture, placement);
    const across = (share: number): number => (rectangle.left + share * rectangle.width) / picture.width;
    const down = (share: number): number => (rectangle.top + share * rectangle.height) / picture.height;
    const seen = mirroredExtent(extent, mirrored);
    left = Math.min(left, across(seen.x));
    right = Math.max(right, across(seen.x + seen.width));
    top = Math.min(top, down(seen.y));
    bottom = Math.max(bottom, down(seen.y + seen.height));
    for (const face of faces) {
      const at = down(face.eyesY);
      eyes = eyes ? { top: Math.min(eyes.top, at), bottom: Math.max(eyes.bottom, at) } : { top: at, bottom: at };
      chin = Math.max(chin, down(face.y + face.height));
    }
    for (const hand of hands) {
      const { x, y, width, height } = mirroredExtent(hand, mirrored);
      found.push({
        x: across(x),
        y: down(y),
        width: across(x + width) - across(x),
        height: down(y + height) - down(y),
      });
    }
  }
  const within = (value: number): number => Math.max(0, Math.min(1, value));
  [left, top, right, bottom] = [left, top, right, bottom].map(within);
  const box = { x: left, y: top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) };
  return { box, eyes, chin, hands: found };
}

/**
 * The crop of a shape that is proposed: as large as the picture allows, the people in the middle across, their eyes at
 * the height where portraits have them, with room above the highest head; whoever can be whole is whole. A hand that its
 * lower edge would cut is taken in, by going down a little, or else left out, by a crop that is a little smaller.
 */
export function proposeCrop(people: People | null, shape: Size, picture: Size): PrintCrop {
  const width = widestCrop(shape, picture);
  const height = cropHeight({ width }, shape, picture);
  if (!people) return clampCrop({ x: (1 - width) / 2, y: (1 - height) / 2, width }, shape, picture);
  const plain = cropOfHeight(people, height, shape, picture);
  const cut = cutBelow(people.hands, plain, shape, picture);
  if (!cut.length) return plain;
  const lowest = Math.max(...cut.map((hand) => hand.y + hand.height));
  const highest = Math.min(...cut.map((hand) => hand.y));
  const { box } = people;
  const lower = Math.min(box.y - cropAims.headRoom * height, plain.y + cropAims.higher * height);
  const downTo = lowest + cropAims.hand * height - height;
  const tried = [
    ...(downTo <= lower ? [clampCrop({ ...plain, y: downTo }, shape, picture)] : []),
    ...heightsAbove(highest, people, height).map((less) => cropOfHeight(people, less, shape, picture)),
  ];
  return tried.find((crop) => !cutBelow(people.hands, crop, shape, picture).length) ?? plain;
}

/** The crop of a height around people. */
function cropOfHeight({ box, eyes }: People, height: number, shape: Size, picture: Size): PrintCrop {
  const width = (((height * picture.height) / shape.height) * shape.width) / picture.width;
  const x = box.x + box.width / 2 - width / 2;
  const head = box.y - cropAims.headRoom * height;
  let y = eyes ? (eyes.top + eyes.bottom) / 2 - cropAims.eyes * height : box.y + box.height / 2 - height / 2;
  // Feet are kept where that costs no head.
  if (box.height <= height) y = Math.max(y, box.y + box.height - height);
  y = Math.min(y, head);
  return clampCrop({ x, y, width }, shape, picture);
}

/** The height of a crop that ends above a hand and is no smaller than it may be; nothing if there is none. */
function heightsAbove(hand: number, { box, eyes }: People, height: number): number[] {
  const top = (share: number): number =>
    Math.min(eyes ? (eyes.top + eyes.bottom) / 2 - cropAims.eyes * share : Infinity, box.y - cropAims.headRoom * share);
  // Its top depends on its height: the greatest that fits, in steps of a hundredth.
  for (let share = 1; share >= cropAims.smaller; share -= 0.01) {
    const less = share * height;
    if (Math.max(0, top(less)) + less <= hand - cropAims.hand * height) return [less];
  }
  return [];
}

/** Hands that the lower edge of a crop goes through. */
function cutBelow(hands: readonly Extent[], crop: PrintCrop, shape: Size, picture: Size): Extent[] {
  const bottom = crop.y + cropHeight(crop, shape, picture);
  return hands.filter(
    ({ x, y, width, height }) =>
      y < bottom && y + height > bottom && x < crop.x + crop.width && x + width > crop.x && bottom < 1 - 1e-6,
  );
}

/** Sides at which a crop cuts somebody whom the picture shows whole there. */
export function cropCuts(people: People | null, crop: PrintCrop, shape: Size, picture: Size): string[] {
  if (!people) return [];
  const { box } = people;
  const height = cropHeight(crop, shape, picture);
  const near = cropAims.side / 4;
  const cut = {
    left: box.x > near && box.x < crop.x,
    right: box.x + box.width < 1 - near && box.x + box.width > crop.x + crop.width,
    above: box.y > near && box.y < crop.y,
  };
  // That a crop ends somewhere below the chest is what portraits do; only a face is not to be cut.
  const throughFace = people.chin > crop.y + height;
  const throughHand = cutBelow(people.hands, crop, shape, picture).length > 0;
  return [
    ...Object.entries(cut).flatMap(([side, is]) => (is ? [side] : [])),
    ...(throughFace ? ['below'] : throughHand ? ['through a hand'] : []),
  ];
}

/**
 * How many times fewer pixels a crop has than its size in print asks for, above 1 where too few; and the largest good
 * width, mm.
 */
export function enlargement(
  crop: PrintCrop,
  shape: Size & { resolution: number },
  picture: Size,
): { times: number; goodWidth: number } {
  const has = crop.width * picture.width;
  const goodWidth = (has / shape.resolution) * 25.4;
  return { times: shape.width / goodWidth, goodWidth };
}
