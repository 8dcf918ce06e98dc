import sharp from 'sharp';

/**
 * Writes a picture enlarged to so many megapixels as JPEG, with fresh noise so that no codec has it easier than with a
 * camera's file.
 * @param base PNG, two by three.
 */
export async function largePicture(base: Buffer, megapixels: number, file: string): Promise<void> {
  const width = Math.round(Math.sqrt((megapixels * 1e6) / 1.5));
  const height = Math.round(width * 1.5);
  const noise = await sharp({
    create: { width, height, channels: 3, background: '#808080', noise: { type: 'gaussian', mean: 128, sigma: 5 } },
  })
    .png({ compressionLevel: 1 })
    .toBuffer();
  const large = await sharp(base)
    .resize(width, height, { kernel: 'cubic' })
    .composite([{ input: noise, blend: 'soft-light' }])
    .png({ compressionLevel: 1 })
    .toBuffer();
  await sharp(large, { limitInputPixels: false }).jpeg({ quality: 92, chromaSubsampling: '4:2:0' }).toFile(file);
}
