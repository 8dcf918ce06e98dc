import type { Order } from '../../../core/cut/index.ts';
import {
  matteOf,
  showsWords,
  trimmedTo,
  type People,
  type Preset,
  type PrintCrop,
  type WrittenFacts,
} from '../../../core/handOver/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import {
  compositeOnTone,
  cropped,
  judgingTones,
  placedPeople,
  type Look,
  type PlacedPerson,
  type Placement,
} from '../../../core/place/index.ts';
import { decodePicture } from '../../pictures/decode.ts';
import { encodePicture, fromRaster, toSixteen } from '../../pictures/encode.ts';
import { decodeCutout } from '../../pictures/views.ts';
import type { Bench } from '../../threads/bench.ts';
import { cutByOrder } from '../extract/cutTask.ts';
import { readPaths } from '../extract/paths.ts';
import { alsoOf, cardPicture, type FiledExtras } from '../place/extras.ts';
import { peopleOf, type FiledOther } from '../place/filedOthers.ts';
import type { KnownLight } from '../place/knownLight.ts';
import { measuredOf } from '../place/finishedTask.ts';
import { layeredFile } from './layeredFile.ts';
import { printFile, sheetFile, type Encoded, type Finished } from './printFile.ts';
import { screenFile } from './screenFile.ts';

/** A cut, what it was made with, and which files of it are wanted. */
export interface FilesInput {
  photograph: string;
  order: Order;
  cut: { file: string; depth: 8 | 16 };
  /** Null where nobody has chosen a background. */
  finished: {
    background: string;
    light: KnownLight;
    placement: Placement;
    look: Look;
    extras?: FiledExtras;
    others: FiledOther[];
    /** Who is where on it, and the crops that a hand moved. */
    people: People | null;
    crops: Record<string, PrintCrop>;
  } | null;
  wanted: WantedFile[];
}
/** A row of the hand-over, the preset that it is made by, or the small picture of the papers. */
export interface WantedFile {
  row: number;
  preset: Preset | null;
  facts: WrittenFacts;
  madeFrom: string;
}
export interface MadeFile {
  row: number;
  madeFrom: string;
  file: string;
  bytes: number;
  width: number;
  height: number;
}
export type FilesOutput = { files: MadeFile[] };

/** Longest side of the small picture of contact sheet, slips and proof pages. */
const SMALL_SIDE = 900;

/** Makes the files of one frame that are handed over. @throws PictureError if one of its pictures is missing. */
export async function makeFiles(input: FilesInput, { store }: Bench): Promise<FilesOutput> {
  const { cut } = input;
  const stored = await decodeCutout(await store.need(cut.file, 'this cut'), cut.depth);
  const { extras } = input.finished ?? {};
  const placed = once(() => placedOf(input, stored, store, extras));
  // Prints lay out their words on the paper, so their picture has none.
  const bare = extras?.card ? once(() => placedOf(input, stored, store, { ...extras, card: null })) : placed;
  const deep = once(async () => (cut.depth === 8 ? atSixteen(input, store) : stored));
  const files: MadeFile[] = [];
  for (const { row, preset, facts, madeFrom } of input.wanted) {
    const made = preset
      ? await fileOf(preset, facts, { input, stored, placed, bare, deep, store })
      : await smallFile((await placed())?.picture ?? stored);
    const { content, width, height } = made;
    files.push({ row, madeFrom, file: await store.put(content), bytes: content.length, width, height });
  }
  return { files };
}

interface At {
  input: FilesInput;
  stored: EncodedRaster & { channels: 4 };
  placed: () => Promise<Placed | null>;
  /** The same without the words and the border of its style. */
  bare: () => Promise<Placed | null>;
  deep: () => Promise<EncodedRaster & { channels: 4 }>;
  store: Bench['store'];
}

async function fileOf(preset: Preset, facts: WrittenFacts, at: At): Promise<Encoded> {
  const { input, stored, placed, bare, deep, store } = at;
  if (preset.kind === 'cutout') {
    const cutout = preset.format === 'png' ? stored : await deep();
    const part = preset.trimmed ? cropped(cutout, trimmedTo(cutout)) : cutout;
    return { ...sizeOf(part), content: await encodePicture(part, preset.format, { facts }) };
  }
  if (preset.kind === 'matte') {
    const matte = matteOf(preset.format === 'png' ? stored : await deep());
    return { ...sizeOf(matte), content: await encodePicture(matte, preset.format, { facts }) };
  }
  const whole = preset.kind === 'layered' || (preset.kind === 'screen' && showsWords(preset));
  const onBackground = await (whole ? placed() : bare());
  if (preset.kind === 'layered') {
    const { touches } = input.order.guidance;
    const photograph = await decodePicture(await store.need(input.photograph, 'this photograph'), 'frame');
    const paths = await readPaths(store, touches);
    const empty = onBackground?.empty();
    return layeredFile(
      {
        photograph,
        cutout: stored,
        touches,
        paths,
        placed: onBackground && empty ? { ...onBackground, empty } : null,
      },
      facts,
    );
  }
  if (!onBackground || !input.finished) throw new Error(`${preset.kind} needs a finished picture`);
  const { people, crops, extras } = input.finished;
  const finished = { picture: onBackground.picture, people, crops, card: paperCard(extras) };
  if (preset.kind === 'print') return printFile(preset, finished, facts, store);
  if (preset.kind === 'sheet') return sheetFile(preset, finished, facts.title);
  return screenFile(preset, onBackground.picture, facts);
}

interface Placed {
  picture: EncodedRaster & { channels: 3 };
  /** The same with nobody in it. */
  empty: () => EncodedRaster & { channels: 3 };
  people: PlacedPerson[];
}

async function placedOf(
  { cut, finished }: FilesInput,
  stored: EncodedRaster & { channels: 4 },
  store: Bench['store'],
  extras: FiledExtras | undefined,
): Promise<Placed | null> {
  if (!finished) return null;
  const background = await decodePicture(await store.need(finished.background, 'the background'), 'background');
  const { look, placement, others } = finished;
  const file = { file: finished.background, ...sizeOf(background) };
  const measured = await measuredOf(
    {
      cut: { ...cut, ...sizeOf(stored) },
      background: file,
      light: finished.light,
      look,
    },
    store,
  );
  const main = { cutout: stored, placement, mirrored: look.mirrorPerson, turn: look.turn, measured };
  const people = await peopleOf(
    main,
    others,
    file,
    async (of) => decodeCutout(await store.need(of.file, 'this cut'), of.depth),
    store,
  );
  const also = await alsoOf(extras, background, store);
  const nobody = { ...stored, data: stored.data.slice().fill(0) };
  return {
    picture: placedPeople(people, background, look, also),
    empty: () => placedPeople([{ ...main, cutout: nobody }], background, look, also),
    people,
  };
}

/** Words and border of a style as they are laid out on a paper. */
function paperCard(extras: FiledExtras | undefined): Finished['card'] {
  const worded = extras?.card;
  if (!worded) return null;
  const { card, fields } = worded;
  return (size, safe) => {
    const margin = Math.max(card.margin, (safe / Math.min(size.width, size.height)) * 1000);
    return cardPicture({ ...card, margin }, fields, size);
  };
}

async function smallFile(picture: EncodedRaster): Promise<Encoded> {
  const seen = picture.channels === 4 ? compositeOnTone(picture, judgingTones.grey.tone) : picture;
  const { data, info } = await fromRaster(seen)
    .removeAlpha()
    .resize(SMALL_SIDE, SMALL_SIDE, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .jpeg({ quality: 82 })
    .withIccProfile('srgb')
    .toBuffer({ resolveWithObject: true });
  return { content: data, width: info.width, height: info.height };
}

/** An 8-bit photograph cut again with 16 bits of coverage and colour, so that the wider file really holds more. */
async function atSixteen(
  { photograph, order }: FilesInput,
  store: Bench['store'],
): Promise<EncodedRaster & { channels: 4 }> {
  const picture = await decodePicture(await store.need(photograph, 'this photograph'), 'frame');
  return (await cutByOrder(toSixteen(picture), photograph, order, store)).cutout;
}

function sizeOf({ width, height }: { width: number; height: number }) {
  return { width, height };
}

/** What is computed at the first call and kept. */
function once<T>(make: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | undefined;
  return () => (made ??= make());
}
