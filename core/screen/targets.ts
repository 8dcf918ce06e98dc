import { components } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { without } from '../image/masks.ts';
import { createMask, type EncodedRaster, type LinearRaster, type Mask } from '../image/raster.ts';
import { purity, type Rgb } from '../plan/exposure.ts';
import { readBall, type BallReading, type Circle } from './ball.ts';
import { boxOf, type Box } from './box.ts';
import { readChart, type ChartReading } from './chart.ts';
import { reducedForCheck } from './reduced.ts';
import { insideOf, outlineOf } from './outline.ts';
import { personIn } from './people.ts';
import { fitScreenModel } from './screenModel.ts';
import { medianOf, quantileOf } from './statistics.ts';
import { surveyScreen } from './survey.ts';

export interface CardReading extends Box {
  /** Linear level per channel. */
  level: Rgb;
  /** Gains that make it neutral, green 1. */
  gains: Rgb;
  /** Stops to add so that it stands at 18 %. */
  stops: number;
  /** A channel stands at clipping: colour and exposure cannot be told. */
  clipped: boolean;
}

/** Reflectance of a grey card. */
export const CARD = 0.18;

/** The thing in front of the screen: its pixels in the reduced frame. */
export function thingIn(picture: LinearRaster): { mask: Mask; box: Box } | undefined {
  const survey = surveyScreen(picture);
  if (!survey) return undefined;
  const { clear } = fitScreenModel(picture, survey);
  const inside = insideOf(outlineOf(clear).polygon, clear.width, clear.height);
  const hidden = without(inside, clear);
  // Creases that are not plainly screen are thin; what is held before it is not.
  const opening = Math.max(2, 0.012 * clear.width);
  const found = components(growMask(growMask(hidden, -opening), opening)).filter(
    ({ touchesBorder, pixels }) => !touchesBorder && pixels.length > 40,
  );
  if (!found.length) return undefined;
  const largest = found.reduce((most, one) => (one.pixels.length > most.pixels.length ? one : most));
  const mask = createMask(clear.width, clear.height);
  for (const p of largest.pixels) mask.data[p] = 1;
  return { mask, box: boxOf(largest.pixels, clear.width, clear.height) };
}

/** What a photograph of a set shows. */
export type TargetKind = 'people' | 'plate' | 'ball' | 'grey card' | 'colour chart';

/** Less of the frame than this is dust or a clip, not somebody. */
const LEAST_PERSON = 0.012;

/** Tells what was photographed; undefined where no screen is found. */
export function recogniseKind(full: EncodedRaster): TargetKind | undefined {
  const { picture } = reducedForCheck(full);
  const survey = surveyScreen(picture);
  if (!survey) return undefined;
  const { clear } = fitScreenModel(picture, survey);
  const person = personIn(clear, insideOf(outlineOf(clear).polygon, clear.width, clear.height));
  const share = person ? person.data.reduce((sum, v) => sum + v, 0) / person.data.length : 0;
  const thing = thingIn(picture);
  const alone = thing && thing.mask.data.reduce((sum, v) => sum + v, 0) / thing.mask.data.length > 0.6 * share;
  if (thing && alone) {
    if (circleIn(picture)) return 'ball';
    if (readCard(full, survey.channel, thing.box)) return 'grey card';
    if (readChart(picture, thing.box)) return 'colour chart';
  }
  return share < LEAST_PERSON ? 'plate' : 'people';
}

/** @param marked where the chart is; left out, it is looked for. */
export function readChartFrame(full: EncodedRaster, marked?: Box): ChartReading | undefined {
  const { picture } = reducedForCheck(full);
  const box = marked ?? thingIn(picture)?.box;
  return box && readChart(picture, box);
}

/**
 * @param marked where the card is; left out, it is looked for.
 * @returns undefined where nothing plain and grey is found.
 */
export function readCard(full: EncodedRaster, channel: 1 | 2, marked?: Box): CardReading | undefined {
  const { picture } = reducedForCheck(full);
  const { width, height, data } = picture;
  const box = marked ?? thingIn(picture)?.box;
  if (!box) return undefined;
  const sums: number[][] = [[], [], []];
  // The middle of it, away from fingers and edges.
  for (let y = Math.floor((box.y + 0.25 * box.height) * height); y < (box.y + 0.75 * box.height) * height; y++) {
    for (let x = Math.floor((box.x + 0.25 * box.width) * width); x < (box.x + 0.75 * box.width) * width; x++) {
      const p = y * width + x;
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      for (let c = 0; c < 3; c++) sums[c].push(data[p * 3 + c]);
    }
  }
  if (sums[0].length < 9) return undefined;
  const level = sums.map(medianOf) as Rgb;
  const spread = quantileOf(sums[1], 0.9) / Math.max(1e-4, quantileOf(sums[1], 0.1));
  // A card is plain; a face or a screen is not, nor is it as coloured as the screen.
  if (spread > 1.6 || purity(level, channel) > 0.6 || level[0] <= 0 || level[2] <= 0) return undefined;
  return {
    ...box,
    level,
    gains: [level[1] / level[0], 1, level[1] / level[2]],
    stops: Math.log2(CARD / level[1]),
    clipped: Math.max(...level) > 0.96,
  };
}

/** @param marked the circle around the ball; left out, it is looked for. */
export function readBallFrame(
  full: EncodedRaster,
  spared: 1 | 2 | undefined,
  marked?: Circle,
): BallReading | undefined {
  const { picture } = reducedForCheck(full);
  const circle = marked ?? circleIn(picture);
  return circle && readBall(picture, circle, spared);
}

/**
 * The ball: a thing about as wide as high and filled like a disc, its outline found where half of it gives way to the
 * screen.
 */
export function circleIn(picture: LinearRaster): Circle | undefined {
  const thing = thingIn(picture);
  if (!thing) return undefined;
  const { box, mask } = thing;
  const { width, height } = picture;
  const w = box.width * width;
  const h = box.height * height;
  const area = mask.data.reduce((sum, v) => sum + v, 0);
  if (Math.max(w, h) / Math.min(w, h) > 1.15 || Math.abs(area / (w * h) / (Math.PI / 4) - 1) > 0.12) return undefined;
  const rough = { x: box.x * width + w / 2, y: box.y * height + h / 2, radius: Math.sqrt(area / Math.PI) };
  const { x, y, radius } = circleThrough(outlinePoints(picture, rough)) ?? rough;
  return { x: x / width, y: y / width, radius: radius / width };
}

/** Where the picture is half thing, half screen on the way out from the middle; pixels. */
function outlinePoints(picture: LinearRaster, { x, y, radius }: Circle): { x: number; y: number }[] {
  const { width, height, data } = picture;
  const excess = (px: number, py: number): number => {
    const p =
      (Math.min(height - 1, Math.max(0, Math.floor(py))) * width + Math.min(width - 1, Math.max(0, Math.floor(px)))) *
      3;
    const [r, g, b] = [data[p], data[p + 1], data[p + 2]];
    return Math.max(g - Math.max(r, b), b - Math.max(r, g)) / Math.max(r, g, b, 0.01);
  };
  const points: { x: number; y: number }[] = [];
  for (let n = 0; n < 90; n++) {
    const ux = Math.cos((n / 45) * Math.PI);
    const uy = Math.sin((n / 45) * Math.PI);
    const inner = excess(x + ux * radius * 0.85, y + uy * radius * 0.85);
    const outer = excess(x + ux * (radius * 1.1 + 3), y + uy * (radius * 1.1 + 3));
    const half = (inner + outer) / 2;
    if (outer - inner < 0.2) continue;
    let last = inner;
    for (let r = radius * 0.85; r < radius * 1.1 + 3; r += 0.5) {
      const here = excess(x + ux * r, y + uy * r);
      if (here >= half) {
        const at = r - 0.5 + (0.5 * (half - last)) / (here - last || 1);
        points.push({ x: x + ux * at, y: y + uy * at });
        break;
      }
      last = here;
    }
  }
  return points;
}

/** Circle by least squares (Kåsa 1976). */
function circleThrough(points: { x: number; y: number }[]): Circle | undefined {
  const n = points.length;
  if (n < 20) return undefined;
  const mx = points.reduce((sum, p) => sum + p.x, 0) / n;
  const my = points.reduce((sum, p) => sum + p.y, 0) / n;
  let uu = 0;
  let uv = 0;
  let vv = 0;
  let ur = 0;
  let vr = 0;
  for (const p of points) {
    const u = p.x - mx;
    const v = p.y - my;
    const square = u * u + v * v;
    uu += u * u;
    uv += u * v;
    vv += v * v;
    ur += (u * square) / 2;
    vr += (v * square) / 2;
  }
  const det = uu * vv - uv * uv;
  if (Math.abs(det) < 1e-9) return undefined;
  const cu = (ur * vv - vr * uv) / det;
  const cv = (vr * uu - ur * uv) / det;
  return { x: mx + cu, y: my + cv, radius: Math.sqrt(cu * cu + cv * cv + (uu + vv) / n) };
}
