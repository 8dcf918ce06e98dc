import { boxBlur } from './boxBlur.ts';
import { createPlane, type LinearRaster, type Plane } from './raster.ts';

/**
 * A plane brought to the outlines of a picture: in each window it is the linear function of red, green and blue that
 * fits it best (He, Sun and Tang 2013, "Guided Image Filtering", colour guidance).
 * @param radius of the window, pixels, at least 1.
 * @param least added to the variances of colour: where it varies by less, the plane is only averaged.
 */
export function guidedFilter(
  { width, height, data }: LinearRaster,
  plane: Plane,
  radius: number,
  least: number,
): Plane {
  const count = width * height;
  const made = (value: (p: number) => number): Plane => {
    const out = createPlane(width, height);
    for (let p = 0; p < count; p++) out.data[p] = value(p);
    return out;
  };
  const mean = (value: (p: number) => number): Float32Array => boxBlur(made(value), radius).data;
  const channels = [0, 1, 2].map((c) => mean((p) => data[p * 3 + c]));
  const middle = mean((p) => plane.data[p]);
  const products = [
    [0, 0],
    [0, 1],
    [0, 2],
    [1, 1],
    [1, 2],
    [2, 2],
  ].map(([a, b]) => mean((p) => data[p * 3 + a] * data[p * 3 + b]));
  const with0 = [0, 1, 2].map((c) => mean((p) => data[p * 3 + c] * plane.data[p]));
  const slopes = [createPlane(width, height), createPlane(width, height), createPlane(width, height)];
  const offset = createPlane(width, height);
  for (let p = 0; p < count; p++) {
    const [r, g, b] = [channels[0][p], channels[1][p], channels[2][p]];
    const rr = products[0][p] - r * r + least;
    const rg = products[1][p] - r * g;
    const rb = products[2][p] - r * b;
    const gg = products[3][p] - g * g + least;
    const gb = products[4][p] - g * b;
    const bb = products[5][p] - b * b + least;
    const cr = with0[0][p] - r * middle[p];
    const cg = with0[1][p] - g * middle[p];
    const cb = with0[2][p] - b * middle[p];
    // The inverse of a symmetric 3 × 3 matrix by its cofactors.
    const i00 = gg * bb - gb * gb;
    const i01 = rb * gb - rg * bb;
    const i02 = rg * gb - rb * gg;
    const scale = 1 / (rr * i00 + rg * i01 + rb * i02);
    const i11 = rr * bb - rb * rb;
    const i12 = rg * rb - rr * gb;
    const i22 = rr * gg - rg * rg;
    slopes[0].data[p] = scale * (i00 * cr + i01 * cg + i02 * cb);
    slopes[1].data[p] = scale * (i01 * cr + i11 * cg + i12 * cb);
    slopes[2].data[p] = scale * (i02 * cr + i12 * cg + i22 * cb);
    offset.data[p] = middle[p] - slopes[0].data[p] * r - slopes[1].data[p] * g - slopes[2].data[p] * b;
  }
  const [sr, sg, sb] = slopes.map((slope) => boxBlur(slope, radius).data);
  const rest = boxBlur(offset, radius).data;
  return made((p) => sr[p] * data[p * 3] + sg[p] * data[p * 3 + 1] + sb[p] * data[p * 3 + 2] + rest[p]);
}
