import { coverRow } from '../image/polygon.ts';
import { createMask, type Mask } from '../image/raster.ts';
import type { Point } from '../screen/outline.ts';
import { stampOf, type Stamp } from '../touch/stamp.ts';
import type { Touch } from '../touch/touch.ts';
import type { GreenPatch } from './greenPatch.ts';
import type { OwnMatte } from './ownMatte.ts';
import type { Departure, Recipe } from './recipe.ts';

/** What a hand has said about a frame; it wins over everything that is found. */
export interface Guidance {
  masks: HandMask[];
  verdicts: HandVerdict[];
  /** Strokes and zones, in the order in which they are laid on. */
  touches: Touch[];
  /** Settings that differ from the setup's recipe. */
  departures: Departure[];
  /** A matte made elsewhere. */
  matte?: OwnMatte | null;
}

/**
 * What a mask does to what lies in it: surely clear, surely solid, all that is looked at; lets the screen shine
 * through; left with all of the screen's light, freed of all of it; cut with settings of its own; seen to be the screen, whose colour is read there.
 */
export const maskEffects = ['clear', 'solid', 'crop', 'sheer', 'spillLeft', 'spillGone', 'own', 'screen'] as const;

/** A polygon by hand. */
export interface HandMask {
  effect: (typeof maskEffects)[number];
  /** Shares of the frame's width and height, at least three. */
  polygon: Point[];
  /** Given on a frame: holds for all frames of its subject. */
  wholeSubject?: boolean;
  /** How far its border fades to both sides, share of the frame's height; none: over a pixel. */
  soft?: number;
  /** Of a region with settings of its own: those that differ. */
  settings?: Partial<Recipe>;
}
/** Range of `soft`. */
export const maskSoftness = { min: 0, max: 0.05 };

/** A verdict on a patch of green, known again on other frames by its place and colour. */
export interface HandVerdict {
  /** Centre of the patch, shares of the frame. */
  x: number;
  y: number;
  /** Its red and blue as shares of the sum, linear. */
  chroma: [number, number];
  /** Its share of the frame. */
  share: number;
  keep: boolean;
}

export const noGuidance: Guidance = { masks: [], verdicts: [], touches: [], departures: [] };

/**
 * How unlike two patches may be: distance of chromaticity, of centres (share of the frame), ratio of sizes (natural
 * logarithm).
 */
const alike = { chroma: 0.03, place: 0.16, size: 1.6 };

/**
 * The patch that a verdict speaks of: the one most like it, if any is like it. One verdict never touches a second
 * patch.
 * @returns index, or −1.
 */
export function patchOf(
  verdict: HandVerdict,
  patches: readonly Pick<GreenPatch, 'centre' | 'chroma' | 'share'>[],
): number {
  let best = -1;
  let least = 1;
  patches.forEach(({ centre, chroma, share }, n) => {
    const unlike = Math.hypot(
      Math.hypot(chroma[0] - verdict.chroma[0], chroma[1] - verdict.chroma[1]) / alike.chroma,
      Math.hypot(centre.x - verdict.x, centre.y - verdict.y) / alike.place,
      Math.log(share / verdict.share) / alike.size,
    );
    if (unlike < least) {
      least = unlike;
      best = n;
    }
  });
  return best;
}

/** The verdict that a hand gives on a patch. */
export function verdictOn(
  { centre, chroma, share }: Pick<GreenPatch, 'centre' | 'chroma' | 'share'>,
  keep: boolean,
): HandVerdict {
  return { x: centre.x, y: centre.y, chroma, share, keep };
}

/**
 * Lays the masks over a coverage, one after the other; their edges are smooth over a pixel.
 * @param alpha 0–65535, changed.
 */
export function applyMasks(masks: readonly HandMask[], alpha: Uint16Array, width: number, height: number): void {
  for (const mask of masks) {
    const { effect } = mask;
    if (effect === 'sheer' || effect === 'own' || effect === 'screen' || isAboutSpill(effect)) continue;
    for (let y = 0; y < height; y++) {
      const inside = shareOfRow(mask, y, width, height);
      if (!inside && effect !== 'crop') continue;
      for (let x = 0, p = y * width; x < width; x++, p++) {
        const share = inside ? inside[x] : 0;
        if (effect === 'clear') alpha[p] = Math.round(alpha[p] * (1 - share));
        else if (effect === 'crop') alpha[p] = Math.round(alpha[p] * share);
        else alpha[p] = Math.round(alpha[p] + (65535 - alpha[p]) * share);
      }
    }
  }
}

function isAboutSpill(effect: HandMask['effect']): boolean {
  return effect === 'spillLeft' || effect === 'spillGone';
}

/** The masks that say something about spill. */
export function spillMasks(masks: readonly HandMask[]): HandMask[] {
  return masks.filter(({ effect }) => isAboutSpill(effect));
}

/**
 * How much spill goes along row y: `usual` but where masks say otherwise. Fills `amount`, 0–1 for each pixel, and
 * `gone`, 1
 * where all of it goes, even from green that is kept.
 */
export function spillAlong(
  masks: readonly HandMask[],
  usual: number,
  y: number,
  height: number,
  amount: Float32Array,
  gone: Uint8Array,
): void {
  amount.fill(usual);
  gone.fill(0);
  for (const mask of masks) {
    const inside = shareOfRow(mask, y, amount.length, height);
    if (!inside) continue;
    const to = mask.effect === 'spillGone' ? 1 : 0;
    for (let x = 0; x < amount.length; x++) {
      amount[x] += (to - amount[x]) * inside[x];
      if (inside[x] > 0.5) gone[x] = to;
    }
  }
}

/** Soft masks as they lie on pictures of one size, drawn once for all rows. */
const drawn = new WeakMap<HandMask, { width: number; height: number; stamp: Stamp | undefined }>();

/** Share of each pixel of row y, 0–1, inside a mask; undefined if there is none. */
export function shareOfRow(mask: HandMask, y: number, width: number, height: number): Float32Array | undefined {
  const { polygon, soft } = mask;
  if (!soft) return coverRow(polygon, y, width, height);
  let made = drawn.get(mask);
  if (made?.width !== width || made.height !== height) {
    const line = { closed: true, points: polygon.map((point) => ({ ...point, pressure: 1 })) };
    made = { width, height, stamp: stampOf({ line, size: 2 * soft, softness: 1 }, width, height) };
    drawn.set(mask, made);
  }
  const { stamp } = made;
  const k = stamp ? y - stamp.top : -1;
  if (!stamp || k < 0 || k >= stamp.height) return undefined;
  const row = new Float32Array(width);
  for (let x = 0; x < stamp.width; x++) row[stamp.left + x] = stamp.data[k * stamp.width + x] / 255;
  return row;
}

/** What a frame and its setup say. */
export interface Guided {
  id: number;
  setupId: number;
  /** Empty: nobody has said who is on it. */
  subject: string;
  guidance: Guidance;
}

/**
 * All that holds for a frame: the setup's masks, then what was said on other frames of the same subject in the same
 * setup, then its own, which wins.
 */
export function guidanceFor(frame: Guided, setupMasks: readonly HandMask[], all: readonly Guided[]): Guidance {
  const others = frame.subject
    ? all.filter((other) => other.id !== frame.id && other.setupId === frame.setupId && other.subject === frame.subject)
    : [];
  return {
    masks: [
      ...setupMasks,
      ...others.flatMap((other) => other.guidance.masks.filter((mask) => mask.wholeSubject)),
      ...frame.guidance.masks,
    ],
    verdicts: [...others.flatMap((other) => other.guidance.verdicts), ...frame.guidance.verdicts],
    touches: frame.guidance.touches,
    departures: [
      ...others.flatMap((other) => other.guidance.departures.filter((departure) => departure.wholeSubject)),
      ...frame.guidance.departures,
    ],
    ...(frame.guidance.matte ? { matte: frame.guidance.matte } : {}),
  };
}

/** Where the masks say that the screen shines through: 1. */
export function sheerBy(masks: readonly HandMask[], width: number, height: number): Mask {
  return within(masks, 'sheer', width, height);
}

/** What lies in masks of an effect: 1. */
function within(masks: readonly HandMask[], wanted: HandMask['effect'], width: number, height: number): Mask {
  const mask = createMask(width, height);
  for (const { effect, polygon } of masks) {
    if (effect !== wanted) continue;
    for (let y = 0; y < height; y++)
      coverRow(polygon, y, width, height)?.forEach((share, x) => share > 0.5 && (mask.data[y * width + x] = 1));
  }
  return mask;
}

/** Where a hand pointed at the screen: 1; undefined if it did not. */
export function pointedAt(masks: readonly HandMask[], width: number, height: number): Mask | undefined {
  const mask = within(masks, 'screen', width, height);
  return mask.data.includes(1) ? mask : undefined;
}

/** What the masks leave no doubt about: 1 surely clear, 2 surely solid, 0 elsewhere. */
export function givenBy(masks: readonly HandMask[], width: number, height: number): Mask {
  const given = createMask(width, height);
  if (!masks.length) return given;
  const least = new Uint16Array(width * height);
  const most = new Uint16Array(width * height).fill(65535);
  applyMasks(masks, least, width, height);
  applyMasks(masks, most, width, height);
  for (let p = 0; p < least.length; p++) given.data[p] = most[p] === 0 ? 1 : least[p] === 65535 ? 2 : 0;
  return given;
}
