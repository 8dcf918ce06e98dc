import { encoderFor, linearTable } from '../core/colour/transfer.ts';
import { whiteLevel, type EncodedRaster } from '../core/image/raster.ts';
import { reduceToLinear } from '../core/image/reduce.ts';
import { surveyScreen } from '../core/screen/index.ts';

/**
 * For comparison: the colour-difference principle with one screen colour for the whole frame (Vlahos), and spill
 * limited to the larger of the other channels. What a simple keyer does.
 */
export function cutByColourDifference(frame: EncodedRaster): EncodedRaster & { channels: 4 } {
  const survey = surveyScreen(reduceToLinear(frame, 3));
  if (!survey) throw new Error('no screen');
  const { channel, colour } = survey;
  const other = channel === 1 ? 2 : 1;
  const key = colour[channel] - Math.max(colour[0], colour[other]);
  const white = whiteLevel(frame);
  const table = linearTable(frame.data);
  const encode = encoderFor(frame.data);
  const data = new (frame.data instanceof Uint16Array ? Uint16Array : Uint8Array)((frame.data.length / 3) * 4);
  for (let i = 0, o = 0; i < frame.data.length; i += 3, o += 4) {
    const I = [table[frame.data[i]], table[frame.data[i + 1]], table[frame.data[i + 2]]];
    const a = Math.max(0, Math.min(1, 1 - (I[channel] - Math.max(I[0], I[other])) / key));
    if (a === 0) continue;
    const F = I.map((v, c) => Math.max(0, Math.min(1, (v - (1 - a) * colour[c]) / a)));
    F[channel] = Math.min(F[channel], Math.max(F[0], F[other]));
    for (let c = 0; c < 3; c++) data[o + c] = encode(F[c]);
    data[o + 3] = Math.round(a * white);
  }
  return { width: frame.width, height: frame.height, channels: 4, data };
}
