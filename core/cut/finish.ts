import { growMask } from '../image/growMask.ts';
import { sameDepth, whiteLevel, type EncodedRaster } from '../image/raster.ts';
import { ColourTouches } from '../touch/onColour.ts';
import type { Stroke } from '../touch/touch.ts';
import type { Analysis } from './analysis.ts';
import { finishRows, Kind } from './finishRows.ts';
import { spillAlong, spillMasks } from './guidance.ts';
import type { Matte } from './coverage.ts';
import type { Recipe, SpillColour } from './recipe.ts';
import { sigmaOf } from './solver.ts';
import { spillWay } from './spill.ts';
import { insideColours } from './spillPlaces.ts';

type FinishRecipe = Pick<Recipe, 'floor' | 'ceiling' | 'spill' | 'spillMethod' | 'method' | SpillColour>;

/**
 * The cut-out picture: coverage between floor and ceiling, foreground colour as unmixing leaves it, spill removed.
 * @param also what a hand touched, and which rows are wanted, all if left out: from, and up to which.
 * @returns RGBA of the frame's depth, the wanted rows, straight alpha, sRGB; colour is 0 where alpha is 0.
 */
export function finishCut(
  frame: EncodedRaster,
  analysis: Analysis,
  matte: Matte,
  recipe: FinishRecipe,
  {
    strokes = [],
    rows: [from, to] = [0, frame.height],
  }: { strokes?: readonly Stroke[]; rows?: readonly [number, number] } = {},
): EncodedRaster & { channels: 4 } {
  const { width, height } = frame;
  const { colours, noise, survey, masks, factor } = analysis;
  const final = coverageTable(recipe, noise, whiteLevel(frame));
  const finish = {
    kinds: kindsOf(analysis, recipe.method),
    final,
    channel: survey.channel,
    spill: spillWay(recipe),
  };
  const rows = finishRows(frame, analysis, colours, sigmaOf(noise), finish);
  const localSpill = spillMasks(masks);
  const touches = new ColourTouches(strokes, width, height);
  const inside = touches.aboutEdges ? insideColours(analysis) : undefined;
  // Grey shines no colour on anybody.
  const amount = survey.screen === 'grey' ? 0 : recipe.spill;
  rows.amount.fill(amount);
  rows.gone.fill(0);
  const data = sameDepth(frame.data, width * (to - from) * 4);
  for (let y = from; y < to; y++) {
    if (localSpill.length || touches.aboutSpill) spillAlong(localSpill, amount, y, height, rows.amount, rows.gone);
    touches.spillAlong(y, rows.amount, rows.gone);
    const own = matte.alpha.subarray(y * width, (y + 1) * width);
    const solved = matte.solved?.subarray(y * width, (y + 1) * width);
    rows.alpha.set(own);
    if (solved) for (let x = 0; x < width; x++) if (keepsColour(solved[x], own[x], final)) rows.alpha[x] = solved[x];
    const count = rows.sort(y);
    if (count) {
      rows.read(count, y, 0);
      rows.unmix(count);
      rows.colour(count, y);
    }
    if (solved)
      for (let x = 0; x < width; x++)
        if (keepsColour(solved[x], own[x], final)) cover(rows.pixels, x * 4, final[own[x]]);
    if (inside) touches.colourAlong(y, rows.pixels, inside, factor);
    data.set(rows.pixels, (y - from) * width * 4);
  }
  return { width, height: to - from, channels: 4, data };
}

/**
 * Whether a pixel whose coverage was changed has the colour that it was solved with: what covers less, since less of the
 * screen is in it, and what covers more and is still no solid thing, since what was added is more of the same.
 */
function keepsColour(solved: number, own: number, final: Uint16Array): boolean {
  return solved > own || (own > solved && own < 65535 && final[solved] > 0);
}

/** Gives a pixel its coverage; without any it has no colour. */
function cover(pixels: Uint8Array | Uint16Array, o: number, coverage: number): void {
  if (coverage > 0) pixels[o + 3] = coverage;
  else pixels.fill(0, o, o + 4);
}

/** What each reduced pixel is, for finishing. The classic methods know no green that stays. */
function kindsOf({ outside, kept, dyed, sheer }: Analysis, method: Recipe['method']): Uint8Array {
  const beside = method === 'unmixing' && kept.data.includes(1) ? growMask(kept, BESIDE).data : undefined;
  return outside.data.map((beyond, p) => {
    const stays = method === 'unmixing' && (kept.data[p] || dyed.data[p]);
    return (
      (beyond ? Kind.beyond : 0) |
      (stays ? Kind.kept : 0) |
      (beside?.[p] ? Kind.beside : 0) |
      (sheer.data[p] ? Kind.sheer : 0)
    );
  });
}

/**
 * Raw coverage 0–65535 → final coverage 0–white: up to the floor clear, from the ceiling on solid, and between them as
 * it was solved but for a short way beside each. Noise lifts the floor: what noise alone can reach is not hair.
 */
export function coverageTable(recipe: Pick<Recipe, 'floor' | 'ceiling'>, noise: number, white: number): Uint16Array {
  const table = new Uint16Array(65536);
  const floor = recipe.floor === 0 ? 0 : Math.max(recipe.floor, Math.min(0.25, 3 * noise));
  const ceiling = Math.max(floor + 0.02, recipe.ceiling);
  const low = floor * WAY;
  const high = (1 - ceiling) * WAY;
  for (let i = 0; i < table.length; i++) {
    const a = i / 65535;
    const shaped =
      a <= floor
        ? 0
        : a >= ceiling
          ? 1
          : a < floor + low
            ? (a * (a - floor)) / low
            : a > ceiling - high
              ? 1 - ((1 - a) * (ceiling - a)) / high
              : a;
    table[i] = Math.round(shaped * white);
  }
  return table;
}
/** Reduced pixels that the outline of kept cloth is wide. */
const BESIDE = 8;
/** Length of the way beside floor and ceiling, in units of them. */
const WAY = 1;
