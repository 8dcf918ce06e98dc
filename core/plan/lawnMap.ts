import { meetScreen, rayOf, type CameraView, type ScreenHit } from './cameraView.ts';
import { purity, type Rgb } from './exposure.ts';
import { illuminance, type Blockers, type Source } from './light.ts';
import type { Plan, Screen } from './plan.ts';
import { add, distance, dot, scale, subtract, unit, type Vec } from './vector.ts';

/**
 * The screen as the camera sees it, place by place; arrays row by row from the top left, NaN where no screen is seen.
 */
export interface LawnMap {
  columns: number;
  rows: number;
  /** Illuminance per source without anybody in the way, lx. */
  bySource: Float64Array[];
  /** Illuminance of all together, without and with people's shadows. */
  empty: Float64Array;
  shadowed: Float64Array;
  /** Linear sensor level per channel (3 values a place) without people, with gloss; may exceed 1. */
  level: Float64Array;
  /** Relative change of level that a crease causes, per unit of its slope. */
  creaseGain: Float64Array;
  hits: (ScreenHit | undefined)[];
}

export function lawnMap(
  plan: Plan,
  view: CameraView,
  sources: readonly Source[],
  blockers: Blockers,
  perLux: Rgb,
  columns = 24,
): LawnMap {
  const { camera, screen } = plan;
  const rows = Math.max(1, Math.min(4 * columns, Math.round((columns * camera.pixelsDown) / camera.pixelsAcross)));
  const count = columns * rows;
  const blank = (): Float64Array => new Float64Array(count).fill(NaN);
  const map: LawnMap = {
    columns,
    rows,
    bySource: sources.map(blank),
    empty: blank(),
    shadowed: blank(),
    level: new Float64Array(count * 3).fill(NaN),
    creaseGain: blank(),
    hits: new Array(count),
  };
  for (let p = 0; p < count; p++) {
    const ray = rayOf(
      view,
      (((p % columns) + 0.5) / columns) * camera.pixelsAcross,
      ((Math.floor(p / columns) + 0.5) / rows) * camera.pixelsDown,
    );
    const hit = meetScreen(view, ray, screen);
    map.hits[p] = hit;
    if (!hit) continue;
    let whole = 0;
    let shadowed = 0;
    let crease = 0;
    const level: Rgb = [0, 0, 0];
    sources.forEach((source, n) => {
      const e = illuminance(source, hit.point, hit.normal);
      map.bySource[n][p] = e;
      whole += e;
      shadowed += e > 0 ? illuminance(source, hit.point, hit.normal, blockers) : 0;
      crease += e * slant(source, hit);
      const shine = e * glossAt(screen, source, hit, ray);
      const light = source.light.rgb;
      level[0] += perLux[0] * light[0] * (e * screen.red + shine);
      level[1] += perLux[1] * light[1] * (e * screen.green + shine);
      level[2] += perLux[2] * light[2] * (e * screen.blue + shine);
    });
    map.empty[p] = whole;
    map.shadowed[p] = shadowed;
    map.creaseGain[p] = whole > 0 ? crease / whole : 0;
    map.level.set(level, p * 3);
  }
  return map;
}

/** Comes from all sides: casts no shadow, draws no creases, has no mirror image. */
function isDiffuse({ kind }: Source): boolean {
  return kind === 'sky' || kind === 'room';
}

/** Tangent of the sideways angle of incidence: what a slope of the cloth does to the light of this source. */
function slant(source: Source, hit: ScreenHit): number {
  if (isDiffuse(source)) return 0;
  const towards = source.kind === 'sun' ? scale(source.axis, -1) : subtract(source.centre, hit.point);
  const height = dot(towards, hit.normal);
  return height > 1e-3 ? Math.max(-8, Math.min(8, towards.x / height)) : 0;
}

/** Exponent of the mirrored lobe of a dull sheet (Blinn 1977); broad, as of satin. */
const LOBE = 40;

/** Light mirrored towards the camera for each lux, relative to what a white matt surface would scatter. */
function glossAt(screen: Screen, source: Source, hit: ScreenHit, ray: Vec): number {
  if (screen.gloss <= 0 || isDiffuse(source)) return 0;
  const towards = source.kind === 'sun' ? scale(source.axis, -1) : unit(subtract(source.centre, hit.point));
  const half = unit(add(towards, scale(ray, -1)));
  return screen.gloss * ((LOBE + 2) / 8) * Math.pow(Math.max(0, dot(half, hit.normal)), LOBE);
}

export interface Evenness {
  /** Mean illuminance over the seen screen, lx. */
  mean: number;
  /** In stops. */
  spread: number;
  spread90: number;
  hot: Place;
  dark: Place;
}

/**
 * A place on the seen screen, in shares of the frame from the top left; the source that gives most of the light
 * there, relative to its mean.
 */
export interface Place {
  x: number;
  y: number;
  stops: number;
  source: number;
}

/** @returns undefined if no lit screen is seen. */
export function evennessOf(map: LawnMap): Evenness | undefined {
  const places = seenPlaces(map).filter((p) => map.empty[p] > 0);
  if (!places.length) return undefined;
  const mean = places.reduce((sum, p) => sum + map.empty[p], 0) / places.length;
  const sorted = [...places].sort((a, b) => map.empty[a] - map.empty[b]);
  const at = (share: number): number =>
    map.empty[sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]];
  const place = (p: number): Place => ({
    x: ((p % map.columns) + 0.5) / map.columns,
    y: (Math.floor(p / map.columns) + 0.5) / map.rows,
    stops: Math.log2(map.empty[p] / mean),
    source: loudest(map, p),
  });
  const darkest = sorted[0];
  const hottest = sorted[sorted.length - 1];
  return {
    mean,
    spread: Math.log2(map.empty[hottest] / map.empty[darkest]),
    spread90: Math.log2(at(0.95) / at(0.05)),
    hot: place(hottest),
    dark: place(darkest),
  };
}

export function seenPlaces(map: LawnMap): number[] {
  const places: number[] = [];
  for (let p = 0; p < map.empty.length; p++) if (map.hits[p]) places.push(p);
  return places;
}

function loudest(map: LawnMap, p: number): number {
  let best = 0;
  map.bySource.forEach((values, n) => {
    if (values[p] > map.bySource[best][p]) best = n;
  });
  return best;
}

export interface ScreenExposure {
  /** Mean level per channel and highest, 1: clipping. */
  mean: Rgb;
  highest: number;
  /** Share of the seen screen with a channel at or above clipping. */
  clipped: number;
  purity: number;
}

export function exposureOf(map: LawnMap, colour: Screen['colour']): ScreenExposure | undefined {
  const places = seenPlaces(map);
  if (!places.length) return undefined;
  const mean: Rgb = [0, 0, 0];
  let highest = 0;
  let clipped = 0;
  for (const p of places) {
    let top = 0;
    for (let c = 0; c < 3; c++) {
      const level = map.level[p * 3 + c];
      mean[c] += Math.min(1, level) / places.length;
      top = Math.max(top, level);
    }
    highest = Math.max(highest, top);
    if (top >= 1) clipped += 1 / places.length;
  }
  return { mean, highest, clipped, purity: purity(mean, colour === 'blue' ? 2 : 1) };
}

/** The shadow of people on the seen screen by one source. */
export interface CastShadow {
  source: number;
  /** How much darker the screen is at the deepest place, stops. */
  depth: number;
  x: number;
  y: number;
  /** Share of the seen screen that is at least a tenth of a stop darker. */
  share: number;
  /** Width of the soft edge on the screen, m. */
  softEdge: number;
}

/** Shadows deeper than a twentieth of a stop, deepest first. */
export function shadowsOf(map: LawnMap, sources: readonly Source[], blockers: Blockers): CastShadow[] {
  if (!blockers.length) return [];
  const places = seenPlaces(map).filter((p) => map.empty[p] > 0);
  const shadows: CastShadow[] = [];
  sources.forEach((source, n) => {
    if (isDiffuse(source)) return;
    let depth = 0;
    let deepest = -1;
    let dark = 0;
    for (const p of places) {
      const hit = map.hits[p];
      const own = map.bySource[n][p];
      if (!hit || own < 0.01 * map.empty[p]) continue;
      const lost = own - illuminance(source, hit.point, hit.normal, blockers);
      const stops = -Math.log2(Math.max(0.001, 1 - lost / map.empty[p]));
      if (stops > 0.1) dark++;
      if (stops > depth) {
        depth = stops;
        deepest = p;
      }
    }
    if (deepest < 0 || depth < 0.05) return;
    const point = map.hits[deepest]?.point as Vec;
    const body = blockers.reduce((near, b) =>
      Math.hypot(b.x - point.x, b.z - point.z) < Math.hypot(near.x - point.x, near.z - point.z) ? b : near,
    );
    const behind = Math.hypot(body.x - point.x, body.z - point.z);
    const before = source.kind === 'sun' ? Infinity : Math.max(0.05, distance(source.centre, point) - behind);
    const softEdge =
      source.kind === 'sun' ? behind * 0.0093 : (Math.sqrt(source.lamp.width * source.lamp.height) * behind) / before;
    shadows.push({
      source: n,
      depth,
      x: ((deepest % map.columns) + 0.5) / map.columns,
      y: (Math.floor(deepest / map.columns) + 0.5) / map.rows,
      share: dark / places.length,
      softEdge,
    });
  });
  return shadows.sort((a, b) => b.depth - a.depth);
}
