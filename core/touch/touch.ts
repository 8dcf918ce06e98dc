import type { Point } from '../screen/outline.ts';

/**
 * What a touch does: to coverage as it was solved, to how it is solved, or to colour. Where it has `pixels`, its strength
 * is the share of so many pixels of the file.
 */
export const touchKinds = {
  add: { about: 'matte', title: 'Add', words: 'what it passes over becomes solid' },
  take: { about: 'matte', title: 'Take away', words: 'what it passes over goes' },
  greysUp: {
    about: 'matte',
    title: 'Greys up',
    words: 'half-covered pixels become more solid; solid and clear ones stay',
  },
  greysDown: {
    about: 'matte',
    title: 'Greys down',
    words: 'half-covered pixels become thinner; solid and clear ones stay',
  },
  edgeOut: { about: 'matte', title: 'Outline out', words: 'the outline moves out by parts of a pixel', pixels: 3 },
  edgeIn: { about: 'matte', title: 'Outline in', words: 'the outline moves in by parts of a pixel', pixels: 3 },
  softer: { about: 'matte', title: 'Softer', words: 'coverage is blurred by so many pixels', pixels: 4 },
  strand: {
    about: 'matte',
    title: 'Strands',
    words: 'from the hair outwards: strands along the stroke, in the colour of the hair where it begins',
  },
  trim: {
    about: 'matte',
    title: 'Trim hair',
    words: 'thin hair goes that stands further than so many pixels from what is solid',
    pixels: 200,
    usual: 20,
  },
  hair: { about: 'solving', title: 'Hair here', words: 'solved anew as strands with the screen between them' },
  hardEdge: {
    about: 'matte',
    title: 'Hard edge here',
    words: 'half-covered pixels are drawn to the side they are nearer to',
  },
  sheer: { about: 'solving', title: 'See-through here', words: 'solved anew as cloth that the screen shines through' },
  screen: {
    about: 'solving',
    title: 'Screen here',
    words: 'solved anew as the screen, lit or in shadow, behind what stands before it',
  },
  person: { about: 'solving', title: 'Person here', words: 'solved anew as the person, whatever its colour' },
  spillLeft: { about: 'spill', title: 'Keep colour', words: 'no spill is taken' },
  spillGone: { about: 'spill', title: 'All spill off', words: 'all spill is taken, even from green that stays' },
  edgeColour: {
    about: 'edge',
    title: 'Colour from inside',
    words: 'the edge takes the colour of the person near by, its brightness stays',
  },
  edgePaint: {
    about: 'edge',
    title: 'Colour and light from inside',
    words: 'the edge takes colour and brightness of the person near by',
  },
} as const;
export type TouchKind = keyof typeof touchKinds;
export const touchKindNames = Object.keys(touchKinds) as TouchKind[];

/** One correction by hand. It changes neither the photograph nor another touch. */
export interface Touch {
  /** Its own, over all frames. */
  id: string;
  /** Touches are laid on in the order of these numbers. */
  at: number;
  kind: TouchKind;
  /** Switched off it does nothing. */
  on: boolean;
  /** Width of the stroke, share of the frame's height; a zone has none. */
  size: number;
  /** Share of the stroke's half width, or of `size` around a zone's outline, over which it fades, 0–1. */
  softness: number;
  /** 0–1. */
  strength: number;
  /** Name of its path's content. */
  path: string;
}

/** Ranges of what can be set, and what a new touch has. */
export const touchSettings = {
  size: { min: 0.0005, max: 0.4, usual: 0.02 },
  softness: { min: 0, max: 1, usual: 0.5 },
  strength: { min: 0.025, max: 1, usual: 1 },
} as const;

/** A point of a stroke, with the pen's pressure 0–1 (1 where there is none), which sets its width there. */
export interface PathPoint extends Point {
  pressure: number;
}

/** Where a hand went, in shares of the frame; a closed path is the outline of a zone. */
export interface Path {
  closed: boolean;
  points: PathPoint[];
}

/** A touch with its path. */
export interface Stroke extends Touch {
  line: Path;
}

/** Touches in the order in which they are laid on. */
export function inOrder(touches: readonly Touch[]): Touch[] {
  return [...touches].sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1));
}

/** Those that do something, in their order. */
export function workingTouches(touches: readonly Touch[]): Touch[] {
  return inOrder(touches).filter(({ on }) => on);
}

/** The same with their paths. @param paths by name; a touch whose path is not there is left out. */
export function strokesOf(touches: readonly Touch[], paths: ReadonlyMap<string, Path>): Stroke[] {
  return workingTouches(touches).flatMap((touch) => {
    const line = paths.get(touch.path);
    return line ? [{ ...touch, line }] : [];
  });
}

/** Those of some strokes that are about one thing. */
export function strokesAbout(strokes: readonly Stroke[], ...what: (typeof touchKinds)[TouchKind]['about'][]): Stroke[] {
  return strokes.filter(({ kind }) => what.includes(touchKinds[kind].about));
}
