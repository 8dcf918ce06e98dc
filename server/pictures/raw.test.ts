import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { srgbToLinear } from '../../core/colour/transfer.ts';
import { noCamera } from '../../core/gather/camera.ts';
import { asTaken } from '../../core/gather/develop.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { sensorReading } from '../../core/studio/sensor.ts';
import { encodeDng } from '../standIn/encodeDng.ts';
import { PictureError } from './decode.ts';
import { developRaw } from './raw.ts';
import { isCameraRaw } from './rawFile.ts';

/** Raw files by the stand-in camera, developed and compared with what it saw. */

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-raw-'));
});
afterAll(() => rm(folder, { recursive: true }));

const [width, height] = [240, 160];
/** Smooth tones from dark to light, green on the left and skin on the right. */
function scene(): EncodedRaster & { channels: 3 } {
  const data = new Uint16Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = 0.15 + (0.7 * y) / height;
      const rgb = x < width / 2 ? [0.3, 0.85, 0.35] : [0.9, 0.68, 0.55];
      for (let c = 0; c < 3; c++) data[(y * width + x) * 3 + c] = Math.round(rgb[c] * light * 65535);
    }
  return { width, height, channels: 3, data };
}
const camera = { ...noCamera, body: 'Stand-in Camera, 4711', focal: 85, aperture: 5.6, shutter: 1 / 160, iso: 200 };
async function write(name: string, content?: Buffer): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, content ?? encodeDng(sensorReading(scene()), camera, '2026:06:13 12:30:05'));
  return path;
}
/** Mean light of each channel in the left and the right half, linear. */
function light({ data }: { data: ArrayLike<number> }, left: boolean): number[] {
  const sum = [0, 0, 0];
  let n = 0;
  for (let y = 20; y < height - 20; y += 3)
    for (let x = left ? 20 : width / 2 + 20; x < (left ? width / 2 - 20 : width - 20); x += 3, n++)
      for (let c = 0; c < 3; c++) sum[c] += srgbToLinear(data[(y * width + x) * 3 + c] / 65535);
  return sum.map((v) => v / n);
}

test('a raw file is developed to what was before the camera, by its own white balance', async () => {
  const path = await write('a.dng');
  expect(await isCameraRaw(path)).toBe(true);
  const { picture, camera: written, takenAt } = await developRaw(path, asTaken);
  expect([picture.width, picture.height]).toEqual([width, height]);
  expect(written).toEqual({ ...camera, shutter: 0.00625 });
  expect(takenAt).toBe('2026-06-13T12:30:05');
  for (const left of [true, false])
    light(picture, left).forEach((v, c) => expect(v / light(scene(), left)[c]).toBeCloseTo(1, 1.7));
});

test('brighter by a step is twice the light; warmer is more red and less blue', async () => {
  const path = await write('b.dng');
  const plain = light((await developRaw(path, asTaken)).picture, false);
  const darker = light((await developRaw(path, { exposure: -1, warmth: 0 })).picture, false);
  const warmer = light((await developRaw(path, { exposure: 0, warmth: 0.5 })).picture, false);
  for (let c = 0; c < 3; c++) expect(plain[c] / darker[c]).toBeCloseTo(2, 1);
  expect(warmer[0] / warmer[2] / (plain[0] / plain[2])).toBeCloseTo(2 ** 0.5, 1);
});

test('one that is cut short or no raw file is refused in words', async () => {
  const whole = encodeDng(sensorReading(scene()), camera, '2026:06:13 12:30:05');
  for (const content of [whole.subarray(0, 300), Buffer.from('II*\0nothing at all')])
    await expect(developRaw(await write('c.dng', content), asTaken)).rejects.toThrow(PictureError);
});
