import {
  PAIR_RING, RING, across, backAt, byteAt, cellsAcross, cellsDown, channels, down, factor, halved, height, least, nearAt, pairRowAt, pairsAcross, pairsAt, plane,
  readingAt, rowBytes, rowsAt, screenAt, slopeRowAt, slopesAt, tableAt, white, width, xsAt,
} from './layout';

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
