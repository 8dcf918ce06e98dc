import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { drawSvg, isSvg } from './svg.ts';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-svg-'));
});
afterAll(() => rm(folder, { recursive: true }));
async function file(content: string | Buffer): Promise<string> {
  const path = join(folder, 'drawing.svg');
  await writeFile(path, content);
  return path;
}
const drawing = (inside: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 60" width="40" height="60">${inside}</svg>`;

test('a drawing is told from other files by how it begins', async () => {
  expect(await isSvg(await file(drawing('')))).toBe(true);
  expect(
    await isSvg(await file(`<?xml version="1.0"?>\n<!-- ours -->\n<!DOCTYPE svg PUBLIC "a" "b">\n${drawing('')}`)),
  ).toBe(true);
  expect(await isSvg(await file('<html><svg></svg></html>'))).toBe(false);
  // Read in one way only, however many there are.
  expect(await isSvg(await file('<!---->'.repeat(500)))).toBe(false);
  expect(await isSvg(await file(Buffer.from([0x89, 0x50, 0x4e, 0x47])))).toBe(false);
});

test('it is drawn as large as prints need, and keeps its transparency', async () => {
  const { content, facts } = await drawSvg(await file(drawing('<rect width="20" height="60" fill="#c81e1e"/>')));
  expect([facts.width, facts.height]).toEqual([2667, 4000]);
  const { data, info } = await sharp(content).raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => [...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4)];
  expect(at(600, 2000)).toEqual([200, 30, 30, 255]);
  expect(at(2000, 2000)[3]).toBe(0);
});

test('what it refers to outside of itself is not read; what cannot be drawn is refused with a reason', async () => {
  const secret = join(folder, 'secret.png');
  await writeFile(
    secret,
    await sharp({ create: { width: 9, height: 9, channels: 3, background: 'white' } })
      .png()
      .toBuffer(),
  );
  const outside = drawing(`<image href="file://${secret}" width="40" height="60"/>`);
  const { content } = await drawSvg(await file(outside));
  const { channels } = await sharp(content).stats();
  expect(channels[3].max).toBe(0);
  await expect(drawSvg(await file('<svg xmlns="http://www.w3.org/2000/svg"><g>'))).rejects.toThrow('cannot be read');
  await expect(drawSvg(await file(`<!DOCTYPE svg [<!ENTITY a "b">]>${drawing('&a;')}`))).rejects.toThrow(
    'cannot be read',
  );
});
