import { linearToSrgb } from '../../core/colour/transfer.ts';
import type { TakenFrame } from '../../core/studio/index.ts';
import { encodePicture } from '../pictures/encode.ts';

/** True foreground as a 16-bit PNG with straight alpha. */
export async function encodeForeground({ foreground }: TakenFrame): Promise<Buffer> {
  const { width, height, data } = foreground;
  const out = new Uint16Array(data.length);
  for (let o = 0; o < data.length; o += 4) {
    const a = data[o + 3];
    if (a <= 0) continue;
    for (let c = 0; c < 3; c++) out[o + c] = Math.round(65535 * linearToSrgb(data[o + c] / a));
    out[o + 3] = Math.round(65535 * Math.min(1, a));
  }
  return encodePicture({ width, height, channels: 4, data: out }, 'png16');
}

/** True screen behind the people, shadows included, as a 16-bit PNG. */
export async function encodeScreen({ screen }: TakenFrame): Promise<Buffer> {
  const { width, height, data } = screen;
  return encodePicture(
    { width, height, channels: 3, data: Uint16Array.from(data, (v) => Math.round(65535 * linearToSrgb(v))) },
    'png16',
  );
}
