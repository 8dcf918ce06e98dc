import { ANALYSIS_PIXELS } from '../../../core/cut/index.ts';
import { linearToSrgb } from '../../../core/colour/transfer.ts';
import type { LinearRaster } from '../../../core/image/raster.ts';
import { reduceToLinear, reductionFactor } from '../../../core/image/reduce.ts';
import { gatherPlate } from '../../../core/screen/index.ts';
import { faultOf, inWords } from '../../faults.ts';
import { decodePicture, PictureError } from '../../pictures/decode.ts';
import { encodePicture, fromRaster } from '../../pictures/encode.ts';

/** More frames show hardly more of the screen. */
export const MOST_GATHERED = 12;

export interface GatheredScreen {
  /** JPEG, sRGB, as large as the frames. */
  content: Buffer;
  width: number;
  height: number;
  /** Frames used, and share of the picture over which one of them shows the screen plainly. */
  used: number;
  seen: number;
  /** Files that could not be used, in words. */
  refused: { path: string; message: string }[];
}

/**
 * The empty screen as a picture, put together from frames of one setup, one decoded at a time.
 * @param paths the first decides size, position and light; others of another size are passed over.
 * @param onRead told after each how many have been read. What cannot be used does not stop the others. @throws
 * PictureError if none shows a screen.
 */
export async function gatherScreen(paths: readonly string[], onRead?: (done: number) => void): Promise<GatheredScreen> {
  const reduced: LinearRaster[] = [];
  const refused: GatheredScreen['refused'] = [];
  let size: { width: number; height: number; factor: number } | undefined;
  for (const [n, path] of paths.slice(0, MOST_GATHERED).entries()) {
    if (n) onRead?.(n);
    const frame = await decodePicture(path, 'photograph').catch((error: Error) => {
      if (!faultOf(error)) throw error;
      refused.push({ path, message: inWords(error) });
    });
    if (!frame) continue;
    size ??= {
      width: frame.width,
      height: frame.height,
      factor: reductionFactor(frame.width, frame.height, ANALYSIS_PIXELS),
    };
    if (frame.width === size.width && frame.height === size.height) reduced.push(reduceToLinear(frame, size.factor));
  }
  onRead?.(Math.min(paths.length, MOST_GATHERED));
  const gathered = gatherPlate(reduced);
  if (!gathered || !size)
    throw new PictureError(
      'no green or blue screen was found in these frames',
      'Choose frames in which the lit screen fills at least a twentieth of the picture.',
    );
  const { plate, used, seen } = gathered;
  const data = Uint16Array.from(plate.data, (v) => Math.round(65535 * linearToSrgb(v)));
  const { width, height, factor } = size;
  // Reduced pixels are whole blocks; the last ones reach beyond the frame.
  const large = await fromRaster({ ...plate, channels: 3, data })
    .toColourspace('rgb16')
    .resize(plate.width * factor, plate.height * factor, { kernel: 'cubic', fit: 'fill' })
    .extract({ left: 0, top: 0, width, height })
    .raw({ depth: 'ushort' })
    .toBuffer();
  const content = await encodePicture(
    { width, height, channels: 3, data: new Uint16Array(large.buffer, large.byteOffset, width * height * 3) },
    'jpeg',
    { quality: 95 },
  );
  return { content, width, height, used, seen, refused };
}
