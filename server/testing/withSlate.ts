import QRCode from 'qrcode';
import sharp from 'sharp';
import { slateText } from '../../core/gather/slate.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { fromRaster } from '../pictures/encode.ts';

/** How a slate is held: its side as a share of the frame's width, degrees, blur in pixels, light 0–1. */
export interface Held {
  side?: number;
  turned?: number;
  blur?: number;
  light?: number;
}

/** A frame in which somebody holds a slate before their chest, as a PNG. */
export async function withSlate(frame: EncodedRaster, number: string, held: Held = {}): Promise<Buffer> {
  const { side = 0.3, turned = 0, blur = 0, light = 1 } = held;
  const width = Math.round(side * frame.width);
  const code = await QRCode.toBuffer([{ data: slateText(number), mode: 'alphanumeric' }], {
    errorCorrectionLevel: 'Q',
    width: 400,
    margin: 4,
  });
  const paper = sharp(await sharp(code).resize({ width }).png().toBuffer()).rotate(turned, {
    background: { r: 0, g: 0, b: 0, alpha: 0 },
  });
  const softened = blur > 0.3 ? paper.blur(blur) : paper;
  const input = await softened.ensureAlpha().linear([light, light, light, 1], [0, 0, 0, 0]).png().toBuffer();
  const { width: across = 0 } = await sharp(input).metadata();
  return fromRaster(frame)
    .composite([{ input, left: Math.round((frame.width - across) / 2), top: Math.round(frame.height * 0.5) }])
    .png()
    .toBuffer();
}
