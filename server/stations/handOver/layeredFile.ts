import yazl from 'yazl';
import { linearToSrgb } from '../../../core/colour/transfer.ts';
import { strokesOf, type Path, type Touch } from '../../../core/cut/index.ts';
import { eachIn, stampOf } from '../../../core/touch/stamp.ts';
import {
  coverageOf,
  layersOf,
  matteOf,
  placedLayer,
  uncleaned,
  type Standing,
  type WrittenFacts,
} from '../../../core/handOver/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import type { Size } from '../../../core/place/index.ts';
import { encodePicture, fromRaster } from '../../pictures/encode.ts';
import type { Encoded } from './printFile.ts';

/** A layer from above to below; hidden ones are there to be switched on. */
interface OraLayer {
  name: string;
  picture: EncodedRaster;
  hidden?: boolean;
}

export interface Parts {
  photograph: EncodedRaster;
  cutout: EncodedRaster & { channels: 4 };
  touches: readonly Touch[];
  paths: ReadonlyMap<string, Path>;
  /** Null where nobody stands on a background. */
  placed: {
    picture: EncodedRaster & { channels: 3 };
    empty: EncodedRaster & { channels: 3 };
    people: readonly Standing[];
  } | null;
}

/** A picture with its layers as an OpenRaster file: those that make it, and hidden the matte, the spill and the touches. */
export async function layeredFile(parts: Parts, facts: WrittenFacts): Promise<Encoded> {
  const { cutout, placed } = parts;
  const layers = placed ? placedLayers(parts, placed) : cutLayers(parts);
  const size = placed ? placed.picture : cutout;
  const merged = placed ? placed.picture : cutout;
  return { content: await oraOf(layers, merged, size, facts), width: size.width, height: size.height };
}

const encode8 = (linear: number): number => Math.round(255 * Math.max(0, Math.min(1, linearToSrgb(linear))));
const names = {
  touches: 'Touches',
  matte: 'Matte',
  spill: 'Person with the screen’s light',
  person: 'Person',
  shadow: 'Shadow',
  background: 'Background',
  photograph: 'Photograph',
} as const;

function placedLayers({ photograph, cutout, touches, paths }: Parts, placed: NonNullable<Parts['placed']>): OraLayer[] {
  const { picture, empty, people } = placed;
  const put = (raster: EncodedRaster, standing: Standing) =>
    placedLayer({ ...standing, cutout: raster }, picture, encode8);
  const coverage = coverageOf(people.map((standing) => put(standing.cutout, standing)));
  const { background, shadow, people: person } = layersOf(picture, empty, coverage);
  const main = people.find((standing) => standing.cutout === cutout) ?? people[0];
  const drawn = touchesOf(touches, paths, cutout);
  const matte = { width: picture.width, height: picture.height, channels: 1 as const, data: coverage };
  return [
    ...(drawn ? [{ name: names.touches, picture: put(drawn, main), hidden: true }] : []),
    { name: names.matte, picture: matte, hidden: true },
    { name: names.spill, picture: put(uncleaned(photograph, cutout), main), hidden: true },
    { name: names.person, picture: person },
    { name: names.shadow, picture: shadow },
    { name: names.background, picture: background },
  ];
}

function cutLayers({ photograph, cutout, touches, paths }: Parts): OraLayer[] {
  const drawn = touchesOf(touches, paths, cutout);
  return [
    ...(drawn ? [{ name: names.touches, picture: drawn, hidden: true }] : []),
    { name: names.matte, picture: matteOf(cutout), hidden: true },
    { name: names.spill, picture: uncleaned(photograph, cutout), hidden: true },
    { name: names.person, picture: cutout },
    { name: names.photograph, picture: photograph, hidden: true },
  ];
}

const TOUCHED = [178, 34, 138] as const;

/** Where touches are, as strong as they are; undefined without any. */
function touchesOf(
  touches: readonly Touch[],
  paths: ReadonlyMap<string, Path>,
  { width, height }: Size,
): (EncodedRaster & { channels: 4 }) | undefined {
  const strokes = strokesOf(touches, paths);
  if (!strokes.length) return undefined;
  const data = new Uint8Array(width * height * 4);
  for (let p = 0; p < width * height; p++) data.set(TOUCHED, p * 4);
  for (const stroke of strokes) {
    const stamp = stampOf(stroke, width, height);
    if (!stamp) continue;
    eachIn(stamp, width, (p, share) => {
      data[p * 4 + 3] = Math.max(data[p * 4 + 3], Math.round(share * stroke.strength * 255));
    });
  }
  return { width, height, channels: 4, data };
}

/** The longer side of its small picture, pixels, by the format’s baseline. */
const THUMBNAIL = 256;

/** An OpenRaster file (freedesktop.org, baseline 0.0.3): a ZIP of PNGs and the list of their order. */
async function oraOf(
  layers: readonly OraLayer[],
  merged: EncodedRaster,
  size: Size,
  facts: WrittenFacts,
): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  const mtime = new Date(Date.UTC(2000, 0, 1));
  const add = (content: Buffer, name: string): void => zip.addBuffer(content, name, { compress: false, mtime });
  // The kind of file comes first and uncompressed, so that it is read without opening the ZIP.
  add(Buffer.from('image/openraster'), 'mimetype');
  const entries: string[] = [];
  for (const [n, { name, picture, hidden }] of layers.entries()) {
    const src = `data/layer${n}.png`;
    add(await encodePicture(picture, 'png'), src);
    entries.push(
      `<layer name="${name}" src="${src}" x="0" y="0" opacity="1.0" visibility="${hidden ? 'hidden' : 'visible'}" composite-op="svg:src-over"/>`,
    );
  }
  const stack = `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.3" w="${size.width}" h="${size.height}"><stack>${entries.join('')}</stack></image>\n`;
  add(Buffer.from(stack), 'stack.xml');
  add(await encodePicture(merged, 'png', { facts }), 'mergedimage.png');
  const small = fromRaster(merged).resize(THUMBNAIL, THUMBNAIL, { fit: 'inside', withoutEnlargement: true });
  add(await small.toColourspace('srgb').png().toBuffer(), 'Thumbnails/thumbnail.png');
  zip.end();
  const chunks: Buffer[] = [];
  for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}
