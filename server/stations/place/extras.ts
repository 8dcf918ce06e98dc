import { eq, inArray } from 'drizzle-orm';
import sharp from 'sharp';
import {
  cardSvg,
  isNoExtras,
  type Also,
  type Card,
  type CardFields,
  type Curves,
  type Extras,
  type Layer,
  type Size,
} from '../../../core/place/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import type { Database } from '../../database/connect.ts';
import { backgrounds, frames, luts, setups, shoots } from '../../database/schema.ts';
import { decodeLayer, layerOfHeight, rgbaOf } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import { drawText } from './drawText.ts';
import { storedCube } from './storedCube.ts';

/** The extras of one finished picture, with the names of files in the place of rows: what a worker thread needs. */
export interface FiledExtras {
  lut: string | null;
  layers: (Pick<Layer, 'where' | 'way' | 'strength' | 'at'> & { file: string })[];
  card: { card: Card; fields: CardFields } | null;
  curves: Curves | null;
}

/** @returns undefined where there are none. What is no longer in the library is left out. */
export async function filedExtras(
  database: Database,
  extras: Extras,
  frameId: number,
  background: string,
): Promise<FiledExtras | undefined> {
  if (isNoExtras(extras)) return undefined;
  const { lut, layers, card, curves } = extras;
  const [table] = lut === null ? [] : await database.select().from(luts).where(eq(luts.id, lut));
  const ids = layers.map(({ backgroundId }) => backgroundId);
  const pictures = ids.length ? await database.select().from(backgrounds).where(inArray(backgrounds.id, ids)) : [];
  return {
    lut: table?.file ?? null,
    layers: layers.flatMap(({ backgroundId, where, way, strength, at }) => {
      const file = pictures.find(({ id }) => id === backgroundId)?.file;
      return file ? [{ where, way, strength, at, file }] : [];
    }),
    card: card && { card, fields: await fieldsOf(database, frameId, background) },
    curves: curves ?? null,
  };
}

/** What stands in the fields of a frame's card. */
export async function fieldsOf(database: Database, frameId: number, background: string): Promise<CardFields> {
  const [row] = await database
    .select({ frame: frames, shoot: shoots })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .innerJoin(shoots, eq(shoots.id, setups.shootId))
    .where(eq(frames.id, frameId));
  const of = await database
    .select({ id: frames.id, name: frames.name })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .where(eq(setups.shootId, row?.shoot.id ?? 0))
    .orderBy(frames.takenAt, frames.name, frames.id);
  return {
    name: row?.frame.subject ?? '',
    frame: row?.frame.name.replace(/\.[^.]*$/, '') ?? '',
    number: `${of.findIndex(({ id }) => id === frameId) + 1}`.padStart(`${of.length}`.length, '0'),
    shoot: row?.shoot.name ?? '',
    date: row ? dayInWords(row.shoot.date) : '',
    place: row?.shoot.place ?? '',
    background,
  };
}

function dayInWords(date: string): string {
  return new Date(`${date}T12:00:00Z`).toLocaleDateString('en-GB', { dateStyle: 'long', timeZone: 'UTC' });
}

/** Pixels and tables of the extras of a picture of a size. @throws PictureError if a file is missing. */
export async function alsoOf(extras: FiledExtras | undefined, size: Size, store: Store): Promise<Also> {
  if (!extras) return {};
  const { lut, layers, card, curves } = extras;
  const laid = await Promise.all(
    layers.map(async ({ file, where, way, strength, at }) => {
      const path = await store.need(file, 'a layer');
      // At a place it is as large as it is wanted there, in its own form.
      const picture = at
        ? await layerOfHeight(path, Math.max(1, Math.round(at.height * size.height)))
        : await decodeLayer(path, size);
      return { where, laid: { picture, way, strength, at } };
    }),
  );
  return {
    curves: curves ?? undefined,
    lut: lut === null ? undefined : await storedCube(lut, store),
    behind: laid.filter(({ where }) => where === 'behind').map((one) => one.laid),
    front: laid.filter(({ where }) => where === 'front').map((one) => one.laid),
    card: card ? await cardPicture(card.card, card.fields, size) : undefined,
  };
}

/** A card as pixels, RGBA of 8 bits. */
export function cardPicture(
  card: Card,
  fields: CardFields,
  { width, height }: Size,
): Promise<EncodedRaster & { channels: 4 }> {
  const svg = cardSvg(card, fields, width, height, drawText);
  return rgbaOf(
    sharp(Buffer.from(svg), { limitInputPixels: false, unlimited: true }).ensureAlpha().toColourspace('srgb'),
  );
}
