import {
  CURVE_STEPS, alphaAt, amountAt, backAt, byteAt, candidateBytes, candidateCount, candidatesAt, cellsAcross, cellsAt, channels, coverageAt, encodeAt, finalAt, foreAt, goneAt,
  kindsAt, pixelsAt, plane, readingAt, reduction, RING, rowBytes, rowsAt, tableAt, wide, width, xsAt,
} from './layout';

/** Bits of a reduced pixel's kind, as in core/cut/finishRows.ts. */
const BEYOND: i32 = 1;
const KEPT: i32 = 2;
const BESIDE: i32 = 4;
const SHEER: i32 = 8;
/** Ways of taking spill away, in the order of \`spillMethods\`. */
const SHARE: i32 = 0;
const LARGER: i32 = 1;
const AVERAGE: i32 = 2;
const GREYING: i32 = 3;

let blue: bool = false;
let larger: f64 = 0;
let mean: f64 = 0;
let way: i32 = 0;

/**
 * @param blueScreen whether the screen's channel is blue.
 * @param byLarger weight of the larger other channel in the limit of a lead.
 */
export function prepareFinish(blueScreen: bool, byLarger: f64, spillMethod: i32): void {
  blue = blueScreen;
  larger = byLarger;
  mean = (1 - byLarger) * 0.5;
  way = spillMethod;
}

let hues: f64 = 3;
let fade: f64 = 0;
let replaced: f64 = 0;
let tint0: f64 = 1;
let tint1: f64 = 1;
let tint2: f64 = 1;

/** Of which hues spill is taken and what it leaves, as `SpillWay` in core/cut/spill.ts says it. */
export function prepareSpill(near: f64, over: f64, share: f64, r: f64, g: f64, b: f64): void {
  hues = near;
  fade = over;
  replaced = share;
  tint0 = r;
  tint1 = g;
  tint2 = b;
}

/** Hue in sixths of the circle; below 0 for grey. */
function hueOf(r: f64, g: f64, b: f64): f64 {
  const most = max<f64>(r, max<f64>(g, b));
  const range = most - min<f64>(r, min<f64>(g, b));
  if (!(range > 0)) return -1;
  if (most === r) return (g - b) / range + (g < b ? 6.0 : 0.0);
  return most === g ? 2 + (b - r) / range : 4 + (r - g) / range;
}

function shareByHue(B0: f64, B1: f64, B2: f64): f64 {
  if (hues >= 3) return 1;
  const own = hueOf(<f64>F0, <f64>F1, <f64>F2);
  const screen = hueOf(B0, B1, B2);
  if (own < 0 || screen < 0) return 1;
  const way = abs<f64>(own - screen);
  const beyond = (way > 3 ? 6 - way : way) - hues;
  if (beyond <= 0) return 1;
  return beyond < fade ? 1 - beyond / fade : 0;
}

/** Draws the colour to the tint as far as it was spill. */
function drawToTint(excess: f64): void {
  const level = luminance();
  if (!(level > 0)) return;
  const share = (replaced * excess) / (excess + level);
  F0 = <f32>(<f64>F0 + share * (level * tint0 - <f64>F0));
  F1 = <f32>(<f64>F1 + share * (level * tint1 - <f64>F1));
  F2 = <f32>(<f64>F2 + share * (level * tint2 - <f64>F2));
  limitTo1();
}

// @ts-ignore: decorator
@inline
function limitOf(r: f64, other: f64): f64 {
  return larger * max<f64>(r, other) + mean * (r + other);
}

/**
 * Writes the pixels of row y that stay as photographed. Returns how many are left to be computed, listed in xs and
 * cells.
 */
export function sort(y: i32): i32 {
  const row = rowsAt + (y & (RING - 1)) * rowBytes;
  const g1 = channels === 1 ? 0 : 1;
  const b1 = channels === 1 ? 0 : 2;
  memory.fill(pixelsAt, 0, width * (wide ? 8 : 4));
  let count = 0;
  let cell = (y / reduction) * cellsAcross;
  for (let x = 0; x < width; cell++) {
    const end = min(width, x + reduction);
    const kind = <i32>load<u8>(kindsAt + cell);
    const beyond = (kind & BEYOND) !== 0;
    const kept = (kind & KEPT) !== 0;
    for (; x < end; x++) {
      const raw = <i32>load<u16>(alphaAt + (x << 1));
      const alpha = <i32>load<u16>(finalAt + (raw << 1));
      if (alpha === 0) continue;
      const i = x * channels;
      const r = byteAt(row, i);
      const g = byteAt(row, i + g1);
      const b = byteAt(row, i + b1);
      if (!beyond && (raw < 65535 || ((!kept || load<u8>(goneAt + x) === 1) && isTinted(r, g, b)))) {
        store<i32>(xsAt + (count << 2), x);
        store<i32>(cellsAt + (count << 2), cell);
        store<f32>(coverageAt + (count << 2), <f32>(<f64>raw / 65535.0));
        count++;
      }
      write(x, r, g, b, alpha);
    }
  }
  return count;
}

// @ts-ignore: decorator
@inline
function isTinted(r: i32, g: i32, b: i32): bool {
  const key = blue ? b : g;
  const other = blue ? g : b;
  // At most the mean of the others as encoded: then it is in linear light too, and nothing leads.
  if (2 * key <= r + other) return false;
  return <f64>light(key) > limitOf(<f64>light(r), <f64>light(other));
}

// @ts-ignore: decorator
@inline
function light(encoded: i32): f32 {
  return load<f32>(tableAt + (encoded << 2));
}

// @ts-ignore: decorator
@inline
function write(x: i32, r: i32, g: i32, b: i32, alpha: i32): void {
  if (wide) store<u64>(pixelsAt + (x << 3), <u64>r | (<u64>g << 16) | (<u64>b << 32) | (<u64>alpha << 48));
  else store<i32>(pixelsAt + (x << 2), r | (g << 8) | (b << 16) | (alpha << 24));
}

let F0: f32 = 0;
let F1: f32 = 0;
let F2: f32 = 0;

/** Writes the colours of the first \`count\` listed pixels of row y, unmixed before. */
export function colour(count: i32, y: i32): void {
  const row = rowsAt + (y & (RING - 1)) * rowBytes;
  const g1 = channels === 1 ? 0 : 1;
  const b1 = channels === 1 ? 0 : 2;
  const nearest = candidatesAt + min(1, candidateCount - 1) * candidateBytes;
  for (let k = 0; k < count; k++) {
    const o = k << 2;
    const x = load<i32>(xsAt + o);
    const cell = load<i32>(cellsAt + o);
    const kind = <i32>load<u8>(kindsAt + cell);
    const raw = <i32>load<u16>(alphaAt + (x << 1));
    const solid = raw === 65535;
    const B0 = load<f32>(backAt + o);
    const B1 = load<f32>(backAt + plane + o);
    const B2 = load<f32>(backAt + 2 * plane + o);
    if (solid) {
      const i = x * channels;
      F0 = light(byteAt(row, i));
      F1 = light(byteAt(row, i + g1));
      F2 = light(byteAt(row, i + b1));
    } else if (kind & SHEER) {
      const a = <f64>raw / 65535.0;
      F0 = remainder(load<f32>(readingAt + o), B0, a);
      F1 = remainder(load<f32>(readingAt + plane + o), B1, a);
      F2 = remainder(load<f32>(readingAt + 2 * plane + o), B2, a);
    } else {
      F0 = load<f32>(foreAt + o);
      F1 = load<f32>(foreAt + plane + o);
      F2 = load<f32>(foreAt + 2 * plane + o);
    }
    const all = load<u8>(goneAt + x) === 1;
    if (!solid && (kind & (KEPT | BESIDE | SHEER)) === 0) takeStray(nearest + cell * 12, B0, B1, B2, <f64>load<f32>(amountAt + (x << 2)));
    if ((kind & KEPT) === 0 || all) {
      const lead = <f64>(blue ? F2 : F1) - limitOf(<f64>F0, <f64>(blue ? F1 : F2));
      if (lead > 0) {
        const near = nearest + cell * 12;
        const allowed = all || (kind & BESIDE) === 0 ? 0.0 : keyOf(load<f32>(near), load<f32>(near + 4), load<f32>(near + 8));
        removeSpill(lead, <f64>B0, <f64>B1, <f64>B2, <f64>load<f32>(amountAt + (x << 2)), allowed);
      }
    }
    write(x, encode(F0), encode(F1), encode(F2), <i32>load<u16>(finalAt + (raw << 1)));
  }
}

// @ts-ignore: decorator
@inline
function remainder(reading: f32, back: f32, a: f64): f32 {
  return <f32>min<f64>(1, max<f64>(0, (<f64>reading - (1 - a) * <f64>back) / a));
}

// @ts-ignore: decorator
@inline
function keyOf(r: f32, g: f32, b: f32): f64 {
  return blue ? <f64>b - <f64>max<f32>(r, g) : <f64>g - <f64>max<f32>(r, b);
}

/** Takes what misjudged coverage left of the screen; see core/cut/spill.ts. */
function takeStray(near: i32, B0: f32, B1: f32, B2: f32, amount: f64): void {
  const a = <f64>load<f32>(near);
  const green = <f64>load<f32>(near + 4);
  const b = <f64>load<f32>(near + 8);
  const other = blue ? green : b;
  const here = <f64>F0 * other;
  const there = <f64>(blue ? F1 : F2) * a;
  if (min<f64>(here, there) < 0.6 * max<f64>(here, there)) return;
  const own = min<f64>(1, max<f64>(0.55, (blue ? b : green) / max<f64>(1e-4, limitOf(a, blue ? green : b))));
  const back = <f64>(blue ? B2 : B1);
  const stray = amount * min<f64>(<f64>(blue ? F2 : F1) - own * limitOf(<f64>F0, <f64>(blue ? F1 : F2)), 0.05 * back);
  if (!(stray > 0)) return;
  const share = stray / back;
  F0 = <f32>max<f64>(0, <f64>F0 - share * <f64>B0);
  F1 = <f32>max<f64>(0, <f64>F1 - share * <f64>B1);
  F2 = <f32>max<f64>(0, <f64>F2 - share * <f64>B2);
}

// @ts-ignore: decorator
@inline
function luminance(): f64 {
  return 0.2126 * <f64>F0 + 0.7152 * <f64>F1 + 0.0722 * <f64>F2;
}

/** Takes the screen's light from the colour. */
function removeSpill(lead: f64, B0: f64, B1: f64, B2: f64, amount: f64, allowed: f64): void {
  const excess = amount * shareByHue(B0, B1, B2) * (lead - (allowed > 0 ? allowed : 0));
  if (excess <= 0) return;
  if (way === LARGER || way === AVERAGE) {
    if (blue) F2 = <f32>(<f64>F2 - excess);
    else F1 = <f32>(<f64>F1 - excess);
  } else if (way === GREYING) {
    const grey = luminance();
    const share = min<f64>(1, excess / max<f64>(1e-5, <f64>(blue ? F2 : F1) - grey));
    F0 = <f32>(<f64>F0 + share * (grey - <f64>F0));
    F1 = <f32>(<f64>F1 + share * (grey - <f64>F1));
    F2 = <f32>(<f64>F2 + share * (grey - <f64>F2));
  } else if (way === SHARE) {
    const keyB = (blue ? B2 : B1) - limitOf(B0, blue ? B1 : B2);
    if (keyB <= 1e-4) return;
    const before = luminance();
    const gone = excess / keyB;
    F0 = <f32>max<f64>(0, <f64>F0 - gone * B0);
    F1 = <f32>max<f64>(0, <f64>F1 - gone * B1);
    F2 = <f32>max<f64>(0, <f64>F2 - gone * B2);
    // The bounce was light, but eyes miss the brightness more than they minded the tint: half of it is given back.
    const after = luminance();
    const gain = after > 1e-5 ? sqrt<f64>(min<f64>(2, before / after)) : 1;
    F0 = <f32>(<f64>F0 * gain);
    F1 = <f32>(<f64>F1 * gain);
    F2 = <f32>(<f64>F2 * gain);
    limitTo1();
  } else {
    F0 = <f32>(<f64>F0 + excess);
    if (blue) F1 = <f32>(<f64>F1 + excess);
    else F2 = <f32>(<f64>F2 + excess);
    limitTo1();
  }
  if (replaced > 0) drawToTint(excess);
}

// @ts-ignore: decorator
@inline
function limitTo1(): void {
  F0 = min<f32>(1, F0);
  F1 = min<f32>(1, F1);
  F2 = min<f32>(1, F2);
}

/** Linear light as an sRGB integer. */
// @ts-ignore: decorator
@inline
function encode(linear: f32): i32 {
  if (!(linear > 0)) return 0;
  if (linear >= 1) return wide ? 65535 : 255;
  if (!wide) return <i32>load<u8>(encodeAt + <i32>(<f64>linear * 65535 + 0.5));
  const at = <f64>linear * <f64>CURVE_STEPS;
  const n = <i32>at;
  const from = <f64>load<f32>(encodeAt + (n << 2));
  const to = <f64>load<f32>(encodeAt + (n << 2) + 4);
  return <i32>(from + (at - <f64>n) * (to - from) + 0.5);
}
