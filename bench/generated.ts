import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { EncodedRaster } from '../core/image/raster.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { encodePicture, fromRaster } from '../server/pictures/encode.ts';
import { writeWhole } from '../server/store/writeWhole.ts';
import type { Camera } from './generator/camera.ts';
import { generate, type Scene } from './generator/scene.ts';
import type { Truth } from './measure.ts';

/** Generates a scene and reads it as its file would be read, with all its truth; and its plate if asked for. */
export async function generateTruth(scene: Scene, withPlate: boolean): Promise<Truth & { plate?: EncodedRaster }> {
  const { frame, plate, matte, foreground, clean, screen } = generate(scene);
  return {
    frame: await filed(frame, scene.camera),
    plate: withPlate ? await filed(plate(), scene.camera) : undefined,
    matte,
    foreground,
    clean,
    screen,
    channel: scene.screen.hue >= 200 ? 2 : 1,
  };
}

/** What is left of a picture after it has been written and read again. */
async function filed(picture: EncodedRaster, { jpeg }: Camera): Promise<EncodedRaster> {
  if (jpeg?.colour === '4:2:2') halveAcross(picture);
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-bench-'));
  try {
    const file = join(folder, 'frame');
    // The encoder knows no colour halved across only: it is halved beforehand.
    await writeWhole(
      file,
      jpeg
        ? await fromRaster(picture)
            .toColourspace('srgb')
            .jpeg({ quality: jpeg.quality, chromaSubsampling: jpeg.colour === '4:2:0' ? '4:2:0' : '4:4:4' })
            .toBuffer()
        : await encodePicture(picture, 'tiff16'),
    );
    return await decodePicture(file, 'frame');
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Averages what colour adds to brightness over pairs of pixels side by side. Changes the picture. */
function halveAcross({ width, height, data }: EncodedRaster): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x + 1 < width; x += 2) {
      const i = (y * width + x) * 3;
      const luma = (o: number): number => 0.299 * data[o] + 0.587 * data[o + 1] + 0.114 * data[o + 2];
      const first = luma(i);
      const second = luma(i + 3);
      for (let c = 0; c < 3; c++) {
        const off = (data[i + c] - first + data[i + 3 + c] - second) / 2;
        data[i + c] = Math.max(0, Math.min(65535, Math.round(first + off)));
        data[i + 3 + c] = Math.max(0, Math.min(65535, Math.round(second + off)));
      }
    }
  }
}
