import { linearToOklab } from '../colour/oklab.ts';
import { linearTable } from '../colour/transfer.ts';
import { fillUnknown } from '../image/fillUnknown.ts';
import { growMask } from '../image/growMask.ts';
import { where } from '../image/masks.ts';
import type { EncodedRaster, LinearRaster, Mask } from '../image/raster.ts';
import type { Analysis } from './analysis.ts';
import { maskOf, pieces, type Place } from './places.ts';
import { Region } from './region.ts';
import { firstBeside, secondBeside } from '../colour/channels.ts';

/** So far inside the outline the person's own colour is taken from, reduced pixels and share of the height. */
const DEEP = { least: 8, share: 0.02 };

/** Where the person lies well inside the outline. */
function deepInside({ regions }: Pick<Analysis, 'regions'>, { least, share } = DEEP): Mask {
  return growMask(where(regions, Region.core), -Math.max(least, share * regions.height));
}

/** The colours of the person well inside the outline, spread over all that lies nearer to it. */
export function insideColours(analysis: Analysis): LinearRaster {
  const deep = deepInside(analysis);
  return fillUnknown(analysis.reduced, deep.data.includes(1) ? deep : where(analysis.regions, Region.core));
}

/**
 * What counts as left and as bent: by how much the screen's channel leads more than in the person's own colour there,
 * of the sum of the channels; how far a colour was moved, OKLab × 100; and light, of 1, below which colour says
 * nothing.
 */
const bounds = { left: 0.035, bent: 4, light: 0.012 };
/** Farther inside than this the screen's light does not reach by itself, reduced pixels and share of the height. */
const BEYOND_REACH = { least: 20, share: 0.05 };
/** Reduced pixels of the smallest place. */
const LEAST = 30;

export interface SpillPlaces {
  /** Reduced pixels, and where. */
  area: number;
  places: Place[];
}

/**
 * Where the screen's light is left on the solid person beside the outline, and where taking it bent a colour that lies
 * too deep inside to be lit by it. What stays green is passed over.
 */
export function spillPlaces(
  cutout: EncodedRaster,
  analysis: Analysis,
  alpha: { data: Float32Array },
): Record<'left' | 'bent', SpillPlaces> {
  const { regions, kept, dyed, outside, survey, factor, reduced } = analysis;
  const { width } = regions;
  const table = linearTable(cutout.data);
  const inside = insideColours(analysis);
  const deep = deepInside(analysis);
  const beyondReach = deepInside(analysis, BEYOND_REACH);
  const final = new Float32Array(3);
  const { channel } = survey;
  const lead = (...rgb: [number, number, number]): number =>
    (rgb[channel] - Math.max(rgb[firstBeside[channel]], rgb[secondBeside[channel]])) / (rgb[0] + rgb[1] + rgb[2]);
  const left = maskOf(regions, () => false);
  const bent = maskOf(regions, () => false);
  for (let p = 0; p < regions.data.length; p++) {
    if (regions.data[p] !== Region.core || kept.data[p] || dyed.data[p] || outside.data[p] || alpha.data[p] < 0.98)
      continue;
    const x = Math.min(cutout.width - 1, (p % width) * factor + (factor >> 1));
    const y = Math.min(cutout.height - 1, ((p / width) | 0) * factor + (factor >> 1));
    const o = (y * cutout.width + x) * 4;
    for (let c = 0; c < 3; c++) final[c] = table[cutout.data[o + c]];
    const [r, g, b] = final;
    if (r + g + b < bounds.light) continue;
    const i = p * 3;
    if (!deep.data[p]) {
      const own = lead(inside.data[i], inside.data[i + 1], inside.data[i + 2]);
      if (lead(r, g, b) - Math.max(0, own) > bounds.left) left.data[p] = 1;
    } else if (beyondReach.data[p]) {
      const before = linearToOklab(reduced.data[i], reduced.data[i + 1], reduced.data[i + 2]);
      const after = linearToOklab(r, g, b);
      // Where one pixel stands for many, light differs by chance; hue and purity do not.
      if (100 * Math.hypot(after[1] - before[1], after[2] - before[2]) > bounds.bent) bent.data[p] = 1;
    }
  }
  return { left: told(left), bent: told(bent) };
}

function told(mask: Mask): SpillPlaces {
  return { area: mask.data.reduce((n, v) => n + v, 0), places: pieces(mask, LEAST) };
}
