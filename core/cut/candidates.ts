import { nearestFeature } from '../image/distance.ts';
import { fillUnknown } from '../image/fillUnknown.ts';
import { createLinear, type LinearRaster, type Mask } from '../image/raster.ts';
import { Region } from './regions.ts';

/** How many reduced pixels behind the nearest sure pixel of the person further samples are taken. */
const DEPTHS = [0, 5, 14];

/**
 * Colours that the foreground may have at each fringe pixel, as fields at reduced size: the nearest sure pixel of
 * the person, two further inside along the same line (the rim is lit differently from what lies behind it), and a
 * smooth average of all that is sure nearby. They compete in the fringe solve; no single one is right everywhere.
 */
export function candidateFields(frame: LinearRaster, solid: Mask, regions: Mask): LinearRaster[] {
  const { width, height } = frame;
  const average = fillUnknown(frame, solid);
  if (!solid.data.includes(1)) return [average];
  const { index } = nearestFeature(solid);
  const smooth = averageSolid(frame, solid);
  const fields = DEPTHS.map(() => createLinear(width, height));
  for (let p = 0; p < index.length; p++) {
    if (regions.data[p] === Region.clear) continue;
    const x = p % width;
    const y = (p / width) | 0;
    const nearest = index[p];
    const nx = nearest % width;
    const ny = (nearest / width) | 0;
    const length = Math.hypot(nx - x, ny - y);
    const ux = length ? (nx - x) / length : 0;
    const uy = length ? (ny - y) / length : 0;
    for (let k = 0; k < DEPTHS.length; k++) {
      const sx = Math.max(0, Math.min(width - 1, Math.round(nx + ux * DEPTHS[k])));
      const sy = Math.max(0, Math.min(height - 1, Math.round(ny + uy * DEPTHS[k])));
      let s = sy * width + sx;
      if (!solid.data[s]) s = nearest;
      fields[k].data.set(smooth.data.subarray(s * 3, s * 3 + 3), p * 3);
    }
  }
  return [...fields, average];
}

/** 5×5 mean over sure pixels only, so that one noisy or patterned pixel does not speak for its place. */
function averageSolid(frame: LinearRaster, solid: Mask): LinearRaster {
  const { width, height, data } = frame;
  const out = createLinear(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      if (!solid.data[p]) continue;
      let r = 0;
      let g = 0;
      let b = 0;
      let n = 0;
      for (let yy = Math.max(0, y - 2); yy <= Math.min(height - 1, y + 2); yy++) {
        for (let xx = Math.max(0, x - 2); xx <= Math.min(width - 1, x + 2); xx++) {
          const q = yy * width + xx;
          if (!solid.data[q]) continue;
          r += data[q * 3];
          g += data[q * 3 + 1];
          b += data[q * 3 + 2];
          n++;
        }
      }
      out.data[p * 3] = r / n;
      out.data[p * 3 + 1] = g / n;
      out.data[p * 3 + 2] = b / n;
    }
  }
  return out;
}
