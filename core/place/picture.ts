import { luminance } from '../colour/luminance.ts';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import { gaussianBlur } from '../image/boxBlur.ts';
import { createPlane, sameDepth, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { reduceToLinear } from '../image/reduce.ts';
import { smoothstep } from '../image/smoothstep.ts';
import { compositeOnBackground } from './composite.ts';
import { cubeChanger, cubeOf, type Cube } from './cube.ts';
import { areStraight, curvesChanger } from './curves.ts';
import { laidIn, layerRows, type Also } from './extras.ts';
import { CHANNELS, at, goesOn, joinColour, joiningOf, joiningRow, OF_PERSON } from './joining.ts';
import { isPlain, type Look } from './look.ts';
import { colourChanger, handStep, isNoStep, matchByHand, matchOf, noColourStep, type Measured } from './match.ts';
import { placedRectangle, type Placement, type Size } from './placement.ts';
import { reframed } from './reframed.ts';
import { forPlacedRows } from './resample.ts';
import { turned } from './turned.ts';

/**
 * The finished picture: a cut on its background, matched, joined and graded, in linear light. The same code shows it
 * live and makes the files.
 * @param measured without it nothing is matched by measuring; what the hand set is done.
 * @param also pictures over it, a look-up table and a card; layers and card are made as large as the background.
 * @returns RGB in the background's size and depth. Inputs are not changed.
 */
export function placedPicture(
  upright: EncodedRaster,
  whole: EncodedRaster,
  standing: Placement,
  wanted: Look,
  measured: Measured | undefined,
  also: Also = {},
): EncodedRaster & { channels: 3 } {
  if (isPlain(wanted) && !Object.values(also).some((part) => part && (!Array.isArray(part) || part.length)))
    return compositeOnBackground(upright, whole, standing);
  const background = reframed(whole, wanted);
  const { width, height } = background;
  const match = measured ? matchOf(measured, wanted, standing) : matchByHand(wanted);
  const look = match.turn ? { ...wanted, sideLight: Math.max(-1, Math.min(1, wanted.sideLight + match.turn)) } : wanted;
  const { cutout, placement } = look.turn
    ? turned(upright, standing, look.mirrorPerson ? -look.turn : look.turn)
    : { cutout: upright, placement: standing };
  const behindStep = handStep(look.behindExposure, look.behindWarmth, look.behindSaturation);
  const joining = joiningOf(cutout, background, placement, look, {
    behind: behindStep,
    person: match.step,
    floats: goesOn(upright),
    relight: match.relight,
  });
  const behind = behindOf(background, look, behindStep);
  const grade = gradeOf(look, width, height, also);
  const fitted = (laid: Also['front']) =>
    layerRows((laid ?? []).map((one) => ({ ...one, picture: laidIn(one.picture, background, one.at) })));
  const layBehind = fitted(also.behind);
  const layFront = fitted(also.front);
  const layCard = also.card && fitted([{ picture: also.card, strength: 1, way: 'over' }]);
  const shaded = shadeOver(look, cutout, background, placement);
  const person = colourChanger(match.step);
  const grainScale = measured ? Math.min(1, width / measured.background.width) : 1;
  const grain = match.grain * grainScale;
  const data = sameDepth(whole.data, width * height * 3);
  const encode = encoderFor(data);
  // The last of them are about what few looks have.
  const used = match.relight ? OF_PERSON : look.glow > 0 ? at.relit : at.glow;
  const gridRow = new Float32Array((joining.width + 1) * CHANNELS);
  const g = new Float32Array(CHANNELS);
  const rgb = new Float32Array(3);
  const line = new Float32Array(width * 3);
  const across = steps(width, joining.width);

  const shadeRow = (y: number): void => {
    joiningRow(joining, y, height, gridRow);
    behind(y, line);
    layBehind?.(y, line);
    const mirrors = look.reflection > 0;
    if (look.contact === 0 && look.ground === 0 && look.wall === 0 && !mirrors) return;
    const { from, part } = across;
    for (let x = 0, i = 0; x < width; x++, i += 3) {
      const n = from[x] * CHANNELS + at.shade;
      if (mirrors) {
        const m = from[x] * CHANNELS + at.mirrored;
        const value = (c: number): number => gridRow[m + c] + part[x] * (gridRow[m + CHANNELS + c] - gridRow[m + c]);
        const keep = 1 - value(3);
        if (keep < 1) for (let c = 0; c < 3; c++) line[i + c] = keep * line[i + c] + value(c);
      }
      const lit = 1 - gridRow[n] - part[x] * (gridRow[n + CHANNELS] - gridRow[n]);
      if (lit === 1) continue;
      line[i] *= lit;
      line[i + 1] *= lit;
      line[i + 2] *= lit;
    }
  };
  const keepRow = (y: number): void => {
    const o = y * width * 3;
    layFront?.(y, line);
    if (grade)
      for (let x = 0, i = 0; x < width; x++, i += 3) {
        rgb[0] = line[i];
        rgb[1] = line[i + 1];
        rgb[2] = line[i + 2];
        grade(rgb, x, y);
        line[i] = rgb[0];
        line[i + 1] = rgb[1];
        line[i + 2] = rgb[2];
      }
    layCard?.(y, line);
    for (let i = 0; i < line.length; i++) data[o + i] = encode(line[i]);
  };
  let next = 0;
  const upTo = (row: number): void => {
    for (; next < row; next++) {
      shadeRow(next);
      keepRow(next);
    }
  };
  const blur = (match.blur / 1000) * height;
  forPlacedRows(cutout, background, placement, { blur, mirrored: look.mirrorPerson }, (y, first, row) => {
    upTo(y);
    shadeRow(y);
    for (let i = 0, x = first; i < row.length; i += 4, x++) {
      const a = Math.min(1, row[i + 3]);
      if (a <= 0) continue;
      const straight = 1 / row[i + 3];
      rgb[0] = row[i] * straight;
      rgb[1] = row[i + 1] * straight;
      rgb[2] = row[i + 2] * straight;
      person(rgb);
      const n = across.from[x] * CHANNELS;
      const part = across.part[x];
      for (let c = 0; c < used; c++) g[c] = gridRow[n + c] + part * (gridRow[n + CHANNELS + c] - gridRow[n + c]);
      joinColour(rgb, g, look, match.relight !== undefined);
      if (shaded) {
        const keep = shaded(x, y);
        for (let c = 0; c < 3; c++) rgb[c] *= keep;
      }
      if (grain > 0) {
        // A little of encoded light is about 2 √linear as much of linear light.
        const more = 2 * grain * noiseOf(x, y);
        for (let c = 0; c < 3; c++) rgb[c] = Math.max(0, rgb[c] + Math.sqrt(rgb[c]) * more);
      }
      const o = x * 3;
      const keep = 1 - a;
      line[o] = a * rgb[0] + keep * line[o];
      line[o + 1] = a * rgb[1] + keep * line[o + 1];
      line[o + 2] = a * rgb[2] + keep * line[o + 2];
    }
    keepRow(y);
    next = y + 1;
  });
  upTo(height);
  return { width, height, channels: 3, data };
}

interface Steps {
  from: Int32Array;
  part: Float32Array;
}

/** Between which places of the grid each column lies, and how far towards the second. */
function steps(width: number, places: number, perPlace = width / places): Steps {
  const from = new Int32Array(width);
  const part = new Float32Array(width);
  for (let x = 0; x < width; x++) {
    const place = Math.min(places - 1, Math.max(0, (x + 0.5) / perPlace - 0.5));
    from[x] = place | 0;
    part[x] = place - from[x];
  }
  return { from, part };
}

/** Sums of even numbers from the place alone: the same picture has the same grain. Standard deviation 1. */
function noiseOf(x: number, y: number): number {
  let h = Math.imul(x + 1, 0x9e3779b1) ^ Math.imul(y + 1, 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  h ^= h >>> 15;
  const sum = (h & 255) + ((h >>> 8) & 255) + ((h >>> 16) & 255) + ((h >>> 24) & 255);
  return (sum - 510) / 147.8;
}

type ReadRow = (y: number, line: Float32Array) => void;

/** Gives rows of the background as it is to be behind the person, linear. */
function behindOf(background: EncodedRaster, look: Look, step = noColourStep): ReadRow {
  const { width, height, channels, data } = background;
  const table = linearTable(data);
  const change = isNoStep(step) ? undefined : colourChanger(step);
  const rgb = new Float32Array(3);
  const sigma = (look.behindBlur / 1000) * height;
  const soft = sigma >= 0.3 ? blurredOf(background, sigma) : undefined;
  const across = soft && steps(width, soft.picture.width, soft.factor);
  return (y, line) => {
    for (let x = 0, o = 0; x < width; x++, o += 3) {
      const from = look.mirrorBackground ? width - 1 - x : x;
      if (soft && across) sampleInto(soft.picture, across, from, (y + 0.5) / soft.factor - 0.5, line, o);
      else {
        const i = (y * width + from) * channels;
        line[o] = table[data[i]];
        line[o + 1] = table[data[i + 1]];
        line[o + 2] = table[data[i + 2]];
      }
      if (!change) continue;
      rgb[0] = line[o];
      rgb[1] = line[o + 1];
      rgb[2] = line[o + 2];
      change(rgb);
      line.set(rgb, o);
    }
  };
}

/** Pixels of the blur's deviation to one of the smaller picture that it is computed on. */
const PER_PIXEL = 1.5;

function blurredOf(background: EncodedRaster, sigma: number): { picture: LinearRaster; factor: number } {
  const factor = Math.max(1, Math.floor(sigma / PER_PIXEL));
  const reduced = reduceToLinear(background, factor);
  const { width, height, data } = reduced;
  for (let c = 0; c < 3; c++) {
    const plane = createPlane(width, height);
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = data[p * 3 + c];
    const soft = gaussianBlur(plane, sigma / factor).data;
    for (let p = 0; p < soft.length; p++) data[p * 3 + c] = soft[p];
  }
  return { picture: reduced, factor };
}

function sampleInto(
  { width, height, data }: LinearRaster,
  { from, part }: Steps,
  x: number,
  down: number,
  line: Float32Array,
  o: number,
): void {
  const place = Math.min(height - 1, Math.max(0, down));
  const above = place | 0;
  const t = part[x];
  const v = place - above;
  const near = Math.min(width - 1, from[x] + 1) - from[x];
  const a = (above * width + from[x]) * 3;
  const b = a + (above + 1 < height ? width * 3 : 0);
  const next = near * 3;
  for (let c = 0; c < 3; c++) {
    const upper = data[a + c] + t * (data[a + next + c] - data[a + c]);
    const lower = data[b + c] + t * (data[b + next + c] - data[b + c]);
    line[o + c] = upper + v * (lower - upper);
  }
}

/** What the tones over all are read from, beside the look. */
type Tabled = Pick<Also, 'curves' | 'lut'>;

/** Where the corners of a vignette are darkest, stops at strength 1. */
const VIGNETTE_STOPS = 1.5;

function gradeOf(look: Look, width: number, height: number, also: Tabled) {
  const { vignette } = look;
  const change = toneChanger(look, also);
  if (!change && vignette === 0) return undefined;
  const reach = (width * width + height * height) / 4;
  return (rgb: Float32Array, x: number, y: number): void => {
    change?.(rgb);
    if (vignette === 0) return;
    const out = ((x + 0.5 - width / 2) ** 2 + (y + 0.5 - height / 2) ** 2) / reach;
    const keep = 2 ** (-VIGNETTE_STOPS * vignette * out * out);
    rgb[0] *= keep;
    rgb[1] *= keep;
    rgb[2] *= keep;
  };
}

/** What is done to the colours of the whole picture, the same at every place; undefined for nothing. */
function toneChanger(look: Look, { curves, lut }: Tabled): ((rgb: Float32Array) => void) | undefined {
  const step = handStep(look.allExposure, look.allWarmth, look.allSaturation, look.allContrast, look.allTint);
  const steps: ((rgb: Float32Array) => void)[] = [];
  if (!isNoStep(step)) steps.push(colourChanger(step));
  if (look.allShadows !== 0 || look.allLights !== 0) steps.push(curveChanger(look.allShadows, look.allLights));
  if (curves && !areStraight(curves)) steps.push(curvesChanger(curves));
  if (lut && look.lutStrength > 0) steps.push(cubeChanger(lut, look.lutStrength));
  if (!steps.length) return undefined;
  return (rgb) => {
    for (const change of steps) change(rgb);
  };
}

/** The tones over all as a look-up table, for other programs: all of the grade but what depends on the place. */
export function gradeCube(look: Look, also: Tabled, title: string, size = 33): Cube {
  return cubeOf(title, size, toneChanger(look, also) ?? (() => undefined));
}

/** Stops from the middle grey over which shadows and lights come in. */
const RAMP = 3.5;
const MIDDLE = 0.18;
/** Points of the curve for each stop from the middle, over which it is kept. */
const PER_STOP = 64;
const STOPS = 12;

/** Lifts or deepens what is darker than the middle, and what is lighter, by stops at the ends; in order everywhere. */
function curveChanger(shadows: number, lights: number): (rgb: Float32Array) => void {
  const gains = Float32Array.from({ length: 2 * STOPS * PER_STOP + 2 }, (_, n) => {
    const stops = n / PER_STOP - STOPS;
    const reach = smoothstep(Math.abs(stops) / RAMP);
    return 2 ** (reach * (stops < 0 ? shadows : lights));
  });
  return (rgb) => {
    const y = luminance(rgb[0], rgb[1], rgb[2]);
    const at = Math.min(2 * STOPS, Math.max(0, Math.log2(Math.max(1e-5, y) / MIDDLE) + STOPS)) * PER_STOP;
    const n = at | 0;
    const gain = gains[n] + (at - n) * (gains[n + 1] - gains[n]);
    rgb[0] *= gain;
    rgb[1] *= gain;
    rgb[2] *= gain;
  };
}

/** Light that a shade leaves at full strength: the sky still sees the place. */
const LEFT = 0.25;

/**
 * What a shade of the scene leaves of the light at a place of the person, 0–1.
 * @returns undefined for no shade.
 */
function shadeOver(look: Look, cut: Size, background: Size, placement: Placement) {
  if (look.shade === 0) return undefined;
  const { left, top, width, height } = placedRectangle(cut, background, placement);
  const angle = (look.shadeFrom * Math.PI) / 180;
  // Towards where it comes from; the frame reaches from −reach to reach along it.
  const [dx, dy] = [Math.sin(angle), -Math.cos(angle)];
  const reach = (Math.abs(dx) * width + Math.abs(dy) * height) / 2;
  const soft = (look.shadeSoftness / 1000) * background.height;
  const border = reach * (1 - 2 * look.shadeReach);
  return (x: number, y: number): number => {
    const along = (x + 0.5 - left - width / 2) * dx + (y + 0.5 - top - height / 2) * dy;
    return 1 - look.shade * (1 - LEFT) * smoothstep((along - border) / soft + 0.5);
  };
}
