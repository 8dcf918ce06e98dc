import type { Camera } from '../../core/gather/camera.ts';
import type { Raw } from '../../core/studio/sensor.ts';

/** Types of fields as TIFF numbers them, and bytes of one value. */
const BYTE = 1;
const ASCII = 2;
const SHORT = 3;
const LONG = 4;
const RATIONAL = 5;
const SRATIONAL = 10;
const sizes: Record<number, number> = { [BYTE]: 1, [ASCII]: 1, [SHORT]: 2, [LONG]: 4, [RATIONAL]: 8, [SRATIONAL]: 8 };

interface Field {
  tag: number;
  type: number;
  values: readonly number[];
}

const DENOMINATOR = 1_000_000;

/**
 * A camera raw file after the open DNG specification: a Bayer mosaic of 16-bit words, uncompressed, with black and
 * white level, colour matrix and as-shot neutral.
 * @param takenAt as EXIF writes it.
 */
export function encodeDng(raw: Raw, camera: Camera, takenAt: string): Buffer {
  const text = (tag: number, value: string): Field => ({ tag, type: ASCII, values: [...Buffer.from(`${value}\0`)] });
  const [named, serial = ''] = camera.body.split(', ');
  const [maker, ...model] = named.split(' ');
  const exif: Field[] = [
    { tag: 33434, type: RATIONAL, values: [camera.shutter ?? 0] },
    { tag: 33437, type: RATIONAL, values: [camera.aperture ?? 0] },
    { tag: 34855, type: SHORT, values: [camera.iso ?? 0] },
    text(36867, takenAt),
    { tag: 37386, type: RATIONAL, values: [camera.focal ?? 0] },
    ...(serial ? [text(42033, serial)] : []),
  ];
  const main = (strip: number, exifAt: number): Field[] => [
    { tag: 254, type: LONG, values: [0] },
    { tag: 256, type: LONG, values: [raw.width] },
    { tag: 257, type: LONG, values: [raw.height] },
    { tag: 258, type: SHORT, values: [16] },
    { tag: 259, type: SHORT, values: [1] },
    { tag: 262, type: SHORT, values: [32803] },
    text(271, maker || 'Stand-in'),
    text(272, model.join(' ') || 'Camera'),
    { tag: 273, type: LONG, values: [strip] },
    { tag: 274, type: SHORT, values: [1] },
    { tag: 277, type: SHORT, values: [1] },
    { tag: 278, type: LONG, values: [raw.height] },
    { tag: 279, type: LONG, values: [raw.data.length * 2] },
    { tag: 284, type: SHORT, values: [1] },
    text(306, takenAt),
    { tag: 33421, type: SHORT, values: [2, 2] },
    { tag: 33422, type: BYTE, values: [0, 1, 1, 2] },
    { tag: 34665, type: LONG, values: [exifAt] },
    { tag: 50706, type: BYTE, values: [1, 4, 0, 0] },
    text(50708, named || 'Stand-in Camera'),
    { tag: 50714, type: LONG, values: [raw.black] },
    { tag: 50717, type: LONG, values: [raw.white] },
    { tag: 50721, type: SRATIONAL, values: raw.colourMatrix },
    { tag: 50728, type: RATIONAL, values: raw.neutral },
    // Daylight, D65.
    { tag: 50778, type: SHORT, values: [21] },
  ];
  const head = Buffer.from([0x49, 0x49, 42, 0, 8, 0, 0, 0]);
  const exifAt = 8 + lengthOf(main(0, 0));
  const strip = exifAt + lengthOf(exif);
  const pixels = Buffer.from(raw.data.buffer, raw.data.byteOffset, raw.data.byteLength);
  return Buffer.concat([head, directory(main(strip, exifAt), 8), directory(exif, exifAt), pixels]);
}

function bytesOf({ type, values }: Field): number {
  return sizes[type] * values.length;
}

function lengthOf(fields: readonly Field[]): number {
  const outside = fields.map(bytesOf).filter((bytes) => bytes > 4);
  return 6 + 12 * fields.length + outside.reduce((sum, bytes) => sum + bytes + (bytes & 1), 0);
}

/** A directory of fields, those longer than four bytes behind it. @param at where it will stand in the file. */
function directory(fields: readonly Field[], at: number): Buffer {
  const out = Buffer.alloc(lengthOf(fields));
  let outside = 6 + 12 * fields.length;
  out.writeUInt16LE(fields.length, 0);
  fields.forEach((field, n) => {
    const entry = 2 + 12 * n;
    out.writeUInt16LE(field.tag, entry);
    out.writeUInt16LE(field.type, entry + 2);
    out.writeUInt32LE(field.values.length, entry + 4);
    const bytes = bytesOf(field);
    const from = bytes > 4 ? outside : entry + 8;
    if (bytes > 4) {
      out.writeUInt32LE(at + outside, entry + 8);
      outside += bytes + (bytes & 1);
    }
    field.values.forEach((value, k) => writeValue(out, field.type, value, from + k * sizes[field.type]));
  });
  return out;
}

function writeValue(out: Buffer, type: number, value: number, at: number): void {
  if (type === BYTE || type === ASCII) out.writeUInt8(value, at);
  else if (type === SHORT) out.writeUInt16LE(value, at);
  else if (type === LONG) out.writeUInt32LE(value, at);
  else {
    const over = Math.round(value * DENOMINATOR);
    if (type === RATIONAL) out.writeUInt32LE(over, at);
    else out.writeInt32LE(over, at);
    out.writeUInt32LE(DENOMINATOR, at + 4);
  }
}
