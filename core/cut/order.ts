import { workingTouches } from '../touch/touch.ts';
import { guidanceFor, type Guidance, type Guided, type HandMask } from './guidance.ts';
import {
  cutSettings,
  defaultRecipe,
  departed,
  personLight,
  spillColour,
  type Recipe,
  type SettingName,
} from './recipe.ts';

/** All that a cut is made with, beside the photograph itself; the recipe has the frame's departures in it. Pictures are told by a name of their content. */
export interface Order {
  recipe: Recipe;
  guidance: Guidance;
  /** The empty screen. */
  plate: string | null;
}

/** What tells which plate is laid under a frame. */
export interface Shot {
  id: number;
  width: number;
  height: number;
  /** The camera’s body; empty if none is named. */
  body: string;
  /** Seconds on the clock of the shoot; null if no camera wrote it. */
  at: number | null;
}

/** What a frame says about its cut. */
export interface OrderedFrame extends Guided, Shot {
  /** Whether it shows the empty screen. */
  plate: boolean;
}

/** What a setup says about the cuts of all its frames. */
export interface OrderingSetup {
  recipe: Recipe;
  masks: readonly HandMask[];
  /** Its frames of the empty screen. */
  plates: readonly (Shot & { picture: string })[];
}

/**
 * The empty screen that is laid under a frame: of its size, since a frame held the other way up shows another part of
 * the set; by its own camera rather than by another; of several the nearest in time.
 */
export function plateFor<P extends Shot>(frame: Shot, plates: readonly P[]): P | null {
  const off = ({ body, at }: Shot): number =>
    (body && frame.body && body !== frame.body ? ANOTHER_CAMERA : 0) +
    (at === null || frame.at === null ? UNTIMED : Math.abs(at - frame.at));
  return plates
    .filter(({ id, width, height }) => id !== frame.id && width === frame.width && height === frame.height)
    .reduce<P | null>((best, plate) => (best && off(best) <= off(plate) ? best : plate), null);
}
/** Seconds that count for a time that is not known, and for another camera: more than any shoot lasts. */
const UNTIMED = 1e9;
const ANOTHER_CAMERA = 4e9;

/**
 * What a frame is to be cut with now.
 * @param all frames of the setup: what is said on one holds for others of its subject.
 * @returns null for a plate, which is nobody's picture.
 */
export function orderOf(frame: OrderedFrame, setup: OrderingSetup, all: readonly Guided[]): Order | null {
  const { plates, recipe, masks } = setup;
  if (frame.plate) return null;
  const guidance = guidanceFor(frame, masks, all);
  const own = departed(recipe, guidance.departures);
  return {
    recipe: own,
    guidance,
    plate: plateFor(frame, plates)?.picture ?? null,
  };
}

/** Settings that were there from the beginning. */
const firstSettings = cutSettings.filter((name) => !(spillColour as readonly string[]).includes(name));

/** Settings that came later, only if one of them is set: what was cut before there were these keeps its name. */
function later(names: readonly SettingName[], of: (name: SettingName) => number | undefined): unknown[] {
  const set = names.some((name) => (of(name) ?? defaultRecipe[name]) !== defaultRecipe[name]);
  return set ? [names.map((name) => of(name) ?? null)] : [];
}

/** A short name of an order: two cuts of one frame by orders of the same name are the same. 16 hex digits. */
export function fingerprintOf({ recipe, guidance: { masks, verdicts, touches, matte }, plate }: Order): string {
  const working = workingTouches(touches);
  const text = JSON.stringify([
    // Cuts were once lit by their backgrounds: a share after the spill, and which; those that were not keep their names.
    firstSettings.flatMap((name) => (name === 'spill' ? [recipe.spill, 0] : [recipe[name]])),
    masks.map(({ effect, polygon, soft, settings }) => [
      effect,
      polygon.map(({ x, y }) => [x, y]),
      ...(soft ? [soft] : []),
      ...(effect === 'own'
        ? [firstSettings.map((name) => settings?.[name] ?? null), ...later(spillColour, (name) => settings?.[name])]
        : []),
    ]),
    verdicts.map(({ x, y, chroma, share, keep }) => [x, y, ...chroma, share, keep]),
    plate,
    null,
    ...(matte ? [[matte.file, matte.use]] : []),
    ...later(personLight, (name) => recipe[name]),
    ...later(spillColour, (name) => recipe[name]),
    ...(working.length
      ? [working.map(({ kind, size, softness, strength, path }) => [kind, size, softness, strength, path])]
      : []),
  ]);
  // FNV-1a, twice with different beginnings.
  const hash = (begin: number): string => {
    let h = begin;
    for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 16777619);
    return (h >>> 0).toString(16).padStart(8, '0');
  };
  return hash(0x811c9dc5) + hash(0x1b873593);
}

/**
 * Number of the way frames are extracted: one more with each change of the program by which one and the same order gives
 * a visibly other cut. A cut of a lower number is what it was, and stays until somebody has it extracted anew.
 */
export const EXTRACTION = 5;

/** Whether a cut is what is wanted now. @param wanted fingerprint of the frame's order; null where none is wanted. */
export function isCurrent(cut: { fingerprint: string } | null, wanted: string | null): boolean {
  return wanted === null || cut?.fingerprint === wanted;
}
