import { boxBlur } from '../image/boxBlur.ts';
import { nearestFeature } from '../image/distance.ts';
import { growMask } from '../image/growMask.ts';
import { fillUnknown } from '../image/fillUnknown.ts';
import { lengthOf } from '../image/length.ts';
import { createLinear, createPlane, type LinearRaster, type Mask } from '../image/raster.ts';
import { Region } from './region.ts';
import type { Regions } from './regions.ts';

/** How many reduced pixels behind the nearest sure pixel of the person further samples are taken. */
const DEPTHS = [0, 6, 20];
/** Strands farther away than this share of the height say nothing about a place. */
const STRANDS_REACH = 0.15;
/** So near to kept cloth strands lie over it. */
const CLOTH_REACH = 0.008;

/**
 * Colours that the foreground may have at each fringe pixel, as fields at reduced size: the nearest sure pixel of the
 * person, two further inside along the same line (the rim is lit differently from what lies behind it), and a
 * smooth average of all that is sure nearby. They compete in the fringe solve; no single one is right everywhere.
 * Among strands only samples of strands count: skin mixed with the screen looks like fair hair, and kept green like any.
 * @param masses 1 in masses of hair. @param zone 1 in and around them.
 */
export function candidateFields(frame: LinearRaster, { solid, masses, zone, regions, kept, dyed }: Pick<Regions, 'solid' | 'masses' | 'zone' | 'regions' | 'kept' | 'dyed'>, channel: 1 | 2): LinearRaster[] {
  const { width, height } = frame;
  const average = fillUnknown(frame, solid);
  if (!solid.data.includes(1)) return [average];
  const any = nearestFeature(solid);
  const hair: Mask = { width, height, data: solid.data.map((v, p) => (v && masses.data[p] && (!kept.data[p] || dyed.data[p] === 1) ? 1 : 0)) };
  const ofHair = hair.data.includes(1) ? nearestFeature(hair) : any;
  const colourAt = purerAround(frame, solid.data, channel);
  const deep = growMask({ width, height, data: regions.data.map((v) => (v === Region.core ? 1 : 0)) }, -SOFT);
  const fields = DEPTHS.map(() => createLinear(width, height));
  const farthest = STRANDS_REACH * height;
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      if (regions.data[p] === Region.clear || deep.data[p] === 1) continue;
      const besideCloth = any.distance[p] < CLOTH_REACH * height && kept.data[any.index[p]] === 1;
      const among = zone.data[p] === 1 && !besideCloth && ofHair.distance[p] < farthest;
      const nearest = (among ? ofHair : any).index[p];
      const allowed = among ? hair.data : solid.data;
      const nx = nearest % width;
      const ny = (nearest / width) | 0;
      const length = lengthOf(nx - x, ny - y);
      const ux = length ? (nx - x) / length : 0;
      const uy = length ? (ny - y) / length : 0;
      for (let k = 0; k < DEPTHS.length; k++) {
        const sx = Math.max(0, Math.min(width - 1, Math.round(nx + ux * DEPTHS[k])));
        const sy = Math.max(0, Math.min(height - 1, Math.round(ny + uy * DEPTHS[k])));
        const sample = sy * width + sx;
        const s = allowed[sample] ? sample : nearest;
        const colours = colourAt(s);
        const { data } = fields[k];
        data[p * 3] = colours[s * 3];
        data[p * 3 + 1] = colours[s * 3 + 1];
        data[p * 3 + 2] = colours[s * 3 + 2];
      }
    }
  }
  if (dyed.data.includes(1)) colourDyed(frame, dyed, fields);
  return [...fields, average];
}

/** In and around hair dyed nearly in the screen's colour that hair alone counts, and all of it: its purest part is what least looks like it. Changes `fields`. */
function colourDyed(frame: LinearRaster, dyed: Mask, fields: LinearRaster[]): void {
  const hair: Mask = { ...dyed, data: dyed.data.map((v) => (v === 1 ? 1 : 0)) };
  const mean = meanWithin(frame, hair, DYED_AROUND);
  const { index } = nearestFeature(hair);
  for (let p = 0; p < dyed.data.length; p++) {
    if (!dyed.data[p]) continue;
    for (const { data } of fields) for (let c = 0; c < 3; c++) data[p * 3 + c] = mean.data[index[p] * 3 + c];
  }
}
const DYED_AROUND = 8;

/** Mean over the masked pixels of a square, at masked pixels. */
function meanWithin({ width, height, data }: LinearRaster, mask: Mask, radius: number): LinearRaster {
  const out = createLinear(width, height);
  const plane = createPlane(width, height);
  for (let p = 0; p < mask.data.length; p++) plane.data[p] = mask.data[p];
  const share = boxBlur(plane, radius).data;
  for (let c = 0; c < 3; c++) {
    for (let p = 0; p < mask.data.length; p++) plane.data[p] = mask.data[p] ? data[p * 3 + c] : 0;
    const sum = boxBlur(plane, radius).data;
    for (let p = 0; p < mask.data.length; p++) if (mask.data[p]) out.data[p * 3 + c] = sum[p] / share[p];
  }
  return out;
}

/** Half the side of the square over which samples are averaged, reduced pixels. */
const AROUND = 3;

/** Reduced pixels from the border of the core over which coverage is still solved. */
const SOFT = 3;

/**
 * Mean over the purer half of the sure pixels around one: those that lean least to the screen's colour. Between hairs the
 * screen shines through even where the hair looks dense, and what leans to the screen there is not the hair's own.
 * @returns a function that gives all means, with that of the pixel asked for among them.
 */
function purerAround({ width, height, data }: LinearRaster, solid: Uint8Array, channel: 1 | 2): (p: number) => Float32Array {
  const out = new Float32Array(data.length);
  const known = new Uint8Array(width * height);
  const leans = new Float32Array(width * height);
  for (let p = 0; p < leans.length; p++) if (solid[p]) leans[p] = data[p * 3 + channel] / (data[p * 3] + data[p * 3 + 1] + data[p * 3 + 2] + 0.01);
  return (p) => {
    if (known[p] || !solid[p]) return out;
    known[p] = 1;
    const x = p % width;
    const y = (p / width) | 0;
    const y0 = Math.max(0, y - AROUND);
    const y1 = Math.min(height - 1, y + AROUND);
    const x0 = Math.max(0, x - AROUND);
    const x1 = Math.min(width - 1, x + AROUND);
    let mean = 0;
    let count = 0;
    for (let yy = y0; yy <= y1; yy++) {
      for (let q = yy * width + x0, end = yy * width + x1; q <= end; q++) {
        if (solid[q] === 0) continue;
        mean += leans[q];
        count++;
      }
    }
    const most = mean / count + 1e-6;
    let r = 0;
    let g = 0;
    let b = 0;
    let n = 0;
    for (let yy = y0; yy <= y1; yy++) {
      for (let q = yy * width + x0, end = yy * width + x1; q <= end; q++) {
        if (solid[q] === 0 || leans[q] > most) continue;
        r += data[q * 3];
        g += data[q * 3 + 1];
        b += data[q * 3 + 2];
        n++;
      }
    }
    out[p * 3] = r / n;
    out[p * 3 + 1] = g / n;
    out[p * 3 + 2] = b / n;
    return out;
  };
}
