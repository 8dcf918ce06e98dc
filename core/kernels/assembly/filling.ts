// Filling of unknown places and of samples, on reduced planes of red, green and blue. The same arithmetic stands in
// core/image/fillUnknown.ts
// and core/cut/candidates.ts, and both give the same bits. All places are byte offsets that the caller lays out.

/** Bytes that all coarser levels of a picture need. */
export function coarserBytes(width: i32, height: i32): i32 {
  let bytes = 0;
  while (width > 1 || height > 1) {
    width = (width + 1) >> 1;
    height = (height + 1) >> 1;
    bytes += width * height * 16;
  }
  return bytes;
}

/** Fills a picture where its weight is below 1; `coarser` is room for its coarser levels. */
export function pushPull(data: i32, weight: i32, width: i32, height: i32, coarser: i32): void {
  if ((width === 1 && height === 1) || !hasGaps(weight, width * height)) return;
  const halfWidth = (width + 1) >> 1;
  const halfHeight = (height + 1) >> 1;
  const cells = halfWidth * halfHeight;
  const coarse = coarser;
  const coarseWeight = coarse + cells * 12;
  memory.fill(coarse, 0, cells * 16);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const w = load<f32>(weight + (i << 2));
      if (w === 0) continue;
      const o = (y >> 1) * halfWidth + (x >> 1);
      add(coarseWeight + (o << 2), <f64>w);
      const from = data + i * 12;
      const to = coarse + o * 12;
      add(to, <f64>w * <f64>load<f32>(from));
      add(to + 4, <f64>w * <f64>load<f32>(from + 4));
      add(to + 8, <f64>w * <f64>load<f32>(from + 8));
    }
  }
  for (let o = 0; o < cells; o++) {
    const w = load<f32>(coarseWeight + (o << 2));
    if (w === 0) continue;
    const to = coarse + o * 12;
    store<f32>(to, load<f32>(to) / w);
    store<f32>(to + 4, load<f32>(to + 4) / w);
    store<f32>(to + 8, load<f32>(to + 8) / w);
    if (w > 1) store<f32>(coarseWeight + (o << 2), 1);
  }
  pushPull(coarse, coarseWeight, halfWidth, halfHeight, coarseWeight + cells * 4);
  for (let y = 0; y < height; y++) pullRow(data, weight, width, y, coarse, halfWidth, halfHeight);
}

function hasGaps(weight: i32, count: i32): bool {
  for (let at = weight, end = weight + (count << 2); at < end; at += 4) if (load<f32>(at) < 1) return true;
  return false;
}

// @ts-ignore: decorator
@inline
function add(at: i32, value: f64): void {
  store<f32>(at, <f32>(<f64>load<f32>(at) + value));
}

function pullRow(data: i32, weight: i32, width: i32, y: i32, coarse: i32, halfWidth: i32, halfHeight: i32): void {
  const sy = max<f64>(0, min<f64>(<f64>(halfHeight - 1), (<f64>y - 0.5) / 2));
  const y0 = <i32>sy;
  const y1 = min(halfHeight - 1, y0 + 1);
  const fy = sy - <f64>y0;
  for (let x = 0; x < width; x++) {
    const i = y * width + x;
    const w = <f64>load<f32>(weight + (i << 2));
    if (w >= 1) continue;
    const sx = max<f64>(0, min<f64>(<f64>(halfWidth - 1), (<f64>x - 0.5) / 2));
    const x0 = <i32>sx;
    const fx = sx - <f64>x0;
    const step = x0 + 1 < halfWidth ? 12 : 0;
    const above = coarse + (y0 * halfWidth + x0) * 12;
    const below = coarse + (y1 * halfWidth + x0) * 12;
    for (let c = 0; c < 12; c += 4) {
      const k = data + i * 12 + c;
      const top = <f64>load<f32>(above + c) * (1 - fx) + <f64>load<f32>(above + step + c) * fx;
      const bottom = <f64>load<f32>(below + c) * (1 - fx) + <f64>load<f32>(below + step + c) * fx;
      store<f32>(k, <f32>(w * <f64>load<f32>(k) + (1 - w) * (top * (1 - fy) + bottom * fy)));
    }
    store<f32>(weight + (i << 2), 1);
  }
}

/**
 * Means over the purer half of the sure pixels in squares around the `count` listed ones, into `out` at their places.
 */
export function purer(list: i32, count: i32, data: i32, solid: i32, leans: i32, out: i32, width: i32, height: i32, radius: i32): void {
  for (let n = 0; n < count; n++) {
    const p = load<i32>(list + (n << 2));
    const x = p % width;
    const y = p / width;
    const y0 = max(0, y - radius);
    const y1 = min(height - 1, y + radius);
    const x0 = max(0, x - radius);
    const x1 = min(width - 1, x + radius);
    let mean: f64 = 0;
    let sure = 0;
    for (let yy = y0; yy <= y1; yy++) {
      for (let q = yy * width + x0, end = yy * width + x1; q <= end; q++) {
        if (load<u8>(solid + q) === 0) continue;
        mean += <f64>load<f32>(leans + (q << 2));
        sure++;
      }
    }
    const most = mean / <f64>sure + 1e-6;
    let r: f64 = 0;
    let g: f64 = 0;
    let b: f64 = 0;
    let taken = 0;
    for (let yy = y0; yy <= y1; yy++) {
      for (let q = yy * width + x0, end = yy * width + x1; q <= end; q++) {
        if (load<u8>(solid + q) === 0 || <f64>load<f32>(leans + (q << 2)) > most) continue;
        r += <f64>load<f32>(data + q * 12);
        g += <f64>load<f32>(data + q * 12 + 4);
        b += <f64>load<f32>(data + q * 12 + 8);
        taken++;
      }
    }
    store<f32>(out + p * 12, <f32>(r / <f64>taken));
    store<f32>(out + p * 12 + 4, <f32>(g / <f64>taken));
    store<f32>(out + p * 12 + 8, <f32>(b / <f64>taken));
  }
}
