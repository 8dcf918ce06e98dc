import { open, readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { noCamera } from '../../core/gather/camera.ts';
import { PictureError, type PictureFacts } from './decode.ts';

/** Drawings in SVG, for cards, frames and layers: drawn once as pixels with their transparency, as large as prints need. */

/** Pixels of the longer side that it is drawn with. */
const LONGER = 4000;
/** Dots an inch by which an SVG’s own units are pixels. */
const OWN_DENSITY = 72;
const MOST_BYTES = 10_000_000;

/** What may stand before the first element; a comment ends where it first can, so that none is tried in two ways. */
const before =
  /^\uFEFF?\s*(?:<\?xml[^>]*>\s*|<!--(?:(?!-->)[\s\S])*-->\s*|<!DOCTYPE[^>[]*(?:\[[^\]]*\])?\s*>\s*)*<svg[\s>]/i;

export async function isSvg(path: string): Promise<boolean> {
  const file = await open(path);
  const head = Buffer.alloc(4096);
  const { bytesRead } = await file.read(head, 0, head.length, 0).finally(() => file.close());
  return before.test(head.toString('utf8', 0, bytesRead));
}

export interface FromSvg {
  /** PNG with transparency. */
  content: Buffer;
  facts: Omit<PictureFacts, 'format'>;
}

/** Draws it. What it refers to outside of itself is not read. @throws PictureError if it cannot be drawn. */
export async function drawSvg(path: string): Promise<FromSvg> {
  const content = await readFile(path);
  const damaged = (): PictureError =>
    new PictureError('it is a drawing in SVG that cannot be read', 'Save it again as plain SVG, or as PNG.');
  if (content.length > MOST_BYTES)
    throw new PictureError('it is a drawing in SVG of more than 10 MB', 'Export it as PNG with transparency.');
  // Entities can make a small file endless.
  if (content.includes('<!ENTITY')) throw damaged();
  const { width, height } = await sharp(content, { limitInputPixels: false })
    .metadata()
    .catch(() => {
      throw damaged();
    });
  const density = Math.max(1, Math.min(100_000, (OWN_DENSITY * LONGER) / Math.max(width, height)));
  const drawn = await sharp(content, { density, limitInputPixels: false })
    .resize({ width: LONGER, height: LONGER, fit: 'inside' })
    .toColourspace('srgb')
    .png()
    .toBuffer({ resolveWithObject: true })
    .catch(() => {
      throw damaged();
    });
  const { info } = drawn;
  return { content: drawn.data, facts: { width: info.width, height: info.height, depth: 8, camera: noCamera } };
}
