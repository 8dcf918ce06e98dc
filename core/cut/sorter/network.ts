import { EVIDENCE } from '../evidence.ts';
import { createEngine, Written, type Engine, type Layer } from './engine.ts';

/** Channels of each level; every level is half as wide and high as the one before. */
export const LEVELS = [12, 16, 24, 40, 64, 64] as const;
/** Blocks on the way down and on the way up, by level. */
const DOWN = [0, 1, 2, 2, 2, 3] as const;
const UP = [0, 2, 2, 2, 1, 0] as const;
/** What comes out: how likely a place is clear, mixed, solid (logits), and its coverage (logit). */
export const OUTPUTS = 4;
/** Sides are filled up to a multiple of this. */
const MULTIPLE = 2 ** (LEVELS.length - 1);

/** Number of weights that the network has; they lie in the order in which `runNetwork` uses them. */
export function weightCount(): number {
  const block = (from: number, into: number): number => from * 10 + point(from, into);
  const point = (from: number, into: number): number => (from + 1) * into;
  let sum = block(EVIDENCE, LEVELS[0]);
  for (let n = 1; n < LEVELS.length; n++) {
    const before = n === 1 ? EVIDENCE + LEVELS[0] : LEVELS[n - 1];
    sum += point(before, LEVELS[n]) + (DOWN[n] + UP[n]) * block(LEVELS[n], LEVELS[n]) + point(LEVELS[n], LEVELS[n - 1]);
  }
  return sum + point(LEVELS[0], LEVELS[0]) + point(LEVELS[0], OUTPUTS);
}

/**
 * A small convolutional network of depthwise and pointwise layers over six levels of size, with the way down added to
 * the way up (after Ronneberger et al. 2015, "U-Net"; Howard et al. 2017 for the layers).
 * @param evidence planes as
 * `evidenceOf` gives them.
 * @returns logits, one plane after the other, as `OUTPUTS` says, width × height each.
 */
export function runNetwork(evidence: Float32Array, width: number, height: number, weights: Float32Array): Float32Array {
  const across = Math.ceil(width / MULTIPLE) * MULTIPLE;
  const down = Math.ceil(height / MULTIPLE) * MULTIPLE;
  let end = 0;
  const layer = (channels: number, level: number): Layer => {
    const w = across >> level;
    const h = down >> level;
    const stride = (w * h + 3) & ~3;
    const at = end;
    end += channels * stride;
    return { at, channels, width: w, height: h, stride };
  };
  const input = layer(EVIDENCE, 0);
  const spare = layer(EVIDENCE, 0);
  const levels = LEVELS.map((channels, n) => layer(channels, n));
  // The larger levels' spare room holds what the smaller ones need for a moment.
  const spares = LEVELS.map((channels, n): Layer => ({
    ...levels[n],
    at: spare.at,
    channels: Math.max(channels, n < LEVELS.length - 1 ? LEVELS[n + 1] : channels),
  }));
  const halved = levels.map((own, n): Layer => ({
    ...own,
    at: spare.at,
    channels: n === 1 ? EVIDENCE + LEVELS[0] : LEVELS[Math.max(0, n - 1)],
  }));
  const engine = createEngine(weights, end);
  fill(engine, input, evidence, width, height);
  let next = engine.weightsAt;
  const point = (sources: readonly Layer[], out: Layer, written: (typeof Written)[keyof typeof Written]): void => {
    engine.pointwise(sources, out, next, written);
    next += (sources.reduce((sum, { channels }) => sum + channels, 0) + 1) * out.channels;
  };
  const depth = (source: Layer, out: Layer): void => {
    engine.depthwise(source, out, next);
    next += 10 * source.channels;
  };
  const blocks = (own: Layer, room: Layer, count: number): void => {
    for (let n = 0; n < count; n++) {
      const taken = { ...room, channels: own.channels };
      depth(own, taken);
      point([taken], own, Written.added);
    }
  };
  depth(input, spare);
  point([spare], levels[0], Written.rectified);
  for (let n = 1; n < LEVELS.length; n++) {
    const sources = n === 1 ? [input, levels[0]] : [levels[n - 1]];
    let filled = halved[n].at;
    for (const source of sources) {
      engine.halve(source, { ...halved[n], at: filled, channels: source.channels });
      filled += source.channels * halved[n].stride;
    }
    point([halved[n]], levels[n], Written.rectified);
    blocks(levels[n], spares[n], DOWN[n]);
  }
  for (let n = LEVELS.length - 2; n >= 0; n--) {
    const narrow = { ...spares[n + 1], channels: LEVELS[n] };
    point([levels[n + 1]], narrow, Written.plain);
    engine.raise(narrow, levels[n]);
    blocks(levels[n], spares[n], UP[n]);
  }
  engine.rectify(levels[0]);
  const mixed = { ...levels[0], at: spare.at };
  point([levels[0]], mixed, Written.rectified);
  const out: Layer = { ...levels[0], channels: OUTPUTS };
  point([mixed], out, Written.plain);
  return taken(engine, out, width, height);
}

/** Copies planes into a layer that may be larger; beyond their border they go on as at it. */
function fill(
  { memory }: Engine,
  { at, channels, width, height, stride }: Layer,
  planes: Float32Array,
  w: number,
  h: number,
): void {
  for (let c = 0; c < channels; c++) {
    for (let y = 0; y < height; y++) {
      const from = c * w * h + Math.min(h - 1, y) * w;
      const to = at + c * stride + y * width;
      memory.set(planes.subarray(from, from + w), to);
      if (w < width) memory.fill(planes[from + w - 1], to + w, to + width);
    }
  }
}

function taken({ memory }: Engine, { at, channels, width, stride }: Layer, w: number, h: number): Float32Array {
  const out = new Float32Array(channels * w * h);
  for (let c = 0; c < channels; c++)
    for (let y = 0; y < h; y++)
      out.set(memory.subarray(at + c * stride + y * width, at + c * stride + y * width + w), (c * h + y) * w);
  return out;
}
