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
import { growFur, growPlume } from './trimmings.ts';
import { drawVeil } from './veil.ts';

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
      {
        centre: [figure.hand[0] - 0.035, figure.hand[1] + 0.21, -0.1],
        halfWidth: 0.165,
        halfHeight: 0.2,
        angle: 0.22,
        cloth: [
          [0.82, 0.8, 0.76],
          [0.86, 0.42, 0.3],
        ],
        coverage: 0.55,
        hand: figure.hand,
        seed: subject.seed,
      },
      view,
      lights,
    );
  }
  const tufts = [{ strands, colour: subject.hair.colour }];
  if (subject.fur) tufts.push({ strands: growFur(subject), colour: subject.fur });
  if (subject.plume) tufts.push({ strands: growPlume(subject), colour: subject.plume });
  const drawn = tufts.map((tuft) => drawStrands(tuft.strands, view, geometry, tuft.colour, lights));
  for (const { behind } of drawn) layOver(picture, behind);
  shadeBody(geometry, view, subject, figure, lights, picture);
  for (const { front } of drawn) layOver(picture, front);
  if (subject.prop === 'veil') drawVeil(picture, subject.seed, view, lights);
  return blurLens(picture, blur);
}

/** Where a strand is thinner than a pixel, fewer and wider ones look the same. */
function strandShare(scale: number): number {
  return Math.max(0.08, Math.min(1, (scale * STRAND_WIDTH) / 1.1));
}
const STRAND_WIDTH = 0.00024;

/** A 5-tap Gaussian along rows, then columns, over premultiplied values: what lens and sensor leave of an edge. */
function blurLens(picture: LinearRaster, sigma: number): LinearRaster {
  if (sigma <= 0) return picture;
  const { width, height, data } = picture;
  const taps = [0, 1, 2].map((d) => Math.exp(-(d * d) / (2 * sigma * sigma)));
  const total = taps[0] + 2 * (taps[1] + taps[2]);
  const [w0, w1, w2] = taps.map((t) => t / total);
  const stride = width * 4;
  // What is empty stays empty: of each row only the columns with something in them are worked on.
  const { left, right } = occupied(picture);
  // Five rows, each blurred along, go round; the picture itself is overwritten behind them.
  const ring = Array.from({ length: 5 }, () => new Float32Array(stride));
  const along = (y: number): void => {
    const row = ring[(y + 5) % 5];
    row.fill(0);
    const from = Math.max(0, Math.min(height - 1, y));
    const start = from * stride;
    const last = right[from];
    for (let x = left[from]; x <= last; x++) {
      const m = start + x * 4;
      const a = m - Math.min(2, x) * 4;
      const b = m - Math.min(1, x) * 4;
      const c = m + Math.min(1, width - 1 - x) * 4;
      const d = m + Math.min(2, width - 1 - x) * 4;
      const o = x * 4;
      row[o] = w0 * data[m] + w1 * (data[b] + data[c]) + w2 * (data[a] + data[d]);
      row[o + 1] = w0 * data[m + 1] + w1 * (data[b + 1] + data[c + 1]) + w2 * (data[a + 1] + data[d + 1]);
      row[o + 2] = w0 * data[m + 2] + w1 * (data[b + 2] + data[c + 2]) + w2 * (data[a + 2] + data[d + 2]);
      row[o + 3] = w0 * data[m + 3] + w1 * (data[b + 3] + data[c + 3]) + w2 * (data[a + 3] + data[d + 3]);
    }
  };
  for (let y = -2; y < 2; y++) along(y);
  for (let y = 0; y < height; y++) {
    along(y + 2);
    const up2 = ring[(y + 3) % 5];
    const up1 = ring[(y + 4) % 5];
    const here = ring[y % 5];
    const down1 = ring[(y + 1) % 5];
    const down2 = ring[(y + 2) % 5];
    let first = width;
    let last = -1;
    for (let k = Math.max(0, y - 2); k <= Math.min(height - 1, y + 2); k++) {
      first = Math.min(first, left[k]);
      last = Math.max(last, right[k]);
    }
    const o = y * stride;
    for (let i = first * 4; i < last * 4 + 4; i++)
      data[o + i] = w0 * here[i] + w1 * (up1[i] + down1[i]) + w2 * (up2[i] + down2[i]);
  }
  return picture;
}

/**
 * First and last column of each row with coverage in them and two pixels to spare; first is behind last in an empty
 * row.
 */
function occupied({ width, height, data }: LinearRaster): { left: Int32Array; right: Int32Array } {
  const left = new Int32Array(height).fill(width);
  const right = new Int32Array(height).fill(-1);
  for (let y = 0; y < height; y++) {
    const row = y * width * 4 + 3;
    let first = 0;
    while (first < width && data[row + first * 4] === 0) first++;
    if (first === width) continue;
    let last = width - 1;
    while (data[row + last * 4] === 0) last--;
    left[y] = Math.max(0, first - 2);
    right[y] = Math.min(width - 1, last + 2);
  }
  return { left, right };
}
