import { open } from 'node:fs/promises';

/** TIFF 6.0 and TIFF/EP tags by which a camera raw file is known. */
const NEW_SUBFILE_TYPE = 254;
const PHOTOMETRIC = 262;
const SUB_IFDS = 330;
const DNG_VERSION = 50706;
const COLOUR_FILTER_ARRAY = 32803;
const LINEAR_RAW = 34892;
/** The first directory of any file that a camera or converter writes lies within its first kilobytes, or is small. */
const MOST_ENTRIES = 400;

/** Signatures of raw files that are no TIFF. */
const others: [string, number][] = [
  ['FUJIFILM', 0],
  ['IIRO', 0],
  ['IIRS', 0],
  ['IIU\0', 0],
  ['\0MRM', 0],
  ['ftypcrx', 4],
  ['FOVb', 0],
];

/** Whether a file is a camera's raw data: the picture that a decoder finds in it is a small preview. */
export async function isCameraRaw(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const head = Buffer.alloc(16);
    await file.read(head, 0, 16, 0);
    if (others.some(([signature, at]) => head.toString('latin1', at, at + signature.length) === signature)) return true;
    const little = head.toString('latin1', 0, 2) === 'II';
    if (!little && head.toString('latin1', 0, 2) !== 'MM') return false;
    // One maker writes its letters behind the header.
    if (head.toString('latin1', 8, 10) === 'CR') return true;
    const read16 = (buffer: Buffer, o: number): number => (little ? buffer.readUInt16LE(o) : buffer.readUInt16BE(o));
    const read32 = (buffer: Buffer, o: number): number => (little ? buffer.readUInt32LE(o) : buffer.readUInt32BE(o));
    const start = read32(head, 4);
    const size = Buffer.alloc(2);
    if ((await file.read(size, 0, 2, start)).bytesRead < 2) return false;
    const count = Math.min(MOST_ENTRIES, read16(size, 0));
    const directory = Buffer.alloc(count * 12);
    const { bytesRead } = await file.read(directory, 0, directory.length, start + 2);
    const values = new Map<number, number>();
    for (let o = 0; o + 12 <= bytesRead; o += 12)
      values.set(
        read16(directory, o),
        read16(directory, o + 2) === 3 ? read16(directory, o + 8) : read32(directory, o + 8),
      );
    const reduced = ((values.get(NEW_SUBFILE_TYPE) ?? 0) & 1) === 1;
    const photometric = values.get(PHOTOMETRIC);
    return (
      values.has(DNG_VERSION) ||
      photometric === COLOUR_FILTER_ARRAY ||
      photometric === LINEAR_RAW ||
      (reduced && values.has(SUB_IFDS))
    );
  } finally {
    await file.close();
  }
}
