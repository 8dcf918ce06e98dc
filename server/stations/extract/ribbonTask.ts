import { ribbonOf, wrapped } from '../../../core/touch/ribbon.ts';
import { shownAs, type CutView } from '../../../core/place/index.ts';
import type { RibbonSheet } from '../../../contract/index.ts';
import { fromRaster } from '../../pictures/encode.ts';
import { decodeCutout } from '../../pictures/views.ts';
import type { Bench } from '../../threads/bench.ts';

/** A stored cut by its hash, how it is shown, and how wide a row of its ribbon is. */
export interface RibbonInput {
  cut: string;
  view: CutView;
  across: number;
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
export async function ribbon({ cut, view, across }: RibbonInput, { store }: Bench): Promise<RibbonSheet> {
  const cutout = await decodeCutout(await store.need(cut, 'this cut'), 8);
  const { strip, outline } = ribbonOf(cutout, { ...DEPTH, over: Math.max(1, Math.round(OVER * cutout.height)) });
  const most = MOST_ROWS * across;
  const sheet = wrapped(strip.width > most ? firstOf(strip, most) : strip, across, GAP);
  const picture = shownAs(sheet, view);
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

function share(value: number): number {
  return Math.round(Math.min(1, Math.max(0, value)) * 1e4) / 1e4;
}

function firstOf(strip: Parameters<typeof wrapped>[0], columns: number): Parameters<typeof wrapped>[0] {
  const data = new Uint8Array(columns * strip.height * 4);
  for (let y = 0; y < strip.height; y++)
    data.set(strip.data.subarray(y * strip.width * 4, (y * strip.width + columns) * 4), y * columns * 4);
  return { ...strip, width: columns, data };
}
