import { luminance } from '../colour/luminance.ts';
import { gaussianBlur } from '../image/boxBlur.ts';
import { createLinear, createPlane, type EncodedRaster, type LinearRaster, type Plane } from '../image/raster.ts';
import { reduceToLinear } from '../image/reduce.ts';
import { smoothstep } from '../image/smoothstep.ts';
import { facingsOf, type Facings } from './facings.ts';
import { turnRatio } from './ballLight.ts';
import { colourChanger, type ColourStep, type Match } from './match.ts';
import type { Look } from './look.ts';
import type { Placement } from './placement.ts';
import { forPlacedRows } from './resample.ts';

/**
 * Where a person and a background meet: light that reaches over the edge, light from the surroundings, haze, shadows.
 * All of it is soft, so it is computed on a small grid and carried between.
 */
export interface Joining {
  width: number;
  height: number;
  /** One after the other for each place of the grid; see `at`. */
  data: Float32Array;
}

/** Where what stands in a place of the grid; colours are linear. */
export const at = {
  /** Shade on the background, 0–1. */
  shade: 0,
  /** Coverage, blurred as far as light reaches round the edge; and as far as it comes from the sides. */
  edge: 1,
  rim: 2,
  /** How far down the person, 0–1, squared. */
  below: 3,
  /** Background behind the edge, around the place, under the person, and of the whole region. */
  behind: 4,
  around: 7,
  under: 10,
  air: 13,
  /** How far a place of the person seems to face right, −1 to 1. */
  facing: 16,
  /** Light that bright places of the background throw over what is before them. */
  glow: 17,
  /** What the ground mirrors of the person: colour times coverage, and coverage. */
  mirrored: 23,
  /** What each side of the person gets more of a new light, times. */
  relit: 20,
} as const;
/** Those that a person's colour takes; what comes after is only about the background. */
export const OF_PERSON = 23;
export const CHANNELS = 27;

/** Places of the grid along its longer side. */
const GRID = 360;
/** Standard deviations as shares of the height: from how far light comes from the sides, of the air, of the rim. */
const AROUND = 0.07;
const AIR = 0.16;
const RIM = 0.022;
/** A blur of less leaves a grid as it is. */
const LEAST_BLUR = 0.9;
/** Luminance from which on a place shines over others, and how far: deviation as a share of the height. */
const SHINES = 0.45;
const SHINE = 0.035;
/** A mirroring ground: how far down it is seen, in heights of the person, and its blur as a share of the height. */
const MIRROR = { reach: 0.55, blur: 0.004 };
/** Part of a shadow's ground that keeps light from elsewhere. */
const AMBIENT = 0.15;
/** Heights of a person: of what presses on the ground, and its shadow's blur. */
const CONTACT = { high: 0.035, blur: 0.012 };
/** How much a length on the ground is foreshortened, seen from a standing person's height. */
const FORESHORTENED = 0.3;
/** How far a shadow on the wall lies beside and below, in heights of the person at length 1. */
const WALL = { beside: 0.22, below: 0.05 };
/** Coverage in the frame's lowest row from which a person goes on below it and stands nowhere in the picture. */
const GOES_ON = 0.5;

/** What is known of person and background when they meet. */
export interface Meeting {
  /** What is done to the background itself, before any of it; and to the person's colours. */
  behind: ColourStep;
  person: ColourStep;
  /** Whether the person stands nowhere in the picture. */
  floats: boolean;
  relight: Match['relight'];
}

export function joiningOf(
  cutout: EncodedRaster,
  background: EncodedRaster,
  placement: Placement,
  look: Look,
  { behind: step, person, floats, relight }: Meeting,
): Joining {
  const reduced = reduceToLinear(
    background,
    Math.max(1, Math.round(Math.max(background.width, background.height) / GRID)),
  );
  const size = { width: reduced.width, height: reduced.height };
  if (look.mirrorBackground) mirror(reduced);
  const change = colourChanger(step);
  const rgb = new Float32Array(3);
  for (let i = 0; i < reduced.data.length; i += 3) {
    rgb.set(reduced.data.subarray(i, i + 3));
    change(rgb);
    reduced.data.set(rgb, i);
  }
  const alpha = createPlane(size.width, size.height);
  const colour = look.reflection > 0 ? createLinear(size.width, size.height) : undefined;
  forPlacedRows(cutout, size, placement, { mirrored: look.mirrorPerson }, (y, first, row) => {
    for (let i = 0, p = y * size.width + first; i < row.length; i += 4, p++) {
      alpha.data[p] = Math.min(1, row[i + 3]);
      if (colour) for (let c = 0; c < 3; c++) colour.data[p * 3 + c] = row[i + c];
    }
  });
  const share = (thousandths: number): number => (thousandths / 1000) * size.height;
  const extent = extentOf(alpha);
  const out = { ...size, data: new Float32Array(size.width * size.height * CHANNELS) };
  const put = (channel: number, { data }: Plane | { data: Float32Array }, stride = 1, offset = 0): void => {
    for (let p = 0, o = channel; o < out.data.length; p++, o += CHANNELS) out.data[o] = data[p * stride + offset];
  };
  put(at.edge, gaussianBlur(alpha, Math.max(LEAST_BLUR, share(look.wrapWidth))));
  put(at.rim, gaussianBlur(alpha, RIM * size.height));
  const facing = look.sideLight !== 0 || relight ? facingsOf(alpha) : undefined;
  if (relight && facing) putRelit(out, facing, relight);
  if (look.sideLight !== 0 && facing) put(at.facing, facing.right);
  put(at.shade, shadeOf(alpha, extent, floats, look, share));
  if (colour && extent && !floats) putMirrored(out, alpha, colour, extent, look.reflection, colourChanger(person));
  if (look.glow > 0) {
    const bright = createPlane(size.width, size.height);
    for (let c = 0; c < 3; c++) {
      for (let p = 0, i = 0; p < bright.data.length; p++, i += 3) {
        const strength = luminance(reduced.data[i], reduced.data[i + 1], reduced.data[i + 2]);
        bright.data[p] = strength > SHINES ? (reduced.data[i + c] * (strength - SHINES)) / strength : 0;
      }
      put(at.glow + c, gaussianBlur(bright, SHINE * size.height));
    }
  }
  const blurred = (sigma: number): LinearRaster => {
    const soft = createLinear(size.width, size.height);
    for (let c = 0; c < 3; c++) {
      const plane = createPlane(size.width, size.height);
      for (let p = 0; p < plane.data.length; p++) plane.data[p] = reduced.data[p * 3 + c];
      const { data } = gaussianBlur(plane, sigma);
      for (let p = 0; p < data.length; p++) soft.data[p * 3 + c] = data[p];
    }
    return soft;
  };
  const behind = blurred(Math.max(LEAST_BLUR, share(look.wrapWidth)));
  const around = blurred(AROUND * size.height);
  const air = blurred(AIR * size.height);
  for (let c = 0; c < 3; c++) {
    put(at.behind + c, behind, 3, c);
    put(at.around + c, around, 3, c);
    put(at.air + c, air, 3, c);
  }
  if (extent) {
    const foot = Math.min(size.height - 1, extent.bottom);
    for (let y = 0, o = 0; y < size.height; y++) {
      const down = smoothstep((y - extent.top) / Math.max(1, extent.bottom - extent.top)) ** 2;
      for (let x = 0; x < size.width; x++, o += CHANNELS) {
        out.data[o + at.below] = down;
        for (let c = 0; c < 3; c++) out.data[o + at.under + c] = around.data[(foot * size.width + x) * 3 + c];
      }
    }
  }
  return out;
}

/** The person upside down from the feet downwards, weaker with the distance. */
function putMirrored(
  out: Joining,
  alpha: Plane,
  colour: LinearRaster,
  { top, bottom }: Rows,
  strength: number,
  change: (rgb: Float32Array) => void,
): void {
  const { width, height } = alpha;
  const planes = [0, 1, 2, 3].map(() => createPlane(width, height));
  const reach = Math.max(1, MIRROR.reach * (bottom - top));
  const rgb = new Float32Array(3);
  for (let y = bottom + 1; y < height; y++) {
    const from = 2 * bottom + 1 - y;
    const seen = strength * Math.max(0, 1 - (y - bottom) / reach);
    if (from < 0 || seen === 0) break;
    for (let x = 0; x < width; x++) {
      const p = from * width + x;
      const a = alpha.data[p];
      if (a === 0) continue;
      for (let c = 0; c < 3; c++) rgb[c] = colour.data[p * 3 + c] / a;
      change(rgb);
      const q = y * width + x;
      for (let c = 0; c < 3; c++) planes[c].data[q] = rgb[c] * a * seen;
      planes[3].data[q] = a * seen;
    }
  }
  planes.forEach((plane, c) => {
    const { data } = gaussianBlur(plane, Math.max(LEAST_BLUR, MIRROR.blur * height));
    for (let p = 0, o = at.mirrored + c; p < data.length; p++, o += CHANNELS) out.data[o] = data[p];
  });
}

/** How the sides of a person change under another light. */
function putRelit(out: Joining, { right, up }: Facings, { from, to, strength }: NonNullable<Meeting['relight']>): void {
  // As many ways to face as the eye tells apart.
  const ways = new Map<number, readonly number[]>();
  for (let p = 0; p < right.data.length; p++) {
    const [x, y] = [right.data[p], up.data[p]];
    const key = Math.round(x * 40) * 128 + Math.round(y * 40);
    let ratio = ways.get(key);
    if (!ratio) {
      ratio = turnRatio(from, to, { x, y, z: Math.sqrt(1 - x * x - y * y) }).map((v) => v ** strength);
      ways.set(key, ratio);
    }
    for (let c = 0; c < 3; c++) out.data[p * CHANNELS + at.relit + c] = ratio[c];
  }
}

/** Whether somebody goes on below the frame. */
export function goesOn({ width, height, data }: EncodedRaster): boolean {
  const white = data instanceof Uint16Array ? 65535 : 255;
  for (let i = (height - 1) * width * 4 + 3; i < data.length; i += 4) if (data[i] > GOES_ON * white) return true;
  return false;
}

function mirror({ width, height, data }: LinearRaster): void {
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width >> 1; x++)
      for (let c = 0; c < 3; c++) {
        const a = (y * width + x) * 3 + c;
        const b = (y * width + width - 1 - x) * 3 + c;
        [data[a], data[b]] = [data[b], data[a]];
      }
}

interface Rows {
  top: number;
  bottom: number;
}

function extentOf({ width, height, data }: Plane): Rows | undefined {
  let top = height;
  let bottom = -1;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (data[y * width + x] > 0.5) {
        top = Math.min(top, y);
        bottom = y;
        break;
      }
  return bottom < 0 ? undefined : { top, bottom };
}

/** Shade on what lies behind: pressed under the feet, cast over the ground, and beside the person on a wall. */
function shadeOf(
  alpha: Plane,
  extent: Rows | undefined,
  floats: boolean,
  look: Look,
  share: (thousandths: number) => number,
): Plane {
  const { width, height } = alpha;
  const out = createPlane(width, height);
  if (!extent || (look.contact === 0 && look.ground === 0 && look.wall === 0)) return out;
  const tall = Math.max(1, extent.bottom - extent.top);
  const soft = gaussianBlur(alpha, Math.max(0.5, share(look.shadowSoftness)));
  const sharp = gaussianBlur(alpha, 0.7);
  const sample = ({ data }: Plane, x: number, y: number): number => {
    if (x < 0 || y < 0 || x >= width - 1 || y >= height - 1) return 0;
    const [i, j] = [x | 0, y | 0];
    const [a, b] = [x - i, y - j];
    const p = j * width + i;
    return (data[p] * (1 - a) + data[p + 1] * a) * (1 - b) + (data[p + width] * (1 - a) + data[p + width + 1] * a) * b;
  };
  const contact = createPlane(width, height);
  if (!floats && look.contact > 0) {
    const band = Math.max(1, Math.round(CONTACT.high * tall));
    // What presses on the ground is seen from above: each column's lowest part, laid flat about the foot line.
    for (let x = 0; x < width; x++) {
      let pressed = 0;
      for (let y = extent.bottom - band; y <= extent.bottom; y++)
        if (y >= 0) pressed = Math.max(pressed, alpha.data[y * width + x]);
      for (let y = extent.bottom - (band >> 1); y <= Math.min(height - 1, extent.bottom + band); y++)
        if (y >= 0) contact.data[y * width + x] = pressed;
    }
  }
  const pressed = gaussianBlur(contact, CONTACT.blur * tall);
  const flat = FORESHORTENED * look.shadowLength;
  const beside = look.shadowSide * WALL.beside * look.shadowLength * tall;
  const below = WALL.below * look.shadowLength * tall;
  for (let y = 0, p = 0; y < height; y++) {
    const high = (extent.bottom - y) / flat;
    const far = Math.min(1, Math.max(0, high / tall));
    for (let x = 0; x < width; x++, p++) {
      let lit = 1 - look.contact * Math.min(1, 1.3 * pressed.data[p]);
      if (!floats && look.ground > 0 && high >= 0 && high <= tall) {
        const sx = x - look.shadowSide * look.shadowLength * high;
        const cast = (1 - far) * sample(sharp, sx, extent.bottom - high) + far * sample(soft, sx, extent.bottom - high);
        lit *= 1 - look.ground * cast;
      }
      if (look.wall > 0) lit *= 1 - look.wall * sample(soft, x - beside, y - below);
      out.data[p] = (1 - lit) * (1 - AMBIENT);
    }
  }
  return out;
}

/**
 * The grid at one row of a picture of another size: its places one after the other, the last of them twice.
 * @param row (width + 1) · CHANNELS long.
 */
export function joiningRow(joining: Joining, y: number, pictureHeight: number, row: Float32Array): void {
  const { width, height, data } = joining;
  const place = Math.min(height - 1, Math.max(0, ((y + 0.5) / pictureHeight) * height - 0.5));
  const above = place | 0;
  const part = place - above;
  const length = width * CHANNELS;
  const a = above * length;
  const b = Math.min(height - 1, above + 1) * length;
  for (let i = 0; i < length; i++) row[i] = data[a + i] + part * (data[b + i] - data[a + i]);
  row.copyWithin(length, length - CHANNELS, length);
}

/** Luminance over which light from behind is bright enough to reach over an edge wholly. */
const BRIGHT = 0.5;
/** Light of which surroundings leave a person as it was lit. */
const EVEN = 0.4;

/**
 * What surroundings do to a person's colour at a place, in place. Haze and light round the edge are exchanges: no channel
 * leaves the range between the person's and the surroundings'. Light from the sides and below changes each channel by
 * three fifths at most at full strength.
 * @param rgb linear colour of the person, not premultiplied.
 * @param g values of the grid there.
 */
export function joinColour(rgb: Float32Array, g: Float32Array, look: Look, relit = false): void {
  const { bounce, bounceBelow, haze, sideLight, wrap } = look;
  let [r, gr, b] = rgb;
  if (relit) {
    r *= g[at.relit];
    gr *= g[at.relit + 1];
    b *= g[at.relit + 2];
  }
  if (sideLight !== 0) {
    const lit = Math.max(KEPT_LIT, 1 + TURNED * sideLight * g[at.facing]);
    r *= lit;
    gr *= lit;
    b *= lit;
  }
  if (bounce > 0 || bounceBelow > 0) {
    const fromSides = bounce * besideEdge(g[at.rim]);
    const fromBelow = bounceBelow * g[at.below];
    const exchanged = BOUNCED / Math.max(1, fromSides + fromBelow);
    const sides = exchanged * fromSides;
    const low = exchanged * fromBelow;
    const plain = 1 - sides - low;
    r *= plain + sides * relative(g[at.around]) + low * relative(g[at.under]);
    gr *= plain + sides * relative(g[at.around + 1]) + low * relative(g[at.under + 1]);
    b *= plain + sides * relative(g[at.around + 2]) + low * relative(g[at.under + 2]);
  }
  if (haze > 0) {
    r += haze * (g[at.air] - r);
    gr += haze * (g[at.air + 1] - gr);
    b += haze * (g[at.air + 2] - b);
  }
  if (wrap > 0) {
    const bright = luminance(g[at.behind], g[at.behind + 1], g[at.behind + 2]);
    // Only what is brighter than the person reaches over.
    if (bright > luminance(r, gr, b)) {
      const reach = wrap * besideEdge(g[at.edge]) * Math.min(1, bright / BRIGHT);
      r += reach * (g[at.behind] - r);
      gr += reach * (g[at.behind + 1] - gr);
      b += reach * (g[at.behind + 2] - b);
    }
  }
  if (look.glow > 0) {
    r += look.glow * g[at.glow];
    gr += look.glow * g[at.glow + 1];
    b += look.glow * g[at.glow + 2];
  }
  rgb[0] = r;
  rgb[1] = gr;
  rgb[2] = b;
}

/**
 * How near the edge of something solid a place lies, 0–1, by blurred coverage: one half at a straight edge. Loose hair has
 * too little around it to be reached over: it would go.
 */
function besideEdge(blurred: number): number {
  return Math.max(0, 4 * blurred * (1 - blurred));
}

/** By how much of itself the light on a side changes, at full strength. */
const TURNED = 1;
/** What a side keeps of its light at least. */
const KEPT_LIT = 0.15;
/** Part of a person's light that comes from the surroundings, at full strength. */
const BOUNCED = 0.6;
/** Light of surroundings against the light that leaves a person as it was lit; twice as much at most. */
function relative(light: number): number {
  return light > 2 * EVEN ? 2 : light / EVEN;
}
