const f = Math.fround;

/**
 * Bilinear sample of three interleaved channels at pixel-centre coordinates, clamped at the border; single precision.
 */
export function sampleBilinear(
  data: Float32Array,
  width: number,
  height: number,
  x: number,
  y: number,
  out: Float32Array,
): void {
  const cx = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
  const cy = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const fx = f(cx - x0);
  const fy = f(cy - y0);
  const a = (y0 * width + x0) * 3;
  const right = x0 + 1 < width ? 3 : 0;
  const down = y0 + 1 < height ? width * 3 : 0;
  const wa = f(f(1 - fx) * f(1 - fy));
  const wb = f(fx * f(1 - fy));
  const wc = f(f(1 - fx) * fy);
  const wd = f(fx * fy);
  for (let c = 0; c < 3; c++) {
    const o = a + c;
    out[c] = f(
      f(f(f(wa * data[o]) + f(wb * data[o + right])) + f(wc * data[o + down])) + f(wd * data[o + down + right]),
    );
  }
}
