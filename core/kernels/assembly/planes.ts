// Steps over whole reduced planes: growing, averages and maxima of squares, nearest features. The same arithmetic
// stands in
// core/image, and both give the same bits. All places are byte offsets that the caller lays out.

/** Where the caller's data may begin. */
export function firstPlace(): i32 {
  return (<i32>__heap_base + 15) & ~15;
}

/**
 * Grows what equals `target` by `reach` ≤ 250 pixels along rows, then columns. `since` holds a row, padded to 16 bytes.
 */
export function grow(source: i32, rows: i32, since: i32, out: i32, width: i32, height: i32, reach: i32, target: i32): void {
  const other = 1 - target;
  for (let y = 0; y < height; y++) {
    const start = y * width;
    let steps = reach + 1;
    for (let i = start; i < start + width; i++) {
      steps = <i32>load<u8>(source + i) === target ? 0 : steps + 1;
      store<u8>(rows + i, steps <= reach ? target : other);
    }
    steps = reach + 1;
    for (let i = start + width - 1; i >= start; i--) {
      steps = <i32>load<u8>(source + i) === target ? 0 : steps + 1;
      if (steps <= reach) store<u8>(rows + i, target);
    }
  }
  memory.fill(since, <u8>(reach + 1), width + 16);
  for (let y = 0; y < height; y++) growRow(rows + y * width, since, out + y * width, width, reach, target, false);
  memory.fill(since, <u8>(reach + 1), width + 16);
  for (let y = height - 1; y >= 0; y--) growRow(rows + y * width, since, out + y * width, width, reach, target, true);
}

function growRow(source: i32, since: i32, out: i32, width: i32, reach: i32, target: i32, onto: bool): void {
  const wanted = i8x16.splat(<i8>target);
  const other = i8x16.splat(<i8>(1 - target));
  const far = i8x16.splat(<i8>reach);
  const one = i8x16.splat(1);
  let x = 0;
  for (; x + 16 <= width; x += 16) {
    const met = i8x16.eq(v128.load(source + x), wanted);
    const steps = v128.andnot(i8x16.add_sat_u(v128.load(since + x), one), met);
    v128.store(since + x, steps);
    const near = i8x16.le_u(steps, far);
    v128.store(out + x, v128.bitselect(wanted, onto ? v128.load(out + x) : other, near));
  }
  for (; x < width; x++) {
    const before = <i32>load<u8>(since + x);
    const steps = <i32>load<u8>(source + x) === target ? 0 : min(255, before + 1);
    store<u8>(since + x, steps);
    if (steps <= reach) store<u8>(out + x, target);
    else if (!onto) store<u8>(out + x, 1 - target);
  }
}

/** Mean over squares, by running sums along rows, then columns; `sums` holds a row of doubles. */
export function blur(source: i32, rows: i32, sums: i32, out: i32, width: i32, height: i32, radius: i32): void {
  for (let y = 0; y < height; y++) blurRow(source + y * width * 4, rows + y * width * 4, width, radius);
  let count = min(height, radius + 1);
  memory.fill(sums, 0, width * 8);
  for (let y = 0; y < count; y++) {
    for (let x = 0; x < width; x++) store<f64>(sums + (x << 3), load<f64>(sums + (x << 3)) + <f64>load<f32>(rows + ((y * width + x) << 2)));
  }
  for (let y = 0; y < height; y++) {
    const share = 1.0 / <f64>count;
    const enters = y + radius + 1 < height;
    const leaves = y - radius >= 0;
    const enter = rows + (y + radius + 1) * width * 4;
    const leave = rows + (y - radius) * width * 4;
    const to = out + y * width * 4;
    for (let x = 0; x < width; x++) {
      const o = x << 2;
      const sum = load<f64>(sums + (x << 3));
      store<f32>(to + o, <f32>(sum * share));
      store<f64>(sums + (x << 3), sum + (enters ? <f64>load<f32>(enter + o) : 0) - (leaves ? <f64>load<f32>(leave + o) : 0));
    }
    count += (enters ? 1 : 0) - (leaves ? 1 : 0);
  }
}

function blurRow(source: i32, out: i32, length: i32, radius: i32): void {
  let sum: f64 = 0;
  let count = min(length, radius + 1);
  let share = 1.0 / <f64>count;
  for (let i = 0; i < count; i++) sum += <f64>load<f32>(source + (i << 2));
  for (let i = 0; i < length; i++) {
    store<f32>(out + (i << 2), <f32>(sum * share));
    const enter = i + radius + 1;
    const leave = i - radius;
    if (enter < length) {
      sum += <f64>load<f32>(source + (enter << 2));
      count++;
    }
    if (leave >= 0) {
      sum -= <f64>load<f32>(source + (leave << 2));
      count--;
    }
    if (enter >= length || leave < 0) share = 1.0 / <f64>count;
  }
}

/**
 * Greatest values of squares. `padded` holds (width + 2·radius + 4) · (height + 2·radius) floats, filled with −∞ and
 * the plane in its middle; windows of doubled length are folded together, along rows and then columns.
 */
export function greatest(padded: i32, out: i32, width: i32, height: i32, radius: i32): void {
  const stride = (width + 2 * radius + 4) << 2;
  const down = height + 2 * radius;
  const length = 2 * radius + 1;
  let reached = 1;
  for (; reached * 2 <= length; reached *= 2) fold(padded, stride, down, width + 2 * radius - reached, reached << 2);
  if (reached < length) fold(padded, stride, down, width, (length - reached) << 2);
  reached = 1;
  for (; reached * 2 <= length; reached *= 2) fold(padded, stride, down - reached, width, reached * stride);
  if (reached < length) fold(padded, stride, height, width, (length - reached) * stride);
  for (let y = 0; y < height; y++) memory.copy(out + y * width * 4, padded + y * stride, width * 4);
}

/** Each value becomes the greater of itself and the one `ahead` bytes further on. */
function fold(at: i32, stride: i32, rows: i32, columns: i32, ahead: i32): void {
  for (let y = 0; y < rows; y++) {
    const row = at + y * stride;
    let x = 0;
    for (; x + 4 <= columns; x += 4) v128.store(row + (x << 2), f32x4.max(v128.load(row + (x << 2)), v128.load(row + (x << 2) + ahead)));
    for (; x < columns; x++) store<f32>(row + (x << 2), max<f32>(load<f32>(row + (x << 2)), load<f32>(row + (x << 2) + ahead)));
  }
}

let xsAt: i32 = 0;
let ysAt: i32 = 0;
let squaredAt: i32 = 0;

// @ts-ignore: decorator
@inline
function take(x: i32, y: i32, i: i32, from: i32): void {
  const fx = <i32>load<i16>(xsAt + (from << 1));
  if (fx < 0) return;
  const fy = <i32>load<i16>(ysAt + (from << 1));
  const dx = x - fx;
  const dy = y - fy;
  const d = <f32>(dx * dx + dy * dy);
  if (d >= load<f32>(squaredAt + (i << 2))) return;
  store<f32>(squaredAt + (i << 2), d);
  store<i16>(xsAt + (i << 1), fx);
  store<i16>(ysAt + (i << 1), fy);
}

/**
 * Nearest set pixel of a mask, by two passes each way. `squared` becomes the distance, `index` the pixel, −1 for none.
 */
export function nearest(mask: i32, xs: i32, ys: i32, squared: i32, index: i32, width: i32, height: i32): void {
  xsAt = xs;
  ysAt = ys;
  squaredAt = squared;
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const set = load<u8>(mask + i) !== 0;
      store<i16>(xs + (i << 1), set ? x : -1);
      store<i16>(ys + (i << 1), set ? y : 0);
      store<f32>(squared + (i << 2), set ? 0 : Infinity);
    }
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      const i = row + x;
      if (load<u8>(mask + i)) continue;
      if (y > 0) {
        take(x, y, i, i - width);
        if (x > 0) take(x, y, i, i - width - 1);
        if (x < width - 1) take(x, y, i, i - width + 1);
      }
      if (x > 0) take(x, y, i, i - 1);
    }
    for (let x = width - 2; x >= 0; x--) if (!load<u8>(mask + row + x)) take(x, y, row + x, row + x + 1);
  }
  for (let y = height - 1; y >= 0; y--) {
    const row = y * width;
    for (let x = width - 1; x >= 0; x--) {
      const i = row + x;
      if (load<u8>(mask + i)) continue;
      if (y < height - 1) {
        take(x, y, i, i + width);
        if (x > 0) take(x, y, i, i + width - 1);
        if (x < width - 1) take(x, y, i, i + width + 1);
      }
      if (x < width - 1) take(x, y, i, i + 1);
    }
    for (let x = 1; x < width; x++) if (!load<u8>(mask + row + x)) take(x, y, row + x, row + x - 1);
  }
  for (let i = 0; i < width * height; i++) {
    const x = <i32>load<i16>(xs + (i << 1));
    store<i32>(index + (i << 2), x < 0 ? -1 : <i32>load<i16>(ys + (i << 1)) * width + x);
    store<f32>(squared + (i << 2), sqrt<f32>(load<f32>(squared + (i << 2))));
  }
}

/**
 * RGBA of 8 bit over one tone, in place. `level` is the tone's red, green and blue in linear light, `tone` its opaque
 * pixel.
 */
export function overTone(pixels: i32, count: i32, table: i32, encode: i32, level: i32, tone: i32): void {
  const r = <f64>load<f32>(level);
  const g = <f64>load<f32>(level + 4);
  const b = <f64>load<f32>(level + 8);
  for (let at = pixels, end = pixels + (count << 2); at < end; at += 4) {
    const pixel = load<u32>(at);
    const alpha = pixel >> 24;
    if (alpha === 255) continue;
    if (alpha === 0) {
      store<i32>(at, tone);
      continue;
    }
    const a = <f64>alpha / 255;
    const red = mixed(table, encode, pixel & 255, a, r);
    const green = mixed(table, encode, (pixel >> 8) & 255, a, g);
    const blue = mixed(table, encode, (pixel >> 16) & 255, a, b);
    store<u32>(at, red | (green << 8) | (blue << 16) | 0xff000000);
  }
}

// @ts-ignore: decorator
@inline
function mixed(table: i32, encode: i32, level: u32, a: f64, behind: f64): u32 {
  return <u32>load<u8>(encode + <i32>((a * <f64>load<f32>(table + (level << 2)) + (1 - a) * behind) * 65535 + 0.5));
}

/**
 * One row of blocks, averaged in linear light, every \`step\`th pixel each way. \`rows\` holds its \`count\` rows of
 * the picture, values of two bytes if \`wide\`; \`out\` takes red, green and blue as floats.
 */
export function reduce(rows: i32, count: i32, width: i32, channels: i32, wide: bool, factor: i32, step: i32, table: i32, out: i32): void {
  const size = wide ? 2 : 1;
  const pixel = channels * size;
  const green = channels === 1 ? 0 : size;
  const blue = channels === 1 ? 0 : 2 * size;
  const taken = (count + step - 1) / step;
  for (let x0 = 0; x0 < width; x0 += factor, out += 12) {
    const x1 = min(width, x0 + factor);
    let r: f64 = 0;
    let g: f64 = 0;
    let b: f64 = 0;
    for (let y = 0; y < count; y += step) {
      let at = rows + (y * width + x0) * pixel;
      for (let x = x0; x < x1; x += step, at += pixel * step) {
        r += <f64>light(table, at, wide);
        g += <f64>light(table, at + green, wide);
        b += <f64>light(table, at + blue, wide);
      }
    }
    const scale = 1 / <f64>(((x1 - x0 + step - 1) / step) * taken);
    store<f32>(out, <f32>(r * scale));
    store<f32>(out + 4, <f32>(g * scale));
    store<f32>(out + 8, <f32>(b * scale));
  }
}

// @ts-ignore: decorator
@inline
function light(table: i32, at: i32, wide: bool): f32 {
  return load<f32>(table + ((wide ? <i32>load<u16>(at) : <i32>load<u8>(at)) << 2));
}

/** Terms of a cubic surface, and room for them. */
const TERMS: i32 = 10;

/** Sums of the normal equations of a cubic surface, as in core/screen/polynomial.ts; returns the sum of the weights. */
export function sumNormal(points: i32, count: i32, terms: i32, normal: i32, right: i32): f64 {
  memory.fill(normal, 0, TERMS * TERMS * 8);
  memory.fill(right, 0, TERMS * 8);
  let total: f64 = 0;
  for (let at = points, end = points + (count << 5); at < end; at += 32) {
    const w = load<f64>(at + 24);
    if (w === 0) continue;
    total += w;
    const x = load<f64>(at);
    const y = load<f64>(at + 8);
    const z = load<f64>(at + 16);
    store<f64>(terms, 1);
    store<f64>(terms + 8, x);
    store<f64>(terms + 16, y);
    store<f64>(terms + 24, x * x);
    store<f64>(terms + 32, x * y);
    store<f64>(terms + 40, y * y);
    store<f64>(terms + 48, x * x * x);
    store<f64>(terms + 56, x * x * y);
    store<f64>(terms + 64, x * y * y);
    store<f64>(terms + 72, y * y * y);
    for (let i = 0; i < TERMS; i++) {
      const weighted = w * load<f64>(terms + (i << 3));
      store<f64>(right + (i << 3), load<f64>(right + (i << 3)) + weighted * z);
      // Two at a time; what lies below the diagonal is written over later.
      const pair = f64x2.splat(weighted);
      for (let j = i & ~1; j < TERMS; j += 2) {
        const to = normal + ((i * TERMS + j) << 3);
        v128.store(to, f64x2.add(v128.load(to), f64x2.mul(pair, v128.load(terms + (j << 3)))));
      }
    }
  }
  return total;
}
