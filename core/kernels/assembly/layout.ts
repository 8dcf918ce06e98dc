// Where the values of a frame's rows lie in memory. What works on them, in reading.ts, solving.ts and finishing.ts,
// is compiled to
// WebAssembly with SIMD; the same arithmetic in the same order stands in core/cut/plainRows.ts, and both give the
// same bits.

/** Rows of the frame that are held, and rows of colour pairs; powers of two. */
export const RING: i32 = 8;
export const PAIR_RING: i32 = 4;
export const LANES: i32 = 4;
/** Points of the 16-bit curve, as in core/colour/transfer.ts. */
export const CURVE_STEPS: i32 = 16384;

export let width: i32 = 0;
export let height: i32 = 0;
export let channels: i32 = 0;
export let wide: bool = false;
export let across: i32 = 0;
export let down: i32 = 0;
export let halved: bool = false;
export let factor: f64 = 1;
export let reduction: i32 = 1;
export let cellsAcross: i32 = 0;
export let cellsDown: i32 = 0;
export let candidateCount: i32 = 0;
export let rowBytes: i32 = 0;
export let pairsAcross: i32 = 0;
export let white: f32 = 255;
export let least: f32 = 0;
export let inverse: f32 = 0;
export let kappa: f32 = 0;
export let kappaNeutral: f32 = 0;
export let neutralCost: f32 = 0;
export let pairCost: f32 = 0;
export let lighterSlack: f32 = 0;
export let darkerSlack: f32 = 0;
export let mostLit: f32 = 1;

export let rowsAt: i32 = 0;
export let tableAt: i32 = 0;
export let screenAt: i32 = 0;
export let candidatesAt: i32 = 0;
export let candidateBytes: i32 = 0;
export let xsAt: i32 = 0;
export let cellsAt: i32 = 0;
export let readingAt: i32 = 0;
export let backAt: i32 = 0;
export let nearAt: i32 = 0;
export let coverageAt: i32 = 0;
export let errorAt: i32 = 0;
export let apartAt: i32 = 0;
export let foreAt: i32 = 0;
export let plane: i32 = 0;
export let pairRowAt: i32 = 0;
export let pairsAt: i32 = 0;
export let slopeRowAt: i32 = 0;
export let slopesAt: i32 = 0;
export let scratchAt: i32 = 0;
export let quadAt: i32 = 0;
export let alphaAt: i32 = 0;
export let kindsAt: i32 = 0;
export let finalAt: i32 = 0;
export let encodeAt: i32 = 0;
export let amountAt: i32 = 0;
export let goneAt: i32 = 0;
export let pixelsAt: i32 = 0;

let end: i32 = 0;
function place(bytes: i32): i32 {
  const at = end;
  end += (bytes + 31) & ~15;
  return at;
}

/** Lays out the memory for a frame. Returns how many bytes it needs; nothing is touched yet. */
export function layout(w: i32, h: i32, channelCount: i32, sixteen: bool, pairAcross: i32, pairDown: i32, reducedBy: i32, cellsW: i32, cellsH: i32, candidates: i32): i32 {
  width = w;
  height = h;
  channels = channelCount;
  wide = sixteen;
  across = pairAcross;
  down = pairDown;
  halved = across >= 0 && down >= 0;
  reduction = reducedBy;
  factor = <f64>reducedBy;
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
  quadAt = place(48);
  alphaAt = place(w * 2);
  kindsAt = place(cells);
  finalAt = place(65536 * 2);
  encodeAt = place(sixteen ? (CURVE_STEPS + 2) * 4 : 65536);
  amountAt = place(w * 4);
  goneAt = place(w);
  pixelsAt = place(w * (sixteen ? 8 : 4));
  return end;
}

/** Numbers of the solver, and forgetting of what an earlier frame left. */
export function prepare(whiteLevel: f32, leastVariance: f32, inverseVariance: f32, brightness: f32, brightnessNeutral: f32, costOfNeutral: f32, costOfPair: f32, slackOfLighter: f32, slackOfDarker: f32, lit: f32): void {
  white = whiteLevel;
  least = leastVariance;
  inverse = inverseVariance;
  kappa = brightness;
  kappaNeutral = brightnessNeutral;
  neutralCost = costOfNeutral;
  pairCost = costOfPair;
  lighterSlack = slackOfLighter;
  darkerSlack = slackOfDarker;
  mostLit = lit;
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
export function alphaPointer(): i32 { return alphaAt; }
export function kindsPointer(): i32 { return kindsAt; }
export function finalPointer(): i32 { return finalAt; }
export function encodePointer(): i32 { return encodeAt; }
export function amountPointer(): i32 { return amountAt; }
export function gonePointer(): i32 { return goneAt; }
export function pixelsPointer(): i32 { return pixelsAt; }

// @ts-ignore: decorator
@inline
export function byteAt(row: i32, i: i32): i32 {
  return wide ? <i32>load<u16>(row + (i << 1)) : <i32>load<u8>(row + i);
}
