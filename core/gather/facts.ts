import { luminance } from '../colour/luminance.ts';
import { encoderFor } from '../colour/transfer.ts';
import { cutFrame } from '../cut/cutFrame.ts';
import { roughNoise } from '../cut/evidence.ts';
import { prepareSeen, surveyFrame, type Seen } from '../cut/prepare.ts';
import { defaultRecipe } from '../cut/recipe.ts';
import { shadedIn } from '../cut/shaded.ts';
import { either, without } from '../image/masks.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { reduceToLinear, reductionFactor } from '../image/reduce.ts';
import { skinAtEyes } from '../persons/eyes.ts';
import type { Face } from '../persons/faces.ts';
import type { PersonMap } from '../persons/personMap.ts';
import { surePerson } from '../persons/personMap.ts';
import { castShadow } from '../screen/people.ts';
import { outlineOf, type Side } from '../screen/outline.ts';
import { medianOf } from '../screen/statistics.ts';
import type { ScreenColour } from '../screen/survey.ts';
import { recogniseKind, type TargetKind } from '../screen/targets.ts';

/** What is found on a frame as it is gathered: enough to sort it, to compare it with the others, and to pick by. */

export interface ScreenSigns {
  colour: ScreenColour;
  /** r/(r+g+b) and b/(r+g+b) in linear light. */
  chroma: [number, number];
  /** Binary logarithm of the light of the screen's own channel, in the middle of the places below. */
  level: number;
  /** The pattern of light: the same at `GRID` places, row by row, relative to `level`. */
  grid: number[];
  /** Strip that the screen leaves uncovered on each side, share of the frame. */
  missing: Record<Side, number>;
}

/** Luminance of the screen in the middle of the frame, linear; null where none was seen. */
export function screenLuminance(screen: ScreenSigns | null | undefined): number | null {
  if (!screen) return null;
  const [red, blue] = screen.chroma;
  const green = 1 - red - blue;
  const whole = 2 ** screen.level / Math.max(0.05, screen.colour === 'green' ? green : blue);
  return luminance(whole * red, whole * green, whole * blue);
}

export interface PersonSigns {
  /** Share of the frame. */
  share: number;
  /** Colours of head, chest and below: for each the logarithms of r/g, b/g, and of light. */
  looks: number[];
  /** Share of the person that stands before something else than the screen. */
  beyond: number;
  /** Share of the person in a colour near the screen's. */
  near: number;
}

export interface FrameFacts {
  /** What it shows. */
  kind: TargetKind | 'slate' | 'unknown';
  /** Number on a slate. */
  slate: string | null;
  screen: ScreenSigns | null;
  person: PersonSigns | null;
  /** The largest first. */
  faces: Face[];
  /** Detail at the eyes, or at the person's middle without a face; more is sharper. Comparable between frames of one person. */
  sharp: number | null;
  /** Share of the face in which a channel is at its limit. */
  clipped: number | null;
  /** Depth of the shadow that somebody casts on the screen, stops. */
  shadow: number | null;
  /** Share of skin around the eye that shows less of it. */
  eyes: number | null;
  /** Minutes by hand that a small draft of its cut foresees. */
  minutes: number | null;
}

/** Columns and rows of the pattern of light. */
export const GRID = { columns: 6, rows: 4 };
/** The reduced pixels that a frame is looked at with. */
const CELLS = 100_000;
/** Somebody is on a frame of which they fill this share. */
const LEAST_PERSON = 0.01;

/**
 * What a frame shows.
 * @param slate number that was read on it. @param persons where persons are, from the network. @param faces as found.
 */
export function factsOf(
  frame: EncodedRaster,
  { persons, faces, slate }: { persons?: PersonMap; faces: readonly Face[]; slate: string | null },
): FrameFacts {
  const sorted = faces.toSorted((a, b) => b.width * b.height - a.width * a.height);
  const small = shrunk(frame, CELLS);
  const seen = surveyFrame(small, { persons });
  const person = seen && personSigns(seen);
  const somebody = (person?.share ?? 0) > LEAST_PERSON;
  const kind = slate !== null ? 'slate' : somebody || sorted.length ? 'people' : (recogniseKind(frame) ?? 'unknown');
  const shown = kind === 'people' || kind === 'slate';
  return {
    kind,
    slate,
    screen: seen ? screenSigns(seen) : null,
    person: (shown && person) || null,
    faces: sorted,
    sharp: shown ? detailAt(frame, eyesBox(frame, sorted[0])) : null,
    clipped: sorted[0] ? clippedIn(frame, boxOf(frame, sorted[0])) : null,
    shadow: shown && seen ? shadowIn(seen) : null,
    eyes: sorted[0] ? rounded(skinAtEyes(frame, sorted[0])) : null,
    minutes: kind === 'people' && seen ? draftMinutes(small, seen) : null,
  };
}

/** How much darker the screen is beside somebody than its fitted light, stops; null if nobody’s place is known. */
function shadowIn({ reduced, model, traits, persons, survey }: Seen): number | null {
  if (!persons) return null;
  const person = surePerson(persons);
  const grain = roughNoise(traits.rough, model.clear);
  const { smooth } = shadedIn(reduced, model.base, traits.rough, grain, model.chromaNoise);
  const screen = without(either(model.clear, smooth), person);
  return round(castShadow(reduced, model.base, screen, person, survey.channel).depth);
}

/** What a hand will have to do, by a cut of the frame made small. It says a little more than the full cut does. */
function draftMinutes(small: EncodedRaster, seen: Seen): number | null {
  const draft = cutFrame(small, defaultRecipe, undefined, { prepared: prepareSeen(small, seen) });
  return draft.ok ? round(draft.quality.minutes) : null;
}

/** The frame at a whole fraction of its size, each pixel the mean of those it stands for. */
function shrunk(frame: EncodedRaster, most: number): EncodedRaster {
  const { width, height, data } = reduceToLinear(frame, reductionFactor(frame.width, frame.height, most));
  const out = new Uint8Array(data.length);
  const encode = encoderFor(out);
  for (let i = 0; i < out.length; i++) out[i] = encode(data[i]);
  return { width, height, channels: 3, data: out };
}

/** What a frame shows of the screen alone; null if there is none. */
export function screenIn(frame: EncodedRaster, persons?: PersonMap): ScreenSigns | null {
  const seen = surveyFrame(shrunk(frame, CELLS), { persons });
  return seen ? screenSigns(seen) : null;
}

function screenSigns({ model, survey, persons }: Seen): ScreenSigns {
  const { width, height, data } = model.base;
  const { channel } = survey;
  const grid: number[] = [];
  for (let row = 0; row < GRID.rows; row++)
    for (let column = 0; column < GRID.columns; column++) {
      const x = Math.floor(((column + 0.5) / GRID.columns) * width);
      const y = Math.floor(((row + 0.5) / GRID.rows) * height);
      grid.push(Math.log2(Math.max(1e-4, data[(y * width + x) * 3 + channel])));
    }
  const level = medianOf(grid);
  return {
    colour: channel === 2 ? 'blue' : 'green',
    chroma: survey.chroma,
    level: round(level),
    grid: grid.map((v) => round(v - level)),
    missing: outlineOf(model.clear, persons && surePerson(persons)).missing,
  };
}

function personSigns({ reduced, persons, survey, outside }: Seen): PersonSigns | undefined {
  if (!persons) return undefined;
  const { width, height, data } = reduced;
  const sure = surePerson(persons).data;
  let count = 0;
  let top = height;
  let bottom = 0;
  for (let p = 0; p < sure.length; p++) {
    if (!sure[p]) continue;
    count++;
    const y = Math.floor(p / width);
    if (y < top) top = y;
    if (y > bottom) bottom = y;
  }
  const share = count / sure.length;
  if (share <= LEAST_PERSON) return { share, looks: [], beyond: 0, near: 0 };
  let beyond = 0;
  let near = 0;
  const parts = [0, 1, 2].map(() => ({ r: 0, b: 0, light: 0, n: 0 }));
  for (let p = 0; p < sure.length; p++) {
    if (!sure[p]) continue;
    const [r, g, b] = [data[p * 3] + 1e-3, data[p * 3 + 1] + 1e-3, data[p * 3 + 2] + 1e-3];
    const sum = r + g + b;
    if (outside.data[p]) beyond++;
    if (Math.abs(r / sum - survey.chroma[0]) < NEAR && Math.abs(b / sum - survey.chroma[1]) < NEAR) near++;
    const at = (Math.floor(p / width) - top) / Math.max(1, bottom - top);
    const part = parts[at < 0.3 ? 0 : at < 0.6 ? 1 : 2];
    part.r += Math.log(r / g);
    part.b += Math.log(b / g);
    part.light += Math.log(sum);
    part.n++;
  }
  const looks = parts.flatMap(({ r, b, light, n }) => (n ? [r / n, b / n, light / n / 2].map(round) : [0, 0, 0]));
  return { share, looks, beyond: beyond / count, near: near / count };
}
function rounded(v: number | null): number | null {
  return v === null ? null : round(v);
}
/** As fine as anybody can see: a page holds these figures of hundreds of frames. */
function round(v: number): number {
  return Math.round(v * 1e4) / 1e4;
}
/** Half-width in chromaticity of what is near the screen's colour. */
const NEAR = 0.07;

interface PixelBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

function boxOf({ width, height }: EncodedRaster, face: Face): PixelBox {
  const x = Math.max(0, Math.floor(face.x * width));
  const y = Math.max(0, Math.floor(face.y * height));
  return {
    x,
    y,
    width: Math.max(1, Math.min(width - x, Math.round(face.width * width))),
    height: Math.max(1, Math.min(height - y, Math.round(face.height * height))),
  };
}

/** The strip of the eyes; without a face the middle of the upper half, where one stands usually. */
function eyesBox(frame: EncodedRaster, face?: Face): PixelBox {
  if (!face) {
    const { width, height } = frame;
    return {
      x: Math.floor(width * 0.3),
      y: Math.floor(height * 0.1),
      width: Math.ceil(width * 0.4),
      height: Math.ceil(height * 0.5),
    };
  }
  return boxOf(frame, { ...face, y: face.eyesY - face.height * 0.3, height: face.height * 0.6 });
}

/** Bands that detail is read in; what lies in the finer one is lost first. */
const BLOCKS = 24;
/** Of the blocks of a place the share that shows most counts: lashes and brows, not cheeks. */
const SHARPEST = 0.15;

/**
 * Detail at a place: how much stronger pixels differ from their neighbours than from those three away, noise taken
 * off; where edges are sharp the first comes near the second. From green, in the file's own values.
 * @returns 0–1.
 */
export function detailAt(frame: EncodedRaster, { x, y, width, height }: PixelBox): number {
  const value = (px: number, py: number): number =>
    frame.data[(Math.min(frame.height - 1, py) * frame.width + Math.min(frame.width - 1, px)) * frame.channels + 1];
  const white = whiteLevel(frame);
  const size = Math.max(8, Math.ceil(Math.max(width, height) / BLOCKS));
  const blocks: { fine: number; coarse: number }[] = [];
  for (let top = y; top < y + height; top += size)
    for (let left = x; left < x + width; left += size) {
      let fine = 0;
      let coarse = 0;
      let n = 0;
      for (let py = top; py < top + size; py++)
        for (let px = left; px < left + size; px++) {
          const here = value(px, py);
          fine += (here - value(px + 1, py)) ** 2 + (here - value(px, py + 1)) ** 2;
          coarse += (here - value(px + 4, py)) ** 2 + (here - value(px, py + 4)) ** 2;
          n += 2;
        }
      blocks.push({ fine: fine / n / white ** 2, coarse: coarse / n / white ** 2 });
    }
  if (!blocks.length) return 0;
  // The quietest blocks tell the noise.
  const noise = blocks.map(({ fine }) => fine).toSorted((a, b) => a - b)[blocks.length >> 3];
  const strongest = blocks
    .toSorted((a, b) => b.coarse - a.coarse)
    .slice(0, Math.max(1, Math.round(blocks.length * SHARPEST)));
  const fine = strongest.reduce((sum, block) => sum + Math.max(0, block.fine - noise), 0);
  const coarse = strongest.reduce((sum, block) => sum + Math.max(0, block.coarse - noise), 0);
  return coarse > 0 ? Math.min(1, Math.sqrt(fine / coarse)) : 0;
}

/** Share of a place in which a channel is at its limit. */
function clippedIn(frame: EncodedRaster, { x, y, width, height }: PixelBox): number {
  const limit = whiteLevel(frame) * 0.995;
  let clipped = 0;
  for (let py = y; py < y + height; py++)
    for (let px = x; px < x + width; px++) {
      const o = (py * frame.width + px) * frame.channels;
      if (frame.data[o] >= limit || frame.data[o + 1] >= limit || frame.data[o + 2] >= limit) clipped++;
    }
  return clipped / (width * height);
}
