import type { Order } from '../../../core/cut/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { placedPeople, type Look, type Placement } from '../../../core/place/index.ts';
import { decodePicture } from '../../pictures/decode.ts';
import { encodePicture, extensions, toSixteen, type PictureFormat } from '../../pictures/encode.ts';
import { decodeCutout } from '../../pictures/views.ts';
import type { Bench } from '../../threads/bench.ts';
import { cutByOrder } from '../extract/cutTask.ts';
import { alsoOf, type FiledExtras } from '../place/extras.ts';
import { peopleOf, type FiledOther } from '../place/filedOthers.ts';
import type { KnownLight } from '../place/knownLight.ts';
import { measuredOf } from '../place/finishedTask.ts';

/** A cut, what it was made with, and which files of it are wanted. */
export interface FilesInput {
  photograph: string;
  order: Order;
  cut: { file: string; depth: 8 | 16 };
  cutout: 'png' | 'png16' | null;
  finished: {
    format: 'jpeg' | 'png';
    quality: number;
    background: string;
    light: KnownLight;
    placement: Placement;
    look: Look;
    extras?: FiledExtras;
    others: FiledOther[];
  } | null;
}
export interface MadeFile {
  kind: 'cutout' | 'finished';
  extension: string;
  file: string;
  bytes: number;
  width: number;
  height: number;
}
export type FilesOutput = { files: MadeFile[] };

/** Makes the files of one frame that are handed over. @throws PictureError if one of its pictures is missing. */
export async function makeFiles(input: FilesInput, { store }: Bench): Promise<FilesOutput> {
  const files: MadeFile[] = [];
  const write = async (
    kind: MadeFile['kind'],
    { width, height, ...picture }: EncodedRaster,
    format: PictureFormat,
    quality?: number,
  ): Promise<void> => {
    const content = await encodePicture({ width, height, ...picture }, format, quality);
    files.push({
      kind,
      extension: extensions[format],
      file: await store.put(content),
      bytes: content.length,
      width,
      height,
    });
  };
  const { cut, cutout, finished } = input;
  const stored = await decodeCutout(await store.need(cut.file, 'this cut'), cut.depth);
  if (cutout)
    await write('cutout', cutout === 'png16' && cut.depth === 8 ? await atSixteen(input, store) : stored, cutout);
  if (finished) {
    const background = await decodePicture(await store.need(finished.background, 'the background'), 'background');
    const { look, placement, extras, others } = finished;
    const { width, height } = background;
    const file = { file: finished.background, width, height };
    const measured = await measuredOf(
      {
        cut: { ...cut, width: stored.width, height: stored.height },
        background: file,
        light: finished.light,
        placement,
        look,
        others,
      },
      store,
    );
    const people = await peopleOf(
      { cutout: stored, placement, mirrored: look.mirrorPerson, turn: look.turn, measured },
      others,
      file,
      async (of) => decodeCutout(await store.need(of.file, 'this cut'), of.depth),
      store,
    );
    const picture = placedPeople(people, background, look, await alsoOf(extras, background, store));
    await write('finished', picture, finished.format, finished.quality);
  }
  return { files };
}

/** An 8-bit photograph cut again with 16 bits of coverage and colour, so that the wider file really holds more. */
async function atSixteen({ photograph, order }: FilesInput, store: Bench['store']): Promise<EncodedRaster> {
  const picture = await decodePicture(await store.need(photograph, 'this photograph'), 'frame');
  return (await cutByOrder(toSixteen(picture), photograph, order, store)).cutout;
}
