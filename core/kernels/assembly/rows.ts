// Reading and unmixing of fringe pixels, row by row, four at a time. Compiled to WebAssembly with SIMD; the same
// arithmetic in the same order stands in core/cut/plainRows.ts, and both give the same bits.

/** Rows of the frame that are held, and rows of colour pairs; powers of two. */
const RING: i32 = 8;
const PAIR_RING: i32 = 4;
const LANES: i32 = 4;

let width: i32 = 0;
let height: i32 = 0;
let channels: i32 = 0;
let wide: bool = false;
let across: i32 = 0;
let down: i32 = 0;
let halved: bool = false;
let factor: f64 = 1;
let cellsAcross: i32 = 0;
let cellsDown: i32 = 0;
let candidateCount: i32 = 0;
let rowBytes: i32 = 0;
let pairsAcross: i32 = 0;
let white: f32 = 255;
let least: f32 = 0;
let inverse: f32 = 0;
let kappa: f32 = 0;
let kappaNeutral: f32 = 0;
let neutralCost: f32 = 0;
let pairCost: f32 = 0;
let provenSlack: f32 = 0;

let rowsAt: i32 = 0;
let tableAt: i32 = 0;
let screenAt: i32 = 0;
let candidatesAt: i32 = 0;
let candidateBytes: i32 = 0;
let xsAt: i32 = 0;
let cellsAt: i32 = 0;
let readingAt: i32 = 0;
let backAt: i32 = 0;
let nearAt: i32 = 0;
let coverageAt: i32 = 0;
let errorAt: i32 = 0;
let apartAt: i32 = 0;
let foreAt: i32 = 0;
let plane: i32 = 0;
let pairRowAt: i32 = 0;
let pairsAt: i32 = 0;
let slopeRowAt: i32 = 0;
let slopesAt: i32 = 0;
let scratchAt: i32 = 0;

let end: i32 = 0;
function place(bytes: i32): i32 {
  const at = end;
  end += (bytes + 31) & ~15;
  return at;
}

/** Lays out the memory for a frame. Returns how many bytes it needs; nothing is touched yet. */
export function layout(w: i32, h: i32, channelCount: i32, sixteen: bool, pairAcross: i32, pairDown: i32, reduction: i32, cellsW: i32, cellsH: i32, candidates: i32): i32 {
  width = w;
  height = h;
  channels = channelCount;
  wide = sixteen;
  across = pairAcross;
  down = pairDown;
  halved = across >= 0 && down >= 0;
  factor = <f64>reduction;
  cellsAcross = cellsW;
  cellsDown = cellsH;
  candidateCount = candidates;
  rowBytes = w * channelCount * (sixteen ? 2 : 1);
  pairsAcross = (w >> 1) + 2;
  const cells = cellsW * cellsH;
  end = (<i32>__heap_base + 15) & ~15;
  rowsAt = place(RING * rowBytes);
  tableAt = place((sixteen ? 65536 : 256) * 4);
  screenAt = place(cells * 12);
  candidateBytes = (cells * 12 + 15) & ~15;
  candidatesAt = place(candidates * candidateBytes);
  plane = (w + LANES) * 4;
  xsAt = place(plane);
  cellsAt = place(plane);
  readingAt = place(3 * plane);
  backAt = place(3 * plane);
  nearAt = place(w + LANES);
  coverageAt = place(plane);
  errorAt = place(plane);
  apartAt = place(plane);
  foreAt = place(3 * plane);
  pairRowAt = place(PAIR_RING * pairsAcross * 4);
  pairsAt = place(PAIR_RING * pairsAcross * 16);
  slopeRowAt = place(PAIR_RING * pairsAcross * 4);
  slopesAt = place(PAIR_RING * pairsAcross * 8);
  scratchAt = place((candidates + 3) * 32);
  return end;
}

/** Numbers of the solver, and forgetting of what an earlier frame left. */
export function prepare(whiteLevel: f32, leastVariance: f32, inverseVariance: f32, brightness: f32, brightnessNeutral: f32, costOfNeutral: f32, costOfPair: f32, slack: f32): void {
  white = whiteLevel;
  least = leastVariance;
  inverse = inverseVariance;
  kappa = brightness;
  kappaNeutral = brightnessNeutral;
  neutralCost = costOfNeutral;
  pairCost = costOfPair;
  provenSlack = slack;
  memory.fill(pairRowAt, 0xff, PAIR_RING * pairsAcross * 4);
  memory.fill(slopeRowAt, 0xff, PAIR_RING * pairsAcross * 4);
  memory.fill(xsAt, 0, nearAt - xsAt);
}

export function rowsPointer(): i32 { return rowsAt; }
export function tablePointer(): i32 { return tableAt; }
export function screenPointer(): i32 { return screenAt; }
export function candidatePointer(n: i32): i32 { return candidatesAt + n * candidateBytes; }
export function xsPointer(): i32 { return xsAt; }
export function cellsPointer(): i32 { return cellsAt; }
export function readingPointer(): i32 { return readingAt; }
export function backPointer(): i32 { return backAt; }
export function nearPointer(): i32 { return nearAt; }
export function coveragePointer(): i32 { return coverageAt; }
export function errorPointer(): i32 { return errorAt; }
export function apartPointer(): i32 { return apartAt; }
export function forePointer(): i32 { return foreAt; }

// @ts-ignore: decorator
@inline
function byteAt(row: i32, i: i32): i32 {
  return wide ? <i32>load<u16>(row + (i << 1)) : <i32>load<u8>(row + i);
}

// @ts-ignore: decorator
@inline
function linear(encoded: f32): f32 {
  const level = encoded <= 0 ? 0 : encoded >= white ? <i32>white : <i32>(encoded + <f32>0.5);
  return load<f32>(tableAt + (level << 2));
}

/** Fills reading, screen and nearness for the first `count` pixels of row y. */
export function read(count: i32, y: i32, share: f32): void {
  let cy = (<f64>y + 0.5) / factor - 0.5;
  const lastRow = <f64>(cellsDown - 1);
  cy = cy < 0 ? 0 : cy > lastRow ? lastRow : cy;
  const y0 = <i32>cy;
  const fy = <f32>(cy - <f64>y0);
  const below = y0 + 1 < cellsDown ? cellsAcross * 12 : 0;
  const lastColumn = <f64>(cellsAcross - 1);
  const row = rowsAt + (y & (RING - 1)) * rowBytes;
  const g1 = channels === 1 ? 0 : 1;
  const b1 = channels === 1 ? 0 : 2;
  const middle = halved && y >= 4 && y < height - 4;
  for (let k = 0; k < count; k++) {
    const x = load<i32>(xsAt + (k << 2));
    let cx = (<f64>x + 0.5) / factor - 0.5;
    cx = cx < 0 ? 0 : cx > lastColumn ? lastColumn : cx;
    const x0 = <i32>cx;
    const fx = <f32>(cx - <f64>x0);
    const a = screenAt + (y0 * cellsAcross + x0) * 12;
    const right = x0 + 1 < cellsAcross ? 12 : 0;
    const wa = (<f32>1 - fx) * (<f32>1 - fy);
    const wb = fx * (<f32>1 - fy);
    const wc = (<f32>1 - fx) * fy;
    const wd = fx * fy;
    const B = f32x4.add(
      f32x4.add(f32x4.add(f32x4.mul(f32x4.splat(wa), v128.load(a)), f32x4.mul(f32x4.splat(wb), v128.load(a + right))), f32x4.mul(f32x4.splat(wc), v128.load(a + below))),
      f32x4.mul(f32x4.splat(wd), v128.load(a + below + right)),
    );
    const B0 = f32x4.extract_lane(B, 0);
    const B1 = f32x4.extract_lane(B, 1);
    const B2 = f32x4.extract_lane(B, 2);
    const to = k << 2;
    store<f32>(backAt + to, B0);
    store<f32>(backAt + plane + to, B1);
    store<f32>(backAt + 2 * plane + to, B2);
    const i = x * channels;
    const r = byteAt(row, i);
    const g = byteAt(row, i + g1);
    const b = byteAt(row, i + b1);
    const lr = load<f32>(tableAt + (r << 2));
    const lg = load<f32>(tableAt + (g << 2));
    const lb = load<f32>(tableAt + (b << 2));
    const near = abs<f32>(lg - B1) < share * (B1 + <f32>0.03) && abs<f32>(lr - B0) < share * (B0 + <f32>0.03) && abs<f32>(lb - B2) < share * (B2 + <f32>0.03);
    store<u8>(nearAt + k, near ? 1 : 0);
    if (!middle || x < 4 || x >= width - 4) {
      store<f32>(readingAt + to, lr);
      store<f32>(readingAt + plane + to, lg);
      store<f32>(readingAt + 2 * plane + to, lb);
      continue;
    }
    repair(<f32>r, <f32>g, <f32>b, x, y, readingAt + to);
  }
}

/** Colour brought back to full resolution: it follows brightness around an edge. */
function repair(r: f32, g: f32, b: f32, x: i32, y: i32, to: i32): void {
  const px = (x - across) >> 1;
  const py = (y - down) >> 1;
  const slope = slopesAt + (slopeOf(px, py) << 3);
  const luma = <f32>0.299 * r + <f32>0.587 * g + <f32>0.114 * b;
  const beside = (x - across) & 1 ? 16 : -16;
  const own = pairsAt + (((py & (PAIR_RING - 1)) * pairsAcross + px) << 4);
  const next = (y - down) & 1 ? py + 1 : py - 1;
  const other = pairsAt + (((next & (PAIR_RING - 1)) * pairsAcross + px) << 4);
  const blurred = (<f32>9 * load<f32>(own) + <f32>3 * load<f32>(own + beside) + <f32>3 * load<f32>(other) + load<f32>(other + beside)) * <f32>0.0625;
  const off = luma - blurred;
  const blue = b - luma + load<f32>(slope) * off;
  const red = r - luma + load<f32>(slope + 4) * off;
  store<f32>(to, linear(luma + red));
  store<f32>(to + plane, linear(luma - (<f32>0.299 * red + <f32>0.114 * blue) / <f32>0.587));
  store<f32>(to + 2 * plane, linear(luma + blue));
}

/** Least squares of colour on luma over a pair and the eight around it. */
function slopeOf(px: i32, py: i32): i32 {
  const at = (py & (PAIR_RING - 1)) * pairsAcross + px;
  if (load<i32>(slopeRowAt + (at << 2)) === py) return at;
  store<i32>(slopeRowAt + (at << 2), py);
  // Lanes: luma, blue, red. Around the middle pair's luma, or squares of small differences would drown in rounding.
  const from = f32x4.replace_lane(f32x4.splat(0), 0, load<f32>(pairsAt + (pairAt(px, py) << 4)));
  let sums = f32x4.splat(0);
  let products = f32x4.splat(0);
  for (let j = -1; j <= 1; j++) {
    for (let i = -1; i <= 1; i++) {
      const pair = f32x4.sub(v128.load(pairsAt + (pairAt(px + i, py + j) << 4)), from);
      sums = f32x4.add(sums, pair);
      products = f32x4.add(products, f32x4.mul(f32x4.splat(f32x4.extract_lane(pair, 0)), pair));
    }
  }
  const mean = f32x4.extract_lane(sums, 0) / <f32>9;
  const spread = f32x4.sub(products, f32x4.mul(sums, f32x4.splat(mean)));
  const scale = <f32>1 / (max<f32>(0, f32x4.extract_lane(spread, 0)) + least);
  store<f32>(slopesAt + (at << 3), f32x4.extract_lane(spread, 1) * scale);
  store<f32>(slopesAt + (at << 3) + 4, f32x4.extract_lane(spread, 2) * scale);
  return at;
}

/** A pair's luma, blue less luma and red less luma, as the encoder stored them, and an unused lane. */
function pairAt(px: i32, py: i32): i32 {
  const at = (py & (PAIR_RING - 1)) * pairsAcross + px;
  if (load<i32>(pairRowAt + (at << 2)) === py) return at;
  store<i32>(pairRowAt + (at << 2), py);
  const y = 2 * py + down;
  const p = (2 * px + across) * channels;
  const upper = rowsAt + (y & (RING - 1)) * rowBytes;
  const lower = rowsAt + ((y + 1) & (RING - 1)) * rowBytes;
  const red = <f32>(byteAt(upper, p) + byteAt(upper, p + channels) + byteAt(lower, p) + byteAt(lower, p + channels));
  const green = <f32>(byteAt(upper, p + 1) + byteAt(upper, p + channels + 1) + byteAt(lower, p + 1) + byteAt(lower, p + channels + 1));
  const blue = <f32>(byteAt(upper, p + 2) + byteAt(upper, p + channels + 2) + byteAt(lower, p + 2) + byteAt(lower, p + channels + 2));
  const luma = (<f32>0.299 * red + <f32>0.587 * green + <f32>0.114 * blue) * <f32>0.25;
  const to = pairsAt + (at << 4);
  store<f32>(to, luma);
  store<f32>(to + 4, blue * <f32>0.25 - luma);
  store<f32>(to + 8, red * <f32>0.25 - luma);
  return at;
}

// @ts-ignore: decorator
@inline
function times(a: v128, b: v128): v128 { return f32x4.mul(a, b); }
// @ts-ignore: decorator
@inline
function plus(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline
function minus(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline
function over(a: v128, b: v128): v128 { return f32x4.div(a, b); }
// @ts-ignore: decorator
@inline
function all(value: f32): v128 { return f32x4.splat(value); }

/** A candidate's channel for four pixels, which mostly lie in one reduced pixel. */
// @ts-ignore: decorator
@inline
function gather(from: i32, c0: i32, c1: i32, c2: i32, c3: i32): v128 {
  if (c0 === c3) return v128.load32_splat(from + c0);
  let v = v128.load32_zero(from + c0);
  v = v128.load_lane<f32>(from + c1, v, 1);
  v = v128.load_lane<f32>(from + c2, v, 2);
  return v128.load_lane<f32>(from + c3, v, 3);
}

/** Coverage that one channel alone proves. */
// @ts-ignore: decorator
@inline
function proven(I: v128, B: v128): v128 {
  const more = minus(I, B);
  const above = f32x4.gt(more, all(0));
  const allowed = v128.bitselect(f32x4.lt(B, all(0.9)), f32x4.gt(B, all(0.06)), above);
  return v128.and(allowed, over(f32x4.abs(more), v128.bitselect(minus(all(1), B), B, above)));
}

/** The lanes beyond the last pixel take its place. */
function fillLanes(count: i32): void {
  for (let k = count; k < count + LANES - 1; k++) store<i32>(cellsAt + (k << 2), load<i32>(cellsAt + ((count - 1) << 2)));
}

/** Solves the first `count` pixels that were read: coverage, the best candidate's error, and how far good answers lie apart. */
export function solve(count: i32): void {
  const one = all(1);
  fillLanes(count);
  for (let k = 0; k < count; k += LANES) {
    const o = k << 2;
    const I0 = v128.load(readingAt + o);
    const I1 = v128.load(readingAt + plane + o);
    const I2 = v128.load(readingAt + 2 * plane + o);
    const B0 = v128.load(backAt + o);
    const B1 = v128.load(backAt + plane + o);
    const B2 = v128.load(backAt + 2 * plane + o);
    const w0 = over(one, plus(times(all(0.5), plus(I0, B0)), all(0.03)));
    const w1 = over(one, plus(times(all(0.5), plus(I1, B1)), all(0.03)));
    const w2 = over(one, plus(times(all(0.5), plus(I2, B2)), all(0.03)));
    const wB0 = times(w0, B0);
    const wB1 = times(w1, B1);
    const wB2 = times(w2, B2);
    const BB = plus(plus(times(wB0, B0), times(wB1, B1)), times(wB2, B2));
    const BI = plus(plus(times(wB0, I0), times(wB1, I1)), times(wB2, I2));
    const II = plus(plus(times(times(w0, I0), I0), times(times(w1, I1), I1)), times(times(w2, I2), I2));
    const c0 = load<i32>(cellsAt + o) * 12;
    const c1 = load<i32>(cellsAt + o + 4) * 12;
    const c2 = load<i32>(cellsAt + o + 8) * 12;
    const c3 = load<i32>(cellsAt + o + 12) * 12;
    let bestError = all(Infinity);
    let leastCost = all(Infinity);
    for (let n = 0; n <= candidateCount; n++) {
      const neutral = n === candidateCount;
      const from = candidatesAt + n * candidateBytes;
      const F0 = neutral ? all(0.4) : gather(from, c0, c1, c2, c3);
      const F1 = neutral ? all(0.4) : gather(from + 4, c0, c1, c2, c3);
      const F2 = neutral ? all(0.4) : gather(from + 8, c0, c1, c2, c3);
      const K = all(neutral ? kappaNeutral : kappa);
      const wF0 = times(w0, F0);
      const wF1 = times(w1, F1);
      const wF2 = times(w2, F2);
      const FF = plus(plus(plus(times(wF0, F0), times(wF1, F1)), times(wF2, F2)), K);
      const FB = plus(plus(plus(times(wF0, B0), times(wF1, B1)), times(wF2, B2)), K);
      const FI = plus(plus(plus(times(wF0, I0), times(wF1, I1)), times(wF2, I2)), K);
      const bb = plus(BB, K);
      const bi = plus(BI, K);
      const whole = times(FF, bb);
      const det = minus(whole, times(FB, FB));
      const solvable = f32x4.gt(det, times(whole, all(1e-6)));
      let u = v128.and(solvable, over(minus(times(FF, bi), times(FB, FI)), det));
      u = f32x4.min(one, f32x4.max(all(0), u));
      const rest = f32x4.max(all(0), minus(FI, times(u, FB)));
      const residual = minus(plus(minus(plus(II, K), times(plus(u, u), bi)), times(times(u, u), bb)), over(times(rest, rest), FF));
      const error = times(f32x4.max(all(0), residual), all(inverse));
      bestError = f32x4.min(bestError, error);
      const cost = neutral ? plus(error, all(neutralCost)) : error;
      leastCost = f32x4.min(leastCost, cost);
      v128.store(scratchAt + (n << 5), cost);
      v128.store(scratchAt + (n << 5) + 16, minus(one, u));
    }
    // The nearest colour over the average one, and grey over the average: all are the person, so where they explain a pixel it is solid.
    const average = candidatesAt + (candidateCount - 1) * candidateBytes;
    const E0 = gather(average, c0, c1, c2, c3);
    const E1 = gather(average + 4, c0, c1, c2, c3);
    const E2 = gather(average + 8, c0, c1, c2, c3);
    const wE0 = times(w0, E0);
    const wE1 = times(w1, E1);
    const wE2 = times(w2, E2);
    const K = all(kappa);
    const EE = plus(plus(plus(times(wE0, E0), times(wE1, E1)), times(wE2, E2)), K);
    const EI = plus(plus(plus(times(wE0, I0), times(wE1, I1)), times(wE2, I2)), K);
    for (let n = 0; n < 2; n++) {
      const D0 = n ? all(0.4) : gather(candidatesAt, c0, c1, c2, c3);
      const D1 = n ? all(0.4) : gather(candidatesAt + 4, c0, c1, c2, c3);
      const D2 = n ? all(0.4) : gather(candidatesAt + 8, c0, c1, c2, c3);
      const wD0 = times(w0, D0);
      const wD1 = times(w1, D1);
      const wD2 = times(w2, D2);
      const DD = plus(plus(plus(times(wD0, D0), times(wD1, D1)), times(wD2, D2)), K);
      const DE = plus(plus(plus(times(wD0, E0), times(wD1, E1)), times(wD2, E2)), K);
      const DI = plus(plus(plus(times(wD0, I0), times(wD1, I1)), times(wD2, I2)), K);
      const area = times(DD, EE);
      const apart = minus(area, times(DE, DE));
      const d = minus(times(EE, DI), times(DE, EI));
      const e = minus(times(DD, EI), times(DE, DI));
      const possible = v128.and(v128.and(f32x4.gt(apart, times(area, all(1e-3))), f32x4.gt(d, all(0))), f32x4.gt(e, all(0)));
      const residual = f32x4.max(all(0), minus(plus(II, K), over(plus(times(d, DI), times(e, EI)), apart)));
      const error = v128.bitselect(times(residual, all(inverse)), all(1e6), possible);
      bestError = f32x4.min(bestError, error);
      const cost = plus(error, all(n ? neutralCost + pairCost : pairCost));
      leastCost = f32x4.min(leastCost, cost);
      const at = scratchAt + ((candidateCount + 1 + n) << 5);
      v128.store(at, cost);
      v128.store(at + 16, one);
    }
    let sum = all(0);
    let total = all(0);
    let low = one;
    let high = all(0);
    for (let n = 0; n <= candidateCount + 2; n++) {
      const worse = minus(v128.load(scratchAt + (n << 5)), leastCost);
      const a = v128.load(scratchAt + (n << 5) + 16);
      let weight = over(one, plus(one, times(worse, all(0.015625))));
      weight = times(weight, weight);
      weight = times(weight, weight);
      weight = times(weight, weight);
      weight = times(weight, weight);
      weight = times(weight, weight);
      sum = plus(sum, times(weight, a));
      total = plus(total, weight);
      const nearly = f32x4.le(worse, all(4));
      low = v128.bitselect(f32x4.min(low, a), low, nearly);
      high = v128.bitselect(f32x4.max(high, a), high, nearly);
    }
    const mean = f32x4.min(one, over(sum, total));
    v128.store(apartAt + o, minus(f32x4.max(high, mean), f32x4.min(low, mean)));
    v128.store(errorAt + o, bestError);
    const bound = f32x4.max(f32x4.max(proven(I0, B0), proven(I1, B1)), proven(I2, B2));
    v128.store(coverageAt + o, f32x4.max(mean, minus(bound, all(provenSlack))));
  }
}

// @ts-ignore: decorator
@inline
function blend(a: v128, b: v128, share: v128): v128 {
  const from = f32x4.min(all(1), a);
  return plus(from, times(share, minus(f32x4.min(all(1), f32x4.max(all(0), b)), from)));
}

/** Foreground colours of the first `count` pixels that were read, whose coverage stands in its plane. */
export function unmix(count: i32): void {
  fillLanes(count);
  for (let k = 0; k < count; k += LANES) {
    const o = k << 2;
    const a = v128.load(coverageAt + o);
    const through = minus(all(1), a);
    const I0 = v128.load(readingAt + o);
    const I1 = v128.load(readingAt + plane + o);
    const I2 = v128.load(readingAt + 2 * plane + o);
    const B0 = v128.load(backAt + o);
    const B1 = v128.load(backAt + plane + o);
    const B2 = v128.load(backAt + 2 * plane + o);
    const w0 = over(all(1), plus(times(all(0.5), plus(I0, B0)), all(0.03)));
    const w1 = over(all(1), plus(times(all(0.5), plus(I1, B1)), all(0.03)));
    const w2 = over(all(1), plus(times(all(0.5), plus(I2, B2)), all(0.03)));
    const r0 = minus(I0, times(through, B0));
    const r1 = minus(I1, times(through, B1));
    const r2 = minus(I2, times(through, B2));
    const wr0 = times(w0, r0);
    const wr1 = times(w1, r1);
    const wr2 = times(w2, r2);
    const prior = times(all(kappa), a);
    const whole = plus(plus(plus(times(wr0, r0), times(wr1, r1)), times(wr2, r2)), times(prior, a));
    const c0 = load<i32>(cellsAt + o) * 12;
    const c1 = load<i32>(cellsAt + o + 4) * 12;
    const c2 = load<i32>(cellsAt + o + 8) * 12;
    const c3 = load<i32>(cellsAt + o + 12) * 12;
    let least = all(Infinity);
    let F0 = all(0);
    let F1 = all(0);
    let F2 = all(0);
    for (let n = 0; n < candidateCount; n++) {
      const from = candidatesAt + n * candidateBytes;
      const C0 = gather(from, c0, c1, c2, c3);
      const C1 = gather(from + 4, c0, c1, c2, c3);
      const C2 = gather(from + 8, c0, c1, c2, c3);
      const CC = plus(plus(plus(times(times(w0, C0), C0), times(times(w1, C1), C1)), times(times(w2, C2), C2)), all(kappa));
      const Cr = f32x4.max(all(0), plus(plus(plus(times(wr0, C0), times(wr1, C1)), times(wr2, C2)), prior));
      const t = over(Cr, CC);
      const error = minus(whole, times(t, Cr));
      const better = f32x4.lt(error, least);
      least = v128.bitselect(error, least, better);
      F0 = v128.bitselect(times(t, C0), F0, better);
      F1 = v128.bitselect(times(t, C1), F1, better);
      F2 = v128.bitselect(times(t, C2), F2, better);
    }
    const c = f32x4.min(all(1), times(times(f32x4.max(all(0), least), all(inverse)), all(0.03125)));
    const own = times(times(c, c), minus(all(3), times(all(2), c)));
    const gain = over(all(1), a);
    v128.store(foreAt + o, blend(times(F0, gain), times(r0, gain), own));
    v128.store(foreAt + plane + o, blend(times(F1, gain), times(r1, gain), own));
    v128.store(foreAt + 2 * plane + o, blend(times(F2, gain), times(r2, gain), own));
  }
}
