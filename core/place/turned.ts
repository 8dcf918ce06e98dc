import { encoderFor, linearTable } from '../colour/transfer.ts';
import { sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';
import type { Placement, Size } from './placement.ts';

/** Size of the smallest upright frame that holds another turned by so many degrees. */
function aroundTurned({ width, height }: Size, degrees: number): Size {
  const [s, c] = [Math.abs(Math.sin(radians(degrees))), Math.abs(Math.cos(radians(degrees)))];
  return { width: Math.ceil(width * c + height * s), height: Math.ceil(width * s + height * c) };
}
export const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/**
 * A cut (RGBA) turned clockwise about its middle, and where the larger frame then stands so that the middle stays.
 * Between pixels it goes straight, on premultiplied linear light.
 */
export function turned(
  cutout: EncodedRaster,
  placement: Placement,
  degrees: number,
): { cutout: EncodedRaster & { channels: 4 }; placement: Placement } {
  const { width, height, data } = cutout;
  const size = aroundTurned(cutout, degrees);
  const out = sameDepth(data, size.width * size.height * 4);
  const table = linearTable(data);
  const encode = encoderFor(out);
  const white = whiteLevel(cutout);
  const [sin, cos] = [Math.sin(radians(degrees)), Math.cos(radians(degrees))];
  const sum = [0, 0, 0, 0];
  for (let y = 0, o = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, o += 4) {
      const [dx, dy] = [x + 0.5 - size.width / 2, y + 0.5 - size.height / 2];
      const sx = dx * cos + dy * sin + width / 2 - 0.5;
      const sy = -dx * sin + dy * cos + height / 2 - 0.5;
      const [i, j] = [Math.floor(sx), Math.floor(sy)];
      if (i < -1 || j < -1 || i >= width || j >= height) continue;
      sum.fill(0);
      for (let k = 0; k < 4; k++) {
        const [px, py] = [i + (k & 1), j + (k >> 1)];
        if (px < 0 || py < 0 || px >= width || py >= height) continue;
        const weight = (k & 1 ? sx - i : 1 - sx + i) * (k >> 1 ? sy - j : 1 - sy + j);
        const p = (py * width + px) * 4;
        const a = (weight * data[p + 3]) / white;
        for (let c = 0; c < 3; c++) sum[c] += a * table[data[p + c]];
        sum[3] += a;
      }
      if (sum[3] <= 0) continue;
      for (let c = 0; c < 3; c++) out[o + c] = encode(sum[c] / sum[3]);
      out[o + 3] = Math.round(sum[3] * white);
    }
  return {
    cutout: { ...size, channels: 4, data: out },
    placement: turnedPlacement(cutout, placement, degrees),
  };
}

/** Where the frame around a turned one stands. */
export function turnedPlacement(cut: Size, placement: Placement, degrees: number): Placement {
  const height = (placement.height * aroundTurned(cut, degrees).height) / cut.height;
  return { x: placement.x, y: placement.y + (height - placement.height) / 2, height };
}
