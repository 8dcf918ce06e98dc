import { sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { compositeOnTone, judgingTones, type ToneName } from './composite.ts';

/** Ways to look at a cut that show one side of it at a time. Pictures are 3 or 4 opaque channels of the cut's depth. */

/** What can be shown of a cut alone. */
export const cutViews = ['matte', 'greys', 'colour', 'grey', 'white', 'red', 'black'] as const;
export type CutView = (typeof cutViews)[number];

type Cutout = EncodedRaster & { channels: 4 };

export function shownAs(cutout: Cutout, view: CutView): EncodedRaster {
  if (view === 'matte') return mattePicture(cutout);
  if (view === 'greys') return greysPicture(cutout);
  if (view === 'colour') return colourPicture(cutout);
  return compositeOnTone(cutout, judgingTones[view satisfies ToneName].tone);
}

/** The matte as a grey picture: white is person. */
export function mattePicture(cutout: Cutout): EncodedRaster & { channels: 3 } {
  return painted(cutout, ({ data }, i, out, o) => (out[o] = out[o + 1] = out[o + 2] = data[i + 3]));
}

/** Tone of what is no grey, encoded 0–255; its blue parts solid and clear from every grey. */
const NO_GREY = { clear: [22, 26, 58], solid: [58, 70, 128] } as const;

/** Only half-covered pixels, each as grey as its coverage. */
function greysPicture(cutout: Cutout): EncodedRaster & { channels: 3 } {
  const white = whiteLevel(cutout);
  return painted(cutout, ({ data }, i, out, o) => {
    const a = data[i + 3];
    const flat = a === 0 ? NO_GREY.clear : a === white ? NO_GREY.solid : undefined;
    for (let c = 0; c < 3; c++) out[o + c] = flat ? flat[c] * (white / 255) : a;
  });
}

/** The foreground's colour wherever there is some, however thin it covers. */
function colourPicture(cutout: Cutout): EncodedRaster & { channels: 3 } {
  const white = whiteLevel(cutout);
  return painted(cutout, ({ data }, i, out, o) => {
    for (let c = 0; c < 3; c++) out[o + c] = data[i + 3] ? data[i + c] : judgingTones.grey.tone[c] * (white / 255);
  });
}

/** How much stronger than it was removed spill is shown, so that a little is seen. */
const STRONGER = 3;

/**
 * What removing spill took, as colour on mid-grey and three times as strong: greener where green went, its opposite where that was added. By the
 * coverage of each pixel.
 * @param before the same cut with its spill.
 */
export function spillPicture(before: Cutout, after: Cutout): EncodedRaster & { channels: 3 } {
  const strength = STRONGER / whiteLevel(after);
  return offsets(after, (i, c) => strength * (before.data[i + c] - after.data[i + c]) * after.data[i + 3]);
}

/** Coverage and colours nearer than this to each other are the same, of 1: two reductions of one picture differ. */
const SAME = 0.06;

/**
 * How one cut differs from another of the same frame, on mid-grey: white where there is more, black where there is
 * less, tinted where the colour is another.
 * @param before may be of another size.
 */
export function differencePicture(before: Cutout, after: Cutout): EncodedRaster & { channels: 3 } {
  const white = whiteLevel(after);
  const { width } = after;
  const beyond = SAME * white;
  const near = (v: number): number => (Math.abs(v) < beyond ? 0 : v);
  return offsets(after, (i, c) => {
    const p = i / 4;
    const x = Math.min(before.width - 1, Math.floor((((p % width) + 0.5) / width) * before.width));
    const y = Math.min(before.height - 1, Math.floor(((Math.floor(p / width) + 0.5) / after.height) * before.height));
    const at = (y * before.width + x) * 4;
    const both = Math.min(before.data[at + 3], after.data[i + 3]) / white;
    const colour = both * (after.data[i + c] - before.data[at + c]);
    return near(after.data[i + 3] - before.data[at + 3]) + near(colour);
  });
}

/** Mid-grey with an offset for each pixel and channel, in units of the cut's depth. */
function offsets(cutout: Cutout, offset: (i: number, c: number) => number): EncodedRaster & { channels: 3 } {
  const white = whiteLevel(cutout);
  return painted(cutout, (_, i, out, o) => {
    for (let c = 0; c < 3; c++)
      out[o + c] = Math.min(white, Math.max(0, Math.round(judgingTones.grey.tone[c] * (white / 255) + offset(i, c))));
  });
}

function painted(
  cutout: Cutout,
  paint: (cutout: Cutout, i: number, out: EncodedRaster['data'], o: number) => void,
): EncodedRaster & { channels: 3 } {
  const { width, height, data } = cutout;
  const out = sameDepth(data, width * height * 3);
  for (let i = 0, o = 0; i < data.length; i += 4, o += 3) paint(cutout, i, out, o);
  return { width, height, channels: 3, data: out };
}
