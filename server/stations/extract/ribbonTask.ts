import { alongOutline, ribbonOf, wrapped } from '../../../core/touch/ribbon.ts';
import { onBackground, placedRectangle, shownAs, type CutView, type Placement } from '../../../core/place/index.ts';
import type { RibbonSheet } from '../../../contract/index.ts';
import type { Order } from '../../../core/cut/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { decodePicture } from '../../pictures/decode.ts';
import { fromRaster } from '../../pictures/encode.ts';
import { decodeCutout } from '../../pictures/views.ts';
import type { Store } from '../../store/store.ts';
import type { Bench } from '../../threads/bench.ts';
import { orderedCut } from './lookTask.ts';

/** A stored cut by its hash, what its outline is shown of, and how wide a row of its ribbon is. */
export interface RibbonInput {
  cut: string;
  of: { view: CutView } | { photograph: string } | { background: string; placement: Placement };
  across: number;
  /** The cut that is ordered now, if it is not the stored one: it is shown along the stored one's outline. */
  ordered?: { photograph: string; order: Order };
}

/** Pixels of the frame inside and outside of the outline; share of its height over which loose hair is one edge. */
const DEPTH = { inside: 30, outside: 42 };
const OVER = 0.003;
/** Between rows, pixels. */
const GAP = 4;
/** Columns from one told place of the outline to the next. */
const STEP = 8;
/** Rows of a sheet, at most: an outline of loose hair is long. */
const MOST_ROWS = 120;

/** Unrolls the outline of a cut and wraps it into rows. */
export async function ribbon({ cut, of, across, ordered }: RibbonInput, { store }: Bench): Promise<RibbonSheet> {
  const cutout = await decodeCutout(await store.need(cut, 'this cut'), 8);
  const depth = { ...DEPTH, over: Math.max(1, Math.round(OVER * cutout.height)) };
  const made = ribbonOf(cutout, depth, ordered ? await orderedCut(ordered, store) : cutout);
  const { strip, outline } = made;
  const most = MOST_ROWS * across;
  const columns = Math.min(most, strip.width);
  const sheet = wrapped(strip.width > most ? firstOf(strip, most) : strip, across, GAP);
  const along = (picture: Rgb, placeIn?: (x: number, y: number) => readonly [number, number]): Rgb =>
    wrapped(alongOutline(picture, made, depth, columns, placeIn), across, GAP);
  const picture = 'view' in of ? shownAs(sheet, of.view) : await otherAlong(of, sheet, cutout, along, store);
  const places: number[] = [];
  for (let n = 0; n < Math.min(strip.width, most); n += STEP)
    places.push(share(outline[2 * n] / cutout.width), share(outline[2 * n + 1] / cutout.height));
  const png = await fromRaster(picture).png({ compressionLevel: 2 }).toBuffer();
  return {
    width: across,
    height: sheet.height,
    row: strip.height + GAP,
    outside: DEPTH.outside,
    length: strip.width,
    step: STEP,
    places,
    picture: `data:image/png;base64,${png.toString('base64')}`,
  };
}

type Rgb = EncodedRaster & { channels: 3 };
type Cutout = EncodedRaster & { channels: 4 };

/** The outline in the photograph itself, or the unrolled cut on what of its background lies under it. */
async function otherAlong(
  of: Exclude<RibbonInput['of'], { view: CutView }>,
  sheet: EncodedRaster,
  cutout: EncodedRaster,
  along: (picture: Rgb, placeIn?: (x: number, y: number) => readonly [number, number]) => Rgb,
  store: Store,
): Promise<Rgb> {
  if ('photograph' in of)
    return along(await decodePicture(await store.need(of.photograph, 'this photograph'), 'frame'));
  const background = await decodePicture(await store.need(of.background, 'the background'), 'background');
  const { left, top, width } = placedRectangle(cutout, background, of.placement);
  const scale = width / cutout.width;
  return onBackground(
    sheet,
    along(background, (x, y) => [left + x * scale, top + y * scale]),
  );
}

function share(value: number): number {
  return Math.round(Math.min(1, Math.max(0, value)) * 1e4) / 1e4;
}

function firstOf(strip: Cutout, columns: number): Cutout {
  const data = new Uint8Array(columns * strip.height * 4);
  for (let y = 0; y < strip.height; y++)
    data.set(strip.data.subarray(y * strip.width * 4, (y * strip.width + columns) * 4), y * columns * 4);
  return { ...strip, width: columns, data };
}
