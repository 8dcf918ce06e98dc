import sharp from 'sharp';
import { iptcOf, type WrittenFacts } from '../../core/handOver/index.ts';

/** The sRGB chunk of the PNG specification (11.3.2.5), perceptual intent, with its length and checksum. */
const PNG_SRGB = Buffer.from('0000000173524742' + '00' + 'aece1ce9', 'hex');
/** Signature and header chunk come first in every PNG. */
const PNG_HEADER = 33;

/** Marks a PNG as sRGB. */
export function tagPng(png: Buffer): Buffer {
  return Buffer.concat([png.subarray(0, PNG_HEADER), PNG_SRGB, png.subarray(PNG_HEADER)]);
}

const TYPE = { ascii: 2, short: 3, undefined: 7 };

/** What says that four channels are cyan, magenta, yellow and black, and what would say that one is coverage (section 16). */
const INKS = { photometric: 262, separated: 5, inkSet: 332, cmyk: 1, extraSamples: 338 };

/** An entry of a TIFF’s directory. */
interface TiffTag {
  tag: number;
  type: number;
  content: Buffer;
  /** How many values; as many as bytes if it is not said. */
  count?: number;
}
const text = (tag: number, value: string): TiffTag[] =>
  value ? [{ tag, type: TYPE.ascii, content: Buffer.from(`${value}\0`) }] : [];

/** Description, artist and copyright as TIFF 6.0 has them (section 8), and IPTC-IIM records in a tag of their own. */
function tagsOf(facts: WrittenFacts): TiffTag[] {
  return [
    ...text(270, facts.title),
    ...text(315, facts.photographer),
    ...text(33432, facts.rights),
    { tag: 33723, type: TYPE.undefined, content: Buffer.from(iptcOf(facts)) },
  ];
}

/**
 * Embeds a profile, and what is said of a picture, in a classic TIFF: its directory is written anew at the end with
 * more entries (TIFF 6.0, section 2).
 * @param inks whether its four channels are inks and not RGB with coverage, as which they were written.
 */
export function tagTiff(tiff: Buffer, profile: Buffer, facts?: WrittenFacts, inks = false): Buffer {
  const little = tiff.toString('latin1', 0, 2) === 'II';
  const read16 = (from: Buffer, o: number): number => (little ? from.readUInt16LE(o) : from.readUInt16BE(o));
  const read32 = (from: Buffer, o: number): number => (little ? from.readUInt32LE(o) : from.readUInt32BE(o));
  const write16 = (to: Buffer, value: number, o: number): number =>
    little ? to.writeUInt16LE(value, o) : to.writeUInt16BE(value, o);
  const write32 = (to: Buffer, value: number, o: number): number =>
    little ? to.writeUInt32LE(value, o) : to.writeUInt32BE(value, o);
  const short = (tag: number, value: number): TiffTag => {
    const content = Buffer.alloc(2);
    write16(content, value, 0);
    return { tag, type: TYPE.short, content, count: 1 };
  };
  const more: TiffTag[] = [
    { tag: 34675, type: TYPE.undefined, content: profile },
    ...(facts ? tagsOf(facts) : []),
    ...(inks ? [short(INKS.photometric, INKS.separated), short(INKS.inkSet, INKS.cmyk)] : []),
  ];
  const start = read32(tiff, 4);
  const before = Array.from({ length: read16(tiff, start) }, (_, n) => start + 2 + n * 12)
    .map((at) => tiff.subarray(at, at + 12))
    .filter((entry) => more.every(({ tag }) => tag !== read16(entry, 0)))
    .filter((entry) => !inks || read16(entry, 0) !== INKS.extraSamples);
  const parts = [tiff, Buffer.alloc(tiff.length % 2)];
  let end = tiff.length + (tiff.length % 2);
  const put = (content: Buffer): number => {
    const at = end;
    // Values begin at even places.
    parts.push(content, Buffer.alloc(content.length % 2));
    end += content.length + (content.length % 2);
    return at;
  };
  const added = more.map(({ tag, type, content, count = content.length }) => {
    const entry = Buffer.alloc(12);
    write16(entry, tag, 0);
    write16(entry, type, 2);
    write32(entry, count, 4);
    if (content.length <= 4) content.copy(entry, 8);
    else write32(entry, put(content), 8);
    return entry;
  });
  // Entries stand in the order of their tags.
  const entries = [...before, ...added].sort((a, b) => read16(a, 0) - read16(b, 0));
  const directory = Buffer.alloc(2 + entries.length * 12 + 4);
  write16(directory, entries.length, 0);
  entries.forEach((entry, n) => entry.copy(directory, 2 + n * 12));
  const at = put(directory);
  const out = Buffer.concat(parts);
  write32(out, at, 4);
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
