import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, test } from 'vitest';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { coverageIn, transparencyOf } from './transparency.ts';
import { samplePixels, writeSamples, type SampleName } from '../testing/samples.ts';
import { decodePicture, inspectPicture, PictureError } from './decode.ts';
import { encodePicture } from './encode.ts';
import { tagTiff } from './tagSrgb.ts';
import { cutoutRegion, decodeCutout, stackedPreview, workingCopy } from './views.ts';

let folder: string;
let samples: Record<SampleName, string>;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-'));
  samples = await writeSamples(folder);
});

describe('decodePicture', () => {
  test.each(['good.png', 'good.tif', 'opaque.png'] as const)('%s: pixels as written', async (name) => {
    const { width, height, channels, data } = await decodePicture(samples[name], 'frame');
    expect([width, height, channels]).toEqual([120, 160, 3]);
    expect(data).toBeInstanceOf(Uint8Array);
    expect([...data.subarray(0, 3)]).toEqual([80, 176, 88]);
  });
  test.each(['sixteen.png', 'sixteen.tif'] as const)('%s: 16 bits stay 16 bits', async (name) => {
    const { data } = await decodePicture(samples[name], 'frame');
    expect(data).toBeInstanceOf(Uint16Array);
    expect([...data.subarray(0, 3)]).toEqual([80 * 257, 176 * 257, 88 * 257]);
  });
  test('EXIF orientation is applied, in the facts as in the pixels', async () => {
    const facts = await inspectPicture(samples['turned.jpg'], 'frame');
    const picture = await decodePicture(samples['turned.jpg'], 'frame');
    expect([facts.width, facts.height]).toEqual([160, 120]);
    expect([picture.width, picture.height]).toEqual([160, 120]);
  });
  test('the camera’s time is read', async () => {
    expect((await inspectPicture(samples['dated.jpg'], 'frame')).takenAt).toBe('2026-06-13T11:04:07');
    expect((await inspectPicture(samples['good.png'], 'frame')).takenAt).toBeUndefined();
  });
  test.each([
    ['empty.jpg', /empty/],
    ['truncated.jpg', /cut short|damaged/],
    ['truncated.png', /cut short|damaged/],
    ['text.jpg', /not a JPEG/],
    ['moving.gif', /not a JPEG/],
    ['grey.jpg', /grey/],
    ['cmyk.jpg', /CMYK/],
    ['tiny.png', /only 4×4/],
    ['huge.png', /400 megapixels/],
  ] as [SampleName, RegExp][])('%s is refused with reason and remedy', async (name, reason) => {
    const error = await decodePicture(samples[name], 'frame').catch((e: unknown) => e);
    expect(error).toBeInstanceOf(PictureError);
    expect((error as PictureError).reason).toMatch(reason);
    expect((error as PictureError).remedy).toMatch(/\.$/);
  });
  test('with holes it is no photograph, but may be a frame that is cut out already', async () => {
    const file = samples['transparent.png'];
    await expect(decodePicture(file, 'photograph')).rejects.toThrow(/transparent areas.*Use the original/);
    expect((await decodePicture(file, 'frame')).channels).toBe(3);
    const open = await transparencyOf(file);
    const coverage = open && (await coverageIn(open));
    const alpha = await sharp(file).extractChannel(3).raw().toBuffer();
    expect(coverage?.data).toEqual(Uint16Array.from(alpha, (a) => a * 257));
    expect(await transparencyOf(samples['good.png'])).toBeUndefined();
  });
  test('a background may be grey or transparent', async () => {
    expect((await decodePicture(samples['grey.jpg'], 'background')).channels).toBe(3);
    expect((await decodePicture(samples['transparent.png'], 'background')).channels).toBe(3);
  });
  test('a wide-gamut profile is converted to sRGB, at 8 bits and at 16', async () => {
    const narrow = join(folder, 'p3.tif');
    const p3 = await sharp(samplePixels(), { raw: { width: 120, height: 160, channels: 3 } })
      .withIccProfile('p3')
      .tiff({ compression: 'deflate' })
      .toBuffer();
    await writeFile(narrow, p3);
    const eight = await decodePicture(narrow, 'frame');
    for (const [c, value] of [80, 176, 88].entries()) expect(Math.abs(eight.data[c] - value)).toBeLessThanOrEqual(2);
    const { data: values, info } = await sharp(p3, { ignoreIcc: true }).raw().toBuffer({ resolveWithObject: true });
    const plain = await sharp(
      Uint16Array.from(values, (v) => v * 257),
      { raw: { width: info.width, height: info.height, channels: 3 } },
    )
      .toColourspace('rgb16')
      .tiff({ compression: 'deflate' })
      .toBuffer();
    const wide = join(folder, 'p3-16.tif');
    await writeFile(wide, tagTiff(plain, (await sharp(p3).metadata()).icc as Buffer));
    const sixteen = await decodePicture(wide, 'frame');
    for (const [c, value] of [80, 176, 88].entries())
      expect(Math.abs(sixteen.data[c] / 257 - value)).toBeLessThanOrEqual(2);
  });
});

describe('encodePicture', () => {
  const cutout: EncodedRaster = {
    width: 3,
    height: 1,
    channels: 4,
    data: Uint16Array.from([60000, 1000, 2000, 1, 100, 40000, 300, 32768, 5, 6, 7, 65535]),
  };
  test.each(['png16', 'tiff16'] as const)('%s keeps 16 bits and straight alpha', async (format) => {
    const path = join(folder, `straight.${format}`);
    await writeFile(path, await encodePicture(cutout, format));
    expect((await decodeCutout(path, 16)).data).toEqual(cutout.data);
    if (format === 'tiff16') expect((await sharp(path).metadata()).hasProfile).toBe(true);
    else expect((await readFile(path)).includes('sRGB')).toBe(true);
  });
  test.each(['png', 'png16', 'tiff16'] as const)('%s can be read again as a frame, unchanged', async (format) => {
    const opaque: EncodedRaster = {
      width: 20,
      height: 20,
      channels: 3,
      data: Uint16Array.from({ length: 1200 }, (_, i) => ((i * 7919) % 256) * 257),
    };
    const path = join(folder, `again.${format}`);
    await writeFile(path, await encodePicture(opaque, format));
    const { data } = await decodePicture(path, 'frame');
    expect([...data].map((v) => (format === 'png' ? v * 257 : v))).toEqual([...opaque.data]);
  });
  test('png rounds to 8 bits, alpha straight', async () => {
    const path = join(folder, 'straight.png');
    await writeFile(path, await encodePicture(cutout, 'png'));
    const { data } = await decodeCutout(path, 8);
    [...cutout.data].forEach((value, i) => expect(Math.abs(data[i] - value / 257)).toBeLessThanOrEqual(1));
  });
  test('tiff says that its alpha is not premultiplied', async () => {
    const tiff = await encodePicture(cutout, 'tiff16');
    // Tag 338 (ExtraSamples), type SHORT, one value: 2 is unassociated, that is straight, alpha.
    const little = tiff.readUInt16BE(0) === 0x4949;
    const read16 = (o: number): number => (little ? tiff.readUInt16LE(o) : tiff.readUInt16BE(o));
    const directory = little ? tiff.readUInt32LE(4) : tiff.readUInt32BE(4);
    const entries = Array.from({ length: read16(directory) }, (_, n) => directory + 2 + n * 12);
    const extra = entries.find((o) => read16(o) === 338);
    expect(extra && read16(extra + 8)).toBe(2);
  });
});

describe('views', () => {
  test('the stacked preview holds colour above and coverage below, unspoilt by premultiplication', async () => {
    const cutout: EncodedRaster = {
      width: 2,
      height: 1,
      channels: 4,
      data: Uint8Array.from([201, 13, 77, 3, 9, 8, 7, 255]),
    };
    const path = join(folder, 'stack.png');
    await writeFile(path, await encodePicture(cutout, 'png'));
    const { data, info } = await sharp(await stackedPreview(path, 1e6))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height, info.channels]).toEqual([2, 2, 3]);
    expect([...data]).toEqual([201, 13, 77, 9, 8, 7, 3, 3, 3, 255, 255, 255]);
  });
  test('the working copy of a small frame is the frame itself', async () => {
    const copy = await sharp(await workingCopy(samples['good.png'], { width: 120, height: 160 }, 2e6))
      .raw()
      .toBuffer();
    expect(new Uint8Array(copy)).toEqual((await decodePicture(samples['good.png'], 'frame')).data);
  });
  test('a region of a 16-bit cut comes as 8 bits', async () => {
    const path = join(folder, 'region.png');
    const data = new Uint16Array(8 * 8 * 4).fill(257 * 40);
    await writeFile(path, await encodePicture({ width: 8, height: 8, channels: 4, data }, 'png16'));
    const part = await cutoutRegion(path, { left: 2, top: 3, width: 4, height: 2 });
    expect([part.width, part.height, part.data[0], part.data[3]]).toEqual([4, 2, 40, 40]);
  });
});
