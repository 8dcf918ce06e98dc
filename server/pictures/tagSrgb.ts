import sharp from 'sharp';

/** The sRGB chunk of the PNG specification (11.3.2.5), perceptual intent, with its length and checksum. */
const PNG_SRGB = Buffer.from('0000000173524742' + '00' + 'aece1ce9', 'hex');
/** Signature and header chunk come first in every PNG. */
const PNG_HEADER = 33;

/** Marks a PNG as sRGB. */
export function tagPng(png: Buffer): Buffer {
  return Buffer.concat([png.subarray(0, PNG_HEADER), PNG_SRGB, png.subarray(PNG_HEADER)]);
}

const ICC_TAG = 34675;
const TYPE_UNDEFINED = 7;

/**
 * Embeds a profile in a classic TIFF: its directory is written anew at the end with one more entry (TIFF 6.0, section
 * 2).
 */
export function tagTiff(tiff: Buffer, profile: Buffer): Buffer {
  const little = tiff.toString('latin1', 0, 2) === 'II';
  const read16 = (o: number): number => (little ? tiff.readUInt16LE(o) : tiff.readUInt16BE(o));
  const read32 = (o: number): number => (little ? tiff.readUInt32LE(o) : tiff.readUInt32BE(o));
  const start = read32(4);
  const count = read16(start);
  const entries = Array.from({ length: count }, (_, n) => tiff.subarray(start + 2 + n * 12, start + 14 + n * 12));
  const padding = Buffer.alloc((tiff.length + profile.length) % 2);
  const directory = Buffer.alloc(2 + (count + 1) * 12 + 4);
  const write16 = (value: number, o: number): number =>
    little ? directory.writeUInt16LE(value, o) : directory.writeUInt16BE(value, o);
  const write32 = (value: number, o: number): number =>
    little ? directory.writeUInt32LE(value, o) : directory.writeUInt32BE(value, o);
  // Entries stand in the order of their tags.
  const before = entries.filter((entry) => (little ? entry.readUInt16LE(0) : entry.readUInt16BE(0)) < ICC_TAG);
  write16(count + 1, 0);
  let o = 2;
  for (const entry of before) o += entry.copy(directory, o);
  write16(ICC_TAG, o);
  write16(TYPE_UNDEFINED, o + 2);
  write32(profile.length, o + 4);
  write32(tiff.length, o + 8);
  o += 12;
  for (const entry of entries.slice(before.length)) o += entry.copy(directory, o);
  const out = Buffer.concat([tiff, profile, padding, directory]);
  if (little) out.writeUInt32LE(tiff.length + profile.length + padding.length, 4);
  else out.writeUInt32BE(tiff.length + profile.length + padding.length, 4);
  return out;
}

let profile: Promise<Buffer> | undefined;

/** The sRGB profile that the codec library ships. */
export function srgbProfile(): Promise<Buffer> {
  return (profile ??= sharp({ create: { width: 1, height: 1, channels: 3, background: '#fff' } })
    .withIccProfile('srgb')
    .png()
    .toBuffer()
    .then((png) => sharp(png).metadata())
    .then(({ icc }) => icc as Buffer));
}
