import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { seededRandom } from '../../core/random.ts';
import { decodePicture, PictureError } from './decode.ts';
import { isHeic, readHeic } from './heic.ts';

/** Files that Debian’s own HEIC encoder wrote: four even fields, 240 × 320. */
const sample = (name: string): string => join(import.meta.dirname, '..', 'testing', 'heic', name);
const fields = [
  [60, 180, 70],
  [200, 60, 50],
  [40, 60, 190],
  [128, 128, 128],
];

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-heic-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function seen(
  name: string,
): Promise<{ picture: Awaited<ReturnType<typeof decodePicture>>; colours: number[][] }> {
  const path = join(folder, `${name}.tif`);
  await writeFile(path, (await readHeic(sample(name))).content);
  const picture = await decodePicture(path, 'frame');
  const at = (x: number, y: number): number[] =>
    Array.from(picture.data.slice((y * 240 + x) * picture.channels, (y * 240 + x) * picture.channels + 3));
  return { picture, colours: [at(60, 80), at(180, 80), at(60, 240), at(180, 240)] };
}

test.each(['four.heic', 'four-p3.heic'])('%s shows its colours at their places', async (name) => {
  const { picture, colours } = await seen(name);
  expect([picture.width, picture.height]).toEqual([240, 320]);
  colours.forEach((colour, n) =>
    // The encoder halved the colour and kept 92 of 100.
    colour.forEach((value, c) => expect(Math.abs(value - fields[n][c]), `${name} field ${n}`).toBeLessThan(9)),
  );
});

test('what the phone wrote beside it is kept', async () => {
  const { facts } = await readHeic(sample('four-p3.heic'));
  expect(facts).toMatchObject({ width: 240, height: 320, depth: 8, takenAt: '2026-06-13T11:04:07' });
  expect(facts.camera).toMatchObject({ body: 'Tern P1', aperture: 1.8, profile: expect.stringMatching(/P3/) });
  expect((await readHeic(sample('four.heic'))).facts.camera.body).toBe('');
});

test('is told from other files by its content; the same file makes the same picture', async () => {
  expect(await isHeic(sample('four.heic'))).toBe(true);
  const other = join(folder, 'other.heic');
  await writeFile(other, 'no picture at all, whatever its name says');
  expect(await isHeic(other)).toBe(false);
  const [one, two] = [await readHeic(sample('four.heic')), await readHeic(sample('four.heic'))];
  expect(one.content.equals(two.content)).toBe(true);
});

test('cut short or spoilt anywhere it is refused or shown, and never worse', async () => {
  const sound = await readFile(sample('four-p3.heic'));
  const random = seededRandom(3);
  let refused = 0;
  for (let n = 0; n < 40; n++) {
    const spoilt = Buffer.from(n < 12 ? sound.subarray(0, Math.floor((sound.length * (n + 1)) / 14)) : sound);
    if (n >= 12) for (let k = 0; k < 6; k++) spoilt[Math.floor(random() * spoilt.length)] = Math.floor(random() * 256);
    const path = join(folder, 'spoilt.heic');
    await writeFile(path, spoilt);
    const answer = await readHeic(path).catch((error: unknown) => error);
    if (!(answer instanceof Error)) continue;
    expect(answer).toBeInstanceOf(PictureError);
    refused++;
  }
  expect(refused).toBeGreaterThan(11);
});
