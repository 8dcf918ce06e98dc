import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { presetSchema } from '../../../contract/index.ts';
import {
  printedSize,
  shapeKey,
  shippedPresets,
  type PaperSheet,
  type Preset,
  type Print,
  type WrittenFacts,
} from '../../../core/handOver/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { encodePicture } from '../../pictures/encode.ts';
import { inProfile, profileContent, readProfile } from '../../pictures/profiles.ts';
import { LocalStore } from '../../store/localStore.ts';
import { layeredFile } from './layeredFile.ts';
import { printFile, sheetFile, type Finished } from './printFile.ts';
import { screenFile } from './screenFile.ts';

/** What comes out, looked at with Debian’s own readers. */

let folder: string;
let store: LocalStore;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-out-'));
  store = new LocalStore(folder);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const facts: WrittenFacts = {
  title: 'Kite meet – Łukasz',
  photographer: 'Ada Marsh',
  rights: '© 2026 Ada Marsh',
  place: 'Saltmarsh',
  instructions: 'Print matt',
  person: 'Łukasz Oyster',
  taken: '2026-06-13T14:05:09',
};

/** A picture with a coloured wedge, so that sizes, crops and colours are seen. */
const picture: EncodedRaster & { channels: 3 } = (() => {
  const [width, height] = [1800, 2400];
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 3) {
      data[i] = (x * 255) / width;
      data[i + 1] = (y * 255) / height;
      data[i + 2] = 40;
    }
  return { width, height, channels: 3, data };
})();
const finished: Finished = { picture, people: null, crops: {}, card: null };
const preset = <K extends Preset['kind']>(kind: K): Extract<Preset, { kind: K }> =>
  shippedPresets.find((one) => one.kind === kind) as never;

async function file(name: string, content: Uint8Array): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, content);
  return path;
}
function tags(path: string): Record<string, unknown> {
  const out = execFileSync('exiftool', ['-json', '-G1', '-struct', '-n', path], { encoding: 'utf8' });
  return (JSON.parse(out) as Record<string, unknown>[])[0];
}

describe('a print', () => {
  test('has its size at its resolution, its bleed, its profile, and all that is said of it in EXIF, IPTC and XMP', async () => {
    const { content, width, height } = await printFile(preset('print'), finished, facts, store);
    // 13 × 18 cm with 3 mm on each side at 300 pixels to the inch.
    expect([width, height]).toEqual([1606, 2197]);
    const read = tags(await file('print.jpg', content));
    expect(read).toMatchObject({
      'IFD0:XResolution': 300,
      // EXIF holds ASCII: letters beyond it become their nearest.
      'IFD0:ImageDescription': 'Kite meet - Lukasz',
      'IFD0:Artist': facts.photographer,
      'IFD0:Copyright': '(C) 2026 Ada Marsh',
      'ExifIFD:DateTimeOriginal': '2026:06:13 14:05:09',
      'IPTC:ObjectName': facts.title,
      'IPTC:By-line': facts.photographer,
      'IPTC:CopyrightNotice': facts.rights,
      'IPTC:Sub-location': facts.place,
      'IPTC:SpecialInstructions': facts.instructions,
      'IPTC:DateCreated': '2026:06:13',
      'XMP-dc:Title': facts.title,
      'XMP-dc:Creator': [facts.photographer],
      'XMP-dc:Rights': facts.rights,
      'XMP-iptcCore:Location': facts.place,
      'XMP-photoshop:Instructions': facts.instructions,
      'XMP-iptcExt:PersonInImage': [facts.person],
      'ICC_Profile:ProfileDescription': expect.stringContaining('sRGB'),
    });
    // A second reader agrees.
    const said = execFileSync('exiv2', ['-pa', join(folder, 'print.jpg')], { encoding: 'utf8' });
    expect(said).toContain('Iptc.Application2.Byline');
    expect(said).toContain('Xmp.iptcExt.PersonInImage');
  });

  test('with nothing said holds nothing of a person, a camera or a place', async () => {
    const nothing = { title: '', photographer: '', rights: '', place: '', instructions: '', person: '', taken: '' };
    const { content } = await printFile(preset('print'), finished, nothing, store);
    const names = Object.keys(tags(await file('bare.jpg', content))).filter((name) =>
      /^(IFD|ExifIFD|GPS|IPTC|XMP)/.test(name),
    );
    for (const name of names)
      expect(name).toMatch(
        /Resolution|Orientation|Software|ExifVersion|ComponentsConfiguration|FlashpixVersion|ColorSpace|ExifImage|YCbCr|CodedCharacterSet|ApplicationRecordVersion|XMPToolkit/,
      );
  });

  test('is never enlarged: too small a crop keeps its pixels, and says how dense they are', async () => {
    const large: Print = { ...preset('print'), width: 400, height: 600, bleed: 0 };
    const { content, width, height } = await printFile(large, finished, facts, store);
    expect([width, height]).toEqual([1600, 2400]);
    expect(tags(await file('large.jpg', content))['IFD0:XResolution']).toBeCloseTo(1600 / (400 / 25.4), 0);
  });

  test('in a wide-gamut space has other values and the same colours; a TIFF has 16 bits', async () => {
    const wide: Print = { ...preset('print'), profile: 'p3', paper: 'none', format: 'tiff16' };
    const path = await file('wide.tif', (await printFile(wide, finished, facts, store)).content);
    const said = execFileSync('tiffinfo', [path], { encoding: 'utf8' });
    expect(said).toContain('Bits/Sample: 16');
    expect(said).toContain('Resolution: 300, 300 pixels/inch');
    expect(tags(path)).toMatchObject({
      'ICC_Profile:ProfileDescription': expect.stringMatching(/P3/),
      'IFD0:ImageDescription': facts.title,
      'IFD0:Artist': facts.photographer,
      'IFD0:Copyright': facts.rights,
      'IPTC:ObjectName': facts.title,
      'IPTC:SpecialInstructions': facts.instructions,
      'XMP-dc:Title': facts.title,
    });
    const jpeg = (await printFile({ ...wide, format: 'jpeg', quality: 100 }, finished, facts, store)).content;
    const plain = (await printFile({ ...wide, format: 'jpeg', quality: 100, profile: 'srgb' }, finished, facts, store))
      .content;
    expect(tags(await file('wide.jpg', jpeg))['ICC_Profile:ProfileDescription']).toMatch(/P3/);
    const seen = await sharp(jpeg).toColourspace('srgb').raw().toBuffer();
    const wanted = await sharp(plain).raw().toBuffer();
    const apart = (values: Buffer): number => {
      let sum = 0;
      for (let i = 0; i < values.length; i++) sum += Math.abs(values[i] - wanted[i]);
      return sum / values.length;
    };
    expect(apart(seen)).toBeLessThan(1.2);
    expect(apart(await sharp(jpeg, { ignoreIcc: true }).raw().toBuffer())).toBeGreaterThan(5);
  });
});

test('a print in inks is a TIFF of four of them, which come back as the same colours', async () => {
  const icc = await inkProfile();
  expect(await readProfile(icc)).toEqual({ name: expect.any(String), inks: true });
  const hash = await store.put(icc);
  const print: Print = {
    ...preset('print'),
    profile: { file: hash, name: 'Inks', inks: true },
    intent: 'relative',
    paper: 'none',
    format: 'tiff16',
  };
  expect(presetSchema.safeParse(print).success).toBe(true);
  expect(presetSchema.safeParse({ ...print, format: 'jpeg' }).error?.issues[0].message).toMatch('TIFF');
  // Colours that inks can print.
  const dull = { ...picture, data: picture.data.map((v) => 110 + 0.35 * (v - 128)) };
  const { content } = await printFile(print, { ...finished, picture: dull }, facts, store);
  const path = await file('inks.tif', content);
  const said = execFileSync('tiffinfo', [path], { encoding: 'utf8' });
  expect(said).toContain('Photometric Interpretation: separated');
  expect(said).toContain('Samples/Pixel: 4');
  expect(said).not.toContain('Extra Samples');
  expect(tags(path)).toMatchObject({
    'ICC-header:ColorSpaceData': 'CMYK',
    'IFD0:InkSet': 1,
    'IFD0:Artist': facts.photographer,
  });
  const plain = (
    await printFile(
      { ...print, format: 'jpeg', quality: 100, profile: 'srgb' },
      { ...finished, picture: dull },
      facts,
      store,
    )
  ).content;
  const seen = await sharp(path).toColourspace('srgb').raw().toBuffer();
  const wanted = await sharp(plain).raw().toBuffer();
  expect(seen.length).toBe(wanted.length);
  let apart = 0;
  for (let i = 0; i < seen.length; i++) apart += Math.abs(seen[i] - wanted[i]);
  expect(apart / seen.length).toBeLessThan(3);
});

/** The profile for inks that the codec library ships. */
async function inkProfile(): Promise<Buffer> {
  const grey = sharp({ create: { width: 1, height: 1, channels: 3, background: '#888' } });
  const { icc } = await sharp(await grey.toColourspace('cmyk').withIccProfile('cmyk').jpeg().toBuffer()).metadata();
  return icc as Buffer;
}

describe('words of a style', () => {
  /** A white line along the margin, which is where words begin. */
  const lined: Finished = {
    ...finished,
    card: async ({ width, height }, margin) => {
      const data = new Uint8Array(width * height * 4);
      for (let x = margin; x < width - margin; x++)
        data.fill(255, (margin * width + x) * 4, (margin * width + x) * 4 + 4);
      return { width, height, channels: 4, data };
    },
  };
  const rows = async (content: Buffer): Promise<number[]> => {
    const { data, info } = await sharp(content).raw().toBuffer({ resolveWithObject: true });
    const middle = Math.floor(info.width / 2);
    const bright: number[] = [];
    for (let y = 0; y < info.height; y++) if (data[(y * info.width + middle) * 3 + 2] > 160) bright.push(y);
    return bright;
  };

  test('stand on the paper as it is trimmed, within the safe margin, wherever the crop lies', async () => {
    const print: Print = { ...preset('print'), bleed: 3, safe: 5, paper: 'none', quality: 100 };
    // (3 + 5) mm at 300 pixels to the inch.
    expect(await rows((await printFile(print, lined, facts, store)).content)).toEqual([35 + 59]);
    expect(await rows((await printFile({ ...print, plain: true }, lined, facts, store)).content)).toEqual([]);
    const moved = { ...lined, crops: { [shapeKey(printedSize(print))]: { x: 0.1, y: 0.2, width: 0.6 } } };
    const { content, height } = await printFile(print, moved, facts, store);
    expect((await rows(content)).map((y) => y / height)).toEqual([expect.closeTo(8 / 186, 2)]);
  });
});

test('a profile says its name; what is none is refused; intents differ only where the profile has tables', async () => {
  const p3 = (await profileContent('p3', store)) as Buffer;
  expect(await readProfile(p3)).toEqual({ name: expect.stringMatching(/P3/), inks: false });
  await expect(readProfile(Buffer.from('no profile at all'))).rejects.toThrow('no colour profile');
  await expect(readProfile(p3.subarray(0, 200))).rejects.toThrow('no colour profile');
  const grey: EncodedRaster & { channels: 3 } = {
    width: 1,
    height: 1,
    channels: 3,
    data: new Uint8Array([90, 90, 90]),
  };
  expect([...(await inProfile(grey, p3, 'relative')).data]).toEqual([90, 90, 90]);
});

describe('a picture for screens', () => {
  test.each(['jpeg', 'webp', 'avif', 'png'] as const)('as %s is as long as asked, and tagged', async (format) => {
    const { content, width, height } = await screenFile({ ...preset('screen'), longest: 600, format }, picture, facts);
    expect([width, height]).toEqual([450, 600]);
    const read = await sharp(content).metadata();
    expect([read.width, read.height]).toEqual([450, 600]);
    const path = await file(`screen.${format}`, content);
    expect(tags(path)['XMP-dc:Title'], format).toBe(facts.title);
  });

  test('keeps within its bytes at the best quality that does, and gets smaller where none does', async () => {
    const noise = { ...picture, data: picture.data.map((v, i) => (v + ((i * 7919) % 61)) & 255) };
    const within = await screenFile({ ...preset('screen'), longest: 1000, most: 300 }, noise, facts);
    expect(within.content.length).toBeLessThanOrEqual(300_000);
    expect(within.content.length).toBeGreaterThan(200_000);
    expect(Math.max(within.width, within.height)).toBe(1000);
    const tiny = await screenFile({ ...preset('screen'), longest: 1000, most: 30 }, noise, facts);
    expect(tiny.content.length).toBeLessThanOrEqual(30_000);
    expect(Math.max(tiny.width, tiny.height)).toBeLessThan(1000);
  });
});

test('a sheet is a PDF of the paper’s size with every picture on it, at its density', async () => {
  const sheet: PaperSheet = preset('sheet');
  const path = await file('sheet.pdf', (await sheetFile(sheet, finished, 'Kite meet')).content);
  const info = execFileSync('pdfinfo', [path], { encoding: 'utf8' });
  expect(info).toMatch(/Page size: +595\.\d+ x 841\.\d+ pts \(A4\)/);
  expect(info).toMatch(/Pages: +1/);
  const images = execFileSync('pdfimages', ['-list', path], { encoding: 'utf8' }).trim().split('\n').slice(2);
  expect(images.length).toBe(4);
  const dense = images.map((line) => line.trim().split(/\s+/).slice(12, 14).map(Number));
  for (const [across, down] of dense) {
    expect(across).toBeGreaterThan(296);
    expect(Math.abs(across - down)).toBeLessThan(4);
  }
});

test('a layered file opens as what its format says, its layers make the picture, and the hidden ones are there', async () => {
  const size = { width: 60, height: 80 };
  const data = new Uint8Array(60 * 80 * 4);
  for (let y = 20; y < 80; y++)
    for (let x = 20; x < 40; x++) data.set([200, 60, 90, y < 24 ? 128 : 255], (y * 60 + x) * 4);
  const cutout = { ...size, channels: 4 as const, data };
  const empty = { ...size, channels: 3 as const, data: new Uint8Array(60 * 80 * 3).fill(170) };
  const whole = { ...empty, data: empty.data.slice() };
  for (let p = 0; p < 60 * 80; p++) {
    const a = data[p * 4 + 3] / 255;
    for (let c = 0; c < 3; c++) whole.data[p * 3 + c] = Math.round(a * data[p * 4 + c] + (1 - a) * 150);
  }
  const { content } = await layeredFile(
    {
      photograph: whole,
      cutout,
      touches: [],
      paths: new Map(),
      placed: {
        picture: whole,
        empty,
        people: [{ cutout, placement: { x: 0.5, y: 1, height: 1 }, mirrored: false, turn: 0 }],
      },
    },
    facts,
  );
  const path = await file('layers.ora', content);
  expect(content.subarray(30, 38).toString()).toBe('mimetype');
  expect(content.subarray(38, 54).toString()).toBe('image/openraster');
  execFileSync('unzip', ['-o', '-q', path, '-d', join(folder, 'ora')]);
  const stack = await readFile(join(folder, 'ora', 'stack.xml'), 'utf8');
  const layers = [...stack.matchAll(/name="([^"]+)" src="([^"]+)"[^/]*visibility="(\w+)"/g)].map(
    ([, name, src, seen]) => ({
      name,
      src,
      seen,
    }),
  );
  expect(layers.map(({ name, seen }) => `${name} ${seen}`)).toEqual([
    'Matte hidden',
    'Person with the screen’s light hidden',
    'Person visible',
    'Shadow visible',
    'Background visible',
  ]);
  const seen = layers.filter((layer) => layer.seen === 'visible').toReversed();
  const [bottom, ...others] = seen.map(({ src }) => join(folder, 'ora', src));
  const laid = await sharp(bottom)
    .composite(others.map((input) => ({ input })))
    .removeAlpha()
    .raw()
    .toBuffer();
  let most = 0;
  for (let i = 0; i < laid.length; i++) most = Math.max(most, Math.abs(laid[i] - whole.data[i]));
  expect(most).toBeLessThan(3);
  const merged = await sharp(join(folder, 'ora', 'mergedimage.png'))
    .raw()
    .toBuffer();
  expect(merged.equals(Buffer.from(whole.data))).toBe(true);
});

test('16-bit files with facts keep their values to the last', async () => {
  const data = Uint16Array.from({ length: 30 * 20 * 3 }, (_, i) => (i * 7919) % 65536);
  const deep: EncodedRaster = { width: 30, height: 20, channels: 3, data };
  for (const format of ['png16', 'tiff16'] as const) {
    const content = await encodePicture(deep, format, { facts });
    const back = await sharp(content, { ignoreIcc: true }).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
    expect(new Uint16Array(back.buffer, back.byteOffset, data.length)).toEqual(data);
    expect(tags(await file(`deep.${format}`, content))['XMP-dc:Title']).toBe(facts.title);
  }
});
