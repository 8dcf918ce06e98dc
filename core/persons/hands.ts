import { linearTable } from '../colour/transfer.ts';
import { components } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import { createMask, whiteLevel, type EncodedRaster, type Mask } from '../image/raster.ts';
import type { Extent } from '../place/placement.ts';
import type { Face } from './faces.ts';
import { isSkin, logColour, skinOf, type LogColour, type Skin } from './skin.ts';

export const bounds = {
  /** Cells that the smallest face is high; at the most so many pixels are looked at for one. */
  faceCells: 24,
  /** Coverage from which a cell is the person alone. */
  covered: 0.9,
  /** What belongs to head and neck, in heights of the face from its middle: beside, above and below. */
  beside: 1.1,
  above: 1.6,
  below: 2,
  /** Area of a hand in areas of the face, least and greatest; what is larger is a limb, of which the end is the hand. */
  least: 0.12,
  most: 1.3,
  /** Half a hand, and how far an arm reaches, in heights of the face. */
  half: 0.5,
  reach: 6.5,
};

/** The colour of each cell; undefined where nobody is. */
interface Cells {
  width: number;
  height: number;
  colours: (LogColour | undefined)[];
}

/**
 * Where hands are in a cut: patches of the faces’ own skin away from head and neck, and the ends of bare arms. Gloves
 * and hands before a face are not found; a knee or foot that is as near may be.
 * @param cutout straight RGBA.
 * @returns boxes as shares of the frame.
 */
export function handsIn(cutout: EncodedRaster & { channels: 4 }, faces: readonly Face[]): Extent[] {
  if (!faces.length) return [];
  const smallest = Math.min(...faces.map((face) => face.height * cutout.height));
  const cells = cellsOf(cutout, Math.max(1, Math.floor(smallest / bounds.faceCells)));
  const skin = skinIn(cells, faces);
  const found: Extent[] = [];
  // What the frame cuts off already cannot be kept whole.
  for (const { pixels, touchesBorder } of components(growMask(growMask(skin, -1), 1))) {
    if (touchesBorder) continue;
    const face = nearest(faces, cells, pixels);
    const high = face.height * cells.height;
    const areas = pixels.length / (face.width * cells.width * high);
    if (areas < bounds.least) continue;
    const ends = areas <= bounds.most ? pixels : endOf(cells, pixels, face);
    if (ends.length) found.push(boxOf(cells, ends));
  }
  return found;
}

function cellsOf({ width, height, data, ...rest }: EncodedRaster, side: number): Cells {
  const across = Math.floor(width / side);
  const down = Math.floor(height / side);
  const table = linearTable(data);
  const white = whiteLevel({ width, height, data, ...rest });
  const colours: Cells['colours'] = [];
  // Every other pixel tells enough.
  const step = Math.max(1, side >> 2);
  for (let y = 0; y < down; y++) {
    for (let x = 0; x < across; x++) {
      const sum = [0, 0, 0, 0];
      let count = 0;
      for (let py = y * side; py < (y + 1) * side; py += step)
        for (let px = x * side; px < (x + 1) * side; px += step, count++) {
          const i = (py * width + px) * 4;
          for (let k = 0; k < 3; k++) sum[k] += table[data[i + k]];
          sum[3] += data[i + 3] / white;
        }
      const [r, g, b] = sum.map((v) => v / count);
      colours.push(sum[3] < bounds.covered * count ? undefined : logColour(r, g, b));
    }
  }
  return { width: across, height: down, colours };
}

/** 1 where a cell has the skin of one of the faces and is no part of a head or neck. */
function skinIn(cells: Cells, faces: readonly Face[]): Mask {
  const { width, height, colours } = cells;
  const mask = createMask(width, height);
  for (const face of faces) {
    const skin = skinAt(cells, face);
    if (!skin) continue;
    colours.forEach((colour, c) => {
      if (colour && isSkin(colour, skin)) mask.data[c] = 1;
    });
  }
  for (const face of faces) {
    const high = face.height * height;
    const [x, y] = [(face.x + face.width / 2) * width, (face.y + face.height / 2) * height];
    const from = Math.max(0, Math.floor(y - bounds.above * high));
    const to = Math.min(height, Math.ceil(y + bounds.below * high));
    const left = Math.max(0, Math.floor(x - bounds.beside * high));
    const right = Math.min(width, Math.ceil(x + bounds.beside * high));
    for (let row = from; row < to; row++) mask.data.fill(0, row * width + left, row * width + right);
  }
  return mask;
}

/** The skin of a face between brows and mouth. */
function skinAt({ width, height, colours }: Cells, face: Face): Skin | undefined {
  const [left, right] = [face.x + 0.25 * face.width, face.x + 0.75 * face.width].map((x) => Math.floor(x * width));
  const [top, bottom] = [face.y + 0.3 * face.height, face.y + 0.75 * face.height].map((y) => Math.floor(y * height));
  const at: LogColour[] = [];
  for (let y = Math.max(0, top); y <= Math.min(height - 1, bottom); y++)
    for (let x = Math.max(0, left); x <= Math.min(width - 1, right); x++) {
      const colour = colours[y * width + x];
      if (colour) at.push(colour);
    }
  return skinOf(at);
}

function nearest(faces: readonly Face[], cells: Cells, pixels: Int32Array): Face {
  const { x, y, width, height } = boxOf(cells, pixels);
  const far = (face: Face): number =>
    Math.hypot((face.eyesX - x - width / 2) * cells.width, (face.eyesY - y - height / 2) * cells.height);
  return faces.reduce((best, face) => (far(face) < far(best) ? face : best));
}

/** The end of a limb that lies farthest from the face it belongs to; nothing if an arm does not reach so far. */
function endOf(cells: Cells, pixels: Int32Array, face: Face): number[] {
  const high = face.height * cells.height;
  const x = (face.x + face.width / 2) * cells.width;
  const y = (face.y + face.height) * cells.height + high / 2;
  const far = (c: number): number => Math.hypot((c % cells.width) - x, Math.floor(c / cells.width) - y);
  const end = pixels.reduce((best, c) => (far(c) > far(best) ? c : best), pixels[0]);
  if (far(end) > bounds.reach * high) return [];
  const near = (c: number): boolean =>
    Math.hypot((c % cells.width) - (end % cells.width), Math.floor(c / cells.width) - Math.floor(end / cells.width)) <
    2 * bounds.half * high;
  return [...pixels].filter(near);
}

function boxOf({ width, height }: Cells, pixels: ArrayLike<number>): Extent {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let n = 0; n < pixels.length; n++) {
    const x = pixels[n] % width;
    const y = Math.floor(pixels[n] / width);
    left = Math.min(left, x);
    right = Math.max(right, x + 1);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y + 1);
  }
  return { x: left / width, y: top / height, width: (right - left) / width, height: (bottom - top) / height };
}
