import type { Rgb } from '../plan/exposure.ts';
import type { ScreenSigns } from './facts.ts';
import { medianOf } from '../screen/statistics.ts';
import { bounds } from './drift.ts';
import { comparable, patternDistance, type Reference, type Signs } from './setups.ts';

/** Frames at the beginning of a setup that the others are brought back to. */
const FIRST = 3;
/** Steps of light that nobody sees. */
const LEAST = 0.08;

/** What a frame’s light has to be multiplied by to stand as the first ones do; gains of linear RGB. */
export interface BroughtBack {
  frameId: number;
  gains: Rgb;
  /** Steps that it is too light by, and its distance in chromaticity. */
  lighter: number;
  tinted: number;
}

/**
 * Frames of one camera in one setup that are lighter, darker or of another colour than the test frame that was signed
 * off, or without one than the first ones, while the pattern of light stayed: what a camera does that sets itself. Where the pattern changed it was a lamp, and the light on the
 * screen says nothing of the light on the person.
 * @param frames in the order of time.
 */
export function broughtBack(frames: readonly Signs[], reference?: Reference): BroughtBack[] {
  const seen = frames.flatMap(({ id, screen }) => (screen ? [{ id, screen }] : []));
  const signed = reference && frames.some((frame) => comparable(frame, reference)) ? reference.screen : undefined;
  const usual =
    signed ?? (seen.length > FIRST ? middleOf(seen.slice(0, FIRST).map(({ screen }) => screen)) : undefined);
  if (!usual) return [];
  return seen.flatMap(({ id, screen }) => {
    if (screen.colour !== usual.colour || patternDistance(screen.grid, usual.grid) > bounds.plain) return [];
    const lighter = screen.level - usual.level;
    const tinted = Math.hypot(screen.chroma[0] - usual.chroma[0], screen.chroma[1] - usual.chroma[1]);
    const coloured = tinted > bounds.tint[0];
    if (Math.abs(lighter) < LEAST && !coloured) return [];
    const [now, wanted] = [lightOf(screen), lightOf(usual)];
    const even = 2 ** -lighter;
    const gains = (coloured ? now.map((v, c) => wanted[c] / v) : [even, even, even]) as Rgb;
    return [{ frameId: id, gains, lighter, tinted }];
  });
}

function middleOf(screens: readonly ScreenSigns[]): ScreenSigns {
  const of = (pick: (screen: ScreenSigns) => number): number => medianOf(screens.map(pick));
  return {
    ...screens[0],
    level: of(({ level }) => level),
    chroma: [of(({ chroma }) => chroma[0]), of(({ chroma }) => chroma[1])],
    grid: screens[0].grid.map((_, n) => of(({ grid }) => grid[n])),
  };
}

/** Linear light of the screen; never 0. */
function lightOf({ colour, chroma: [r, b], level }: ScreenSigns): Rgb {
  const shares: Rgb = [r, 1 - r - b, b].map((v) => Math.max(0.01, v)) as Rgb;
  const sum = 2 ** level / shares[colour === 'green' ? 1 : 2];
  return shares.map((v) => v * sum) as Rgb;
}
