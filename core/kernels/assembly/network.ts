// Layers of the sorting network (core/cut/sorter), on planes of single precision. The same arithmetic in the same
// order stands in
// core/cut/sorter/engine.ts, and both give the same bits. Places are byte offsets; planes of a layer follow each
// other `stride` bytes apart,
// a multiple of 16.

/** Each channel by its own 3 × 3 taps, nothing beyond the border. `weights`: nine taps a channel, then a bias each. */
export function depthwise(source: i32, out: i32, channels: i32, width: i32, height: i32, stride: i32, weights: i32): void {
  const biases = weights + channels * 36;
  for (let c = 0; c < channels; c++) {
    const from = source + c * stride;
    const to = out + c * stride;
    const taps = weights + c * 36;
    const bias = load<f32>(biases + (c << 2));
    for (let y = 0; y < height; y++) tapRow(from, to, taps, bias, y, width, height);
  }
}

function tapRow(from: i32, to: i32, taps: i32, bias: f32, y: i32, width: i32, height: i32): void {
  const row = width << 2;
  const first = y > 0 ? -1 : 0;
  const last = y < height - 1 ? 1 : 0;
  const line = from + y * row;
  let x = 0;
  tap(line, to + y * row, taps, bias, 0, first, last, width, row);
  for (x = 1; x + 4 < width; x += 4) {
    let sum = f32x4.splat(bias);
    for (let k = first; k <= last; k++) {
      const at = line + k * row + (x << 2);
      const t = taps + (k + 1) * 12;
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(t), v128.load(at - 4)));
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(t, 4), v128.load(at)));
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(t, 8), v128.load(at + 4)));
    }
    v128.store(to + y * row + (x << 2), sum);
  }
  for (; x < width; x++) tap(line, to + y * row, taps, bias, x, first, last, width, row);
}

function tap(line: i32, to: i32, taps: i32, bias: f32, x: i32, first: i32, last: i32, width: i32, row: i32): void {
  let sum = bias;
  for (let k = first; k <= last; k++) {
    for (let j = -1; j <= 1; j++) {
      if (x + j < 0 || x + j >= width) continue;
      sum += load<f32>(taps + ((k + 1) * 3 + j + 1) * 4) * load<f32>(line + k * row + ((x + j) << 2));
    }
  }
  store<f32>(to + (x << 2), sum);
}

/** Ways that a layer's result is written: as it is, no less than zero, and that added to what stands there. */
const RECTIFIED: i32 = 1;
const ADDED: i32 = 2;

/**
 * Mixes channels at each place. `weights`: for each of the `into` channels one for each of the `from`, then a bias
 * each; `into` is a multiple of four, `count` of values of a plane too. `more` further source channels lie at `second`.
 */
export function pointwise(source: i32, from: i32, second: i32, more: i32, out: i32, into: i32, count: i32, stride: i32, weights: i32, mode: i32): void {
  const all = from + more;
  const biases = weights + all * into * 4;
  const one = all << 2;
  for (let p = 0; p < count << 2; p += 16) {
    for (let k = 0; k < into; k += 4) {
      const w = weights + k * one;
      let a = v128.load32_splat(biases + (k << 2));
      let b = v128.load32_splat(biases + (k << 2), 4);
      let c = v128.load32_splat(biases + (k << 2), 8);
      let d = v128.load32_splat(biases + (k << 2), 12);
      let at = source + p;
      let t = w;
      for (let n = 0; n < from; n++, at += stride, t += 4) {
        const value = v128.load(at);
        a = f32x4.add(a, f32x4.mul(v128.load32_splat(t), value));
        b = f32x4.add(b, f32x4.mul(v128.load32_splat(t + one), value));
        c = f32x4.add(c, f32x4.mul(v128.load32_splat(t + 2 * one), value));
        d = f32x4.add(d, f32x4.mul(v128.load32_splat(t + 3 * one), value));
      }
      at = second + p;
      for (let n = 0; n < more; n++, at += stride, t += 4) {
        const value = v128.load(at);
        a = f32x4.add(a, f32x4.mul(v128.load32_splat(t), value));
        b = f32x4.add(b, f32x4.mul(v128.load32_splat(t + one), value));
        c = f32x4.add(c, f32x4.mul(v128.load32_splat(t + 2 * one), value));
        d = f32x4.add(d, f32x4.mul(v128.load32_splat(t + 3 * one), value));
      }
      const to = out + k * stride + p;
      write(to, a, mode);
      write(to + stride, b, mode);
      write(to + 2 * stride, c, mode);
      write(to + 3 * stride, d, mode);
    }
  }
}

// @ts-ignore: decorator
@inline
function write(to: i32, value: v128, mode: i32): void {
  if (mode & RECTIFIED) value = f32x4.max(value, f32x4.splat(0));
  if (mode & ADDED) value = f32x4.add(v128.load(to), value);
  v128.store(to, value);
}

/** Means of 2 × 2 places; `width` and `height` of the source, both even. */
export function halve(source: i32, out: i32, channels: i32, width: i32, height: i32, stride: i32, outStride: i32): void {
  const half = width >> 1;
  for (let c = 0; c < channels; c++) {
    for (let y = 0; y < height >> 1; y++) {
      let at = source + c * stride + y * 2 * (width << 2);
      let to = out + c * outStride + y * (half << 2);
      for (let x = 0; x < half; x++, at += 8, to += 4) {
        store<f32>(to, (load<f32>(at) + load<f32>(at, 4) + load<f32>(at + (width << 2)) + load<f32>(at + (width << 2), 4)) * 0.25);
      }
    }
  }
}

/** Adds to `out`, twice as large, the source drawn smoothly over it; `width` and `height` of the source. */
export function raise(source: i32, out: i32, channels: i32, width: i32, height: i32, stride: i32, outStride: i32): void {
  for (let c = 0; c < channels; c++) {
    const from = source + c * stride;
    for (let y = 0; y < height << 1; y++) {
      const own = y >> 1;
      const beside = y & 1 ? min(height - 1, own + 1) : max(0, own - 1);
      const near = from + own * (width << 2);
      const far = from + beside * (width << 2);
      const to = out + c * outStride + y * (width << 3);
      let before: f32 = load<f32>(near) * 0.75 + load<f32>(far) * 0.25;
      let at = before;
      for (let x = 0; x < width; x++) {
        const next = min(width - 1, x + 1) << 2;
        const after: f32 = load<f32>(near + next) * 0.75 + load<f32>(far + next) * 0.25;
        const o = to + (x << 3);
        store<f32>(o, load<f32>(o) + (at * 0.75 + before * 0.25));
        store<f32>(o, load<f32>(o, 4) + (at * 0.75 + after * 0.25), 4);
        before = at;
        at = after;
      }
    }
  }
}

/** No value of `count` is left below zero. */
export function rectify(at: i32, count: i32): void {
  for (let p = at, end = at + (count << 2); p < end; p += 16) v128.store(p, f32x4.max(v128.load(p), f32x4.splat(0)));
}
