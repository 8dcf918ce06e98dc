// Steps over whole reduced planes: growing, averages and maxima of squares, nearest features. The same arithmetic stands in
// core/image, and both give the same bits. All places are byte offsets that the caller lays out.

/** Where the caller's data may begin. */
export function firstPlace(): i32 {
  return (<i32>__heap_base + 15) & ~15;
}

/** Grows what equals `target` by `reach` ≤ 250 pixels along rows, then columns. `since` holds a row, padded to 16 bytes. */
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
 * Greatest values of squares. `padded` holds (width + 2·radius + 4) · (height + 2·radius) floats, filled with −∞ and the
 * plane in its middle; windows of doubled length are folded together, along rows and then columns.
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

/** Nearest set pixel of a mask, by two passes each way. `squared` becomes the distance, `index` the pixel, −1 for none. */
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
