import type { Screen, WrittenFacts } from '../../../core/handOver/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { encodePicture } from '../../pictures/encode.ts';
import { resizedInLight } from '../../pictures/resize.ts';
import type { Encoded } from './printFile.ts';

/** No picture is made worse than this to keep within a bound of bytes; then it is made smaller. */
const LEAST_QUALITY = 45;
/** Next size at the most; far from its bound a picture is made smaller by what it is too large. */
const SMALLER = 0.85;
/** Even a PNG of this side keeps within the tightest bound. */
const SMALLEST_SIDE = 64;

/** A picture no longer than the preset asks for, and within its bytes: at the best quality that keeps within them. */
export async function screenFile(
  preset: Screen,
  picture: EncodedRaster & { channels: 3 },
  facts: WrittenFacts,
): Promise<Encoded> {
  const most = preset.most * 1000 || Infinity;
  let longest = Math.min(preset.longest, Math.max(picture.width, picture.height));
  for (;;) {
    const sized = await resizedInLight(picture, within(picture, longest));
    const encoded = (quality: number): Promise<Buffer> => encodePicture(sized, preset.format, { quality, facts });
    let content = await encoded(preset.quality);
    if (content.length > most && preset.format !== 'png') {
      let [low, high] = [LEAST_QUALITY, preset.quality];
      content = await encoded(Math.min(low, high));
      while (content.length <= most && high - low > 1) {
        const middle = Math.round((low + high) / 2);
        const tried = await encoded(middle);
        if (tried.length <= most) [low, content] = [middle, tried];
        else high = middle;
      }
    }
    if (content.length <= most || longest <= SMALLEST_SIDE)
      return { content, width: sized.width, height: sized.height };
    const smaller = Math.min(SMALLER, 0.95 * Math.sqrt(most / content.length));
    longest = Math.max(SMALLEST_SIDE, Math.round(longest * smaller));
  }
}

function within({ width, height }: EncodedRaster, longest: number): { width: number; height: number } {
  const scale = Math.min(1, longest / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}
