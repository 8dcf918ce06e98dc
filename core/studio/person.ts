import { createLinear, type LinearRaster } from '../image/raster.ts';
import { layOver } from './layOver.ts';
import { seededRandom } from '../random.ts';
import { buildFigure, type Subject } from './figure.ts';
import { drawKite } from './kite.ts';
import type { Lights } from './lights.ts';
import { traceBody, type View } from './march.ts';
import { shadeBody } from './shade.ts';
import { SolidField } from './solids.ts';
import { drawStrands, growHair } from './strands.ts';

/**
 * Paints one person with hair and prop under the given lights.
 * @param view where the centre of the head is and how large a metre is.
 * @param blur standard deviation of the lens blur, pixels.
 * @returns premultiplied linear RGBA.
 */
export function paintPerson(subject: Subject, view: View, lights: Lights, blur: number): LinearRaster {
  const { width, height } = view;
  const figure = buildFigure(subject, seededRandom(subject.seed));
  const body = new SolidField(figure.solids);
  const geometry = traceBody(body, view, lights.key.direction);
  const strands = growHair(subject, figure, body, strandShare(view.scale));
  const picture = createLinear(width, height, 4);
  if (subject.prop === 'kite') {
    drawKite(
      picture,
      { centre: [figure.hand[0] - 0.035, figure.hand[1] + 0.21, -0.1], halfWidth: 0.165, halfHeight: 0.2, angle: 0.22, cloth: [[0.82, 0.8, 0.76], [0.86, 0.42, 0.3]], coverage: 0.55, hand: figure.hand, seed: subject.seed },
      view,
      lights,
    );
  }
  const front = createLinear(width, height, 4);
  drawStrands(picture, front, strands, view, geometry, subject.hair.colour, lights);
  shadeBody(geometry, view, subject, figure, lights, picture);
  layOver(picture, front);
  return blurLens(picture, blur);
}

/** Where a strand is much thinner than a pixel, fewer and wider ones look the same. */
function strandShare(scale: number): number {
  return Math.max(0.08, Math.min(1, (scale * STRAND_WIDTH) / 0.9));
}
const STRAND_WIDTH = 0.00024;

/** A 5-tap Gaussian along rows, then columns, over premultiplied values: what lens and sensor leave of an edge. */
function blurLens(picture: LinearRaster, sigma: number): LinearRaster {
  if (sigma <= 0) return picture;
  const { width, height } = picture;
  const taps = [0, 1, 2].map((d) => Math.exp(-(d * d) / (2 * sigma * sigma)));
  const total = taps[0] + 2 * (taps[1] + taps[2]);
  const [w0, w1, w2] = taps.map((t) => t / total);
  const { data } = picture;
  const stride = width * 4;
  // What is empty stays empty: only the columns and rows with something in them are worked on.
  const { left, right, top, bottom } = occupied(picture);
  // Five rows, each blurred along, go round; the picture itself is overwritten behind them.
  const ring = Array.from({ length: 5 }, () => new Float32Array(stride));
  const along = (y: number): Float32Array => {
    const row = ring[(y + 5) % 5];
    const start = Math.max(0, Math.min(height - 1, y)) * stride;
    for (let x = left; x <= right; x++) {
      const m = start + x * 4;
      const a = m - Math.min(2, x) * 4;
      const b = m - Math.min(1, x) * 4;
      const c = m + Math.min(1, width - 1 - x) * 4;
      const d = m + Math.min(2, width - 1 - x) * 4;
      for (let k = 0; k < 4; k++) row[x * 4 + k] = w0 * data[m + k] + w1 * (data[b + k] + data[c + k]) + w2 * (data[a + k] + data[d + k]);
    }
    return row;
  };
  for (let y = top - 2; y < top + 2; y++) along(y);
  for (let y = top; y <= bottom; y++) {
    const down2 = along(y + 2);
    const up2 = ring[(y + 3) % 5];
    const up1 = ring[(y + 4) % 5];
    const here = ring[y % 5];
    const down1 = ring[(y + 1) % 5];
    const o = y * stride;
    for (let i = left * 4; i < right * 4 + 4; i++) data[o + i] = w0 * here[i] + w1 * (up1[i] + down1[i]) + w2 * (up2[i] + down2[i]);
  }
  return picture;
}

/** The smallest rectangle with all coverage in it and two pixels to spare. */
function occupied({ width, height, data }: LinearRaster): { left: number; right: number; top: number; bottom: number } {
  let left = width;
  let right = -1;
  let top = height;
  let bottom = -1;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (data[(y * width + x) * 4 + 3] === 0) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
    }
  }
  return { left: Math.max(0, left - 2), right: Math.min(width - 1, right + 2), top: Math.max(0, top - 2), bottom: Math.min(height - 1, bottom + 2) };
}
