import type { EncodedRaster, Plane } from '../image/raster.ts';
import type { Analysis } from './analysis.ts';
import { smoothstep } from '../image/smoothstep.ts';
import type { Stroke } from '../touch/touch.ts';
import { keyClassic } from './classic.ts';
import { fringeRows } from './fringeRows.ts';
import type { Matte, Tiles } from './coverage.ts';
import type { FringeRows } from './rows.ts';
import type { Recipe } from './recipe.ts';
import { Region } from './region.ts';
import { withOwnMatte, type OwnCoverage } from './ownMatte.ts';
import { shapeMatte } from './shape.ts';
import { coverageOfCloth, sheerClothOf, type SheerCloth } from './sheerCloth.ts';
import { sigmaOf } from './solver.ts';
import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';

export const bounds = {
  /** Nearer to the screen than this share of what the floor takes anyway, a pixel need not be solved. */
  plain: 0.5,
  leastFloor: 0.04,
  /** Squared error, in units of the noise, from which no candidate is the colour of sheer cloth. */
  strange: 100,
  /**
   * Error of the best candidate, in units of the noise, from which the coverage that is expected at the place counts
   * as well, and over how much more it comes to count alone.
   */
  misfit: 4,
  misfitWay: 12,
};
/** Tiles along the longer side. */
const TILES = 24;
const noTiles: Tiles = {
  across: 0,
  down: 0,
  fringe: new Float64Array(),
  unexplained: new Float64Array(),
  apart: new Float64Array(),
};

/**
 * Coverage by the recipe's method, before its shaping.
 * @param rows of unmixing only these are solved, from, and up to which; the others are left clear.
 */
export function solveCoverage(
  frame: EncodedRaster,
  analysis: Analysis,
  recipe: Pick<Recipe, 'method' | 'keyFrom' | 'keyTo' | 'headZone' | 'purity'>,
  rows?: readonly [number, number],
): Matte {
  if (recipe.method === 'unmixing') return unmixRows(frame, analysis, rows ?? [0, frame.height]);
  if (recipe.method === 'whole') return wholeMatte(frame);
  return { ...wholeMatte(frame), alpha: keyClassic(frame, analysis.survey, recipe, analysis.factor) };
}

/** All of a frame. */
export function wholeMatte({ width, height }: Pick<EncodedRaster, 'width' | 'height'>): Matte {
  const alpha = new Uint16Array(width * height).fill(65535);
  return { width, height, alpha, fringePixels: 0, unexplained: 0, tiles: noTiles };
}

/** Coverage by the recipe's method, with a matte made elsewhere, then shaped by its settings, the masks and the touches. */
export function solveMatte(
  frame: EncodedRaster,
  analysis: Analysis,
  recipe: MatteRecipe,
  strokes: readonly Stroke[] = [],
  own?: OwnCoverage,
): Matte {
  return shapeMatte(withOwnMatte(solveCoverage(frame, analysis, recipe), own), recipe, analysis.masks, strokes);
}
export type MatteRecipe = Pick<
  Recipe,
  'method' | 'keyFrom' | 'keyTo' | 'headZone' | 'purity' | 'edge' | 'softness' | 'specks' | 'holes'
>;

/**
 * Solves I = t·F + u·B for every fringe pixel, for each competing candidate F, by weighted least squares in linear
 * light with a soft condition t + u = 1 that decides where F and B point the same way (green cloth). Coverage is
 * 1 − u. Candidates are mixed by how well they explain the pixel. Clear pixels get 0, core pixels 65535.
 */
function unmixRows(frame: EncodedRaster, analysis: Analysis, [from, to]: readonly [number, number]): Matte {
  const { width, height } = frame;
  const unmixer = new Unmixer(frame, analysis);
  for (let y = from; y < to; y++) unmixer.solveRow(y);
  const { alpha, tiles } = unmixer;
  const total = (of: Float64Array): number => of.reduce((sum, v) => sum + v, 0);
  const fringePixels = total(tiles.fringe);
  return {
    width,
    height,
    alpha,
    fringePixels,
    unexplained: fringePixels ? total(tiles.unexplained) / fringePixels : 0,
    tiles,
  };
}

/** Solves one row after another: first what is decided, then what has to be computed. */
class Unmixer {
  readonly alpha: Uint16Array;
  readonly tiles: Tiles;
  private readonly rows: FringeRows;
  private readonly plain: number;
  /** Side of a tile, pixels. */
  private readonly side: number;
  private readonly cloth: SheerCloth | undefined;

  constructor(
    private readonly frame: EncodedRaster,
    private readonly analysis: Analysis,
  ) {
    const { width, height } = frame;
    this.alpha = new Uint16Array(width * height);
    this.rows = fringeRows(frame, analysis, analysis.candidates, sigmaOf(analysis.noise));
    const { reduced, screen, sheer, survey } = analysis;
    this.cloth = sheer.data.includes(1) ? sheerClothOf(reduced, screen, sheer, survey.channel) : undefined;
    this.plain = bounds.plain * Math.max(bounds.leastFloor, 3 * analysis.noise);
    this.side = Math.ceil(Math.max(width, height) / TILES);
    const across = Math.ceil(width / this.side);
    const down = Math.ceil(height / this.side);
    this.tiles = {
      across,
      down,
      fringe: new Float64Array(across * down),
      unexplained: new Float64Array(across * down),
      apart: new Float64Array(across * down),
    };
  }

  solveRow(y: number): void {
    const count = this.writeDecided(y);
    if (!count) return;
    this.rows.read(count, y, this.plain);
    this.rows.solve(count);
    this.writeSolved(y, count);
  }

  /**
   * What is decided is decided for the whole reduced pixel.
   * @returns how many pixels of the row are left to be solved, listed in `rows.xs` and `rows.cells`.
   */
  private writeDecided(y: number): number {
    const { width } = this.frame;
    const { factor, regions, solidity, outside, beyond } = this.analysis;
    const { alpha } = this;
    const { xs, cells } = this.rows;
    const cy = (y + 0.5) / factor - 0.5;
    const row = y * width;
    let count = 0;
    for (let cell = ((y / factor) | 0) * regions.width, x = 0; x < width; cell++) {
      const region = regions.data[cell];
      const end = Math.min(width, x + factor);
      if (region === Region.clear) x = end;
      else if (region === Region.core && solidity.data[cell] >= 0.999) for (; x < end; x++) alpha[row + x] = 65535;
      else if (outside.data[cell])
        for (; x < end; x++)
          alpha[row + x] = Math.round(65535 * smoothstep(samplePlane(beyond, (x + 0.5) / factor - 0.5, cy)));
      else {
        for (; x < end; x++, count++) {
          xs[count] = x;
          cells[count] = cell;
        }
      }
    }
    return count;
  }

  private writeSolved(y: number, count: number): void {
    const { width } = this.frame;
    const { factor, regions, solidity, openness, sorted, shaded, dyed, sheer, candidates, survey } = this.analysis;
    const { alpha, rows, side, cloth } = this;
    const { fringe, unexplained, apart, across } = this.tiles;
    const { xs, cells, near } = rows;
    const cy = (y + 0.5) / factor - 0.5;
    const row = y * width;
    const tileRow = ((y / side) | 0) * across;
    for (let k = 0; k < count; k++) {
      const x = xs[k];
      const cell = cells[k];
      const tile = tileRow + ((x / side) | 0);
      const core = regions.data[cell] === Region.core;
      fringe[tile]++;
      if (!core && near[k]) continue;
      const colour = sheer.data[cell] ? cloth?.colours[cloth.labels[cell] - 1] : undefined;
      const byCloth = colour && coverageOfCloth(rows.reading, rows.back, k, colour);
      if (byCloth === undefined) {
        if (rows.error[k] > 9) unexplained[tile]++;
        apart[tile] += rows.apart[k];
      }
      let coverage = rows.coverage[k];
      const misfit = Math.sqrt(rows.error[k]) - bounds.misfit;
      if (misfit > 0 || shaded.data[cell]) {
        const likely = samplePlane(sorted.coverage, (x + 0.5) / factor - 0.5, cy);
        if (misfit > 0) coverage += Math.min(1, misfit / bounds.misfitWay) * (likely - coverage);
        if (shaded.data[cell]) coverage = Math.min(coverage, likely);
      }
      if (dyed.data[cell])
        coverage = Math.max(coverage, coverageByLevel(rows.reading, rows.back, k, candidates[0].data, cell * 3));
      if (sheer.data[cell]) {
        if (byCloth !== undefined) coverage = byCloth;
        else if (rows.error[k] > bounds.strange) coverage = coverageOfSheer(rows.reading, rows.back, k, survey.channel);
      }
      coverage += (1 - coverage) * samplePlane(solidity, (x + 0.5) / factor - 0.5, cy);
      if (!core) coverage *= 1 - samplePlane(openness, (x + 0.5) / factor - 0.5, cy);
      alpha[row + x] = (coverage * 65535 + 0.5) | 0;
    }
  }
}

/**
 * Coverage of a pixel between the screen and one foreground colour that differs from it in brightness more than in hue.
 */
function coverageByLevel(
  reading: readonly Float32Array[],
  back: readonly Float32Array[],
  k: number,
  fore: Float32Array,
  at: number,
): number {
  let along = 0;
  let whole = 0;
  for (let c = 0; c < 3; c++) {
    const step = fore[at + c] - back[c][k];
    along += step * (reading[c][k] - back[c][k]);
    whole += step * step;
  }
  return whole > 0 ? Math.min(1, Math.max(0, along / whole)) : 0;
}

/**
 * Coverage of sheer cloth that shows its own colour nowhere, not in a hem either: as much screen is taken out as leaves
 * the screen's channel no lower than both the others, so white, grey and warm cloth come out right, and cloth of the
 * screen's own hue too thin.
 */
function coverageOfSheer(
  reading: readonly Float32Array[],
  back: readonly Float32Array[],
  k: number,
  channel: Channel,
): number {
  let screen = 0;
  for (const other of [firstBeside[channel], secondBeside[channel]]) {
    const lead = back[channel][k] - back[other][k];
    if (lead > 1e-3) screen = Math.max(screen, (reading[channel][k] - reading[other][k]) / lead);
  }
  return Math.max(0, 1 - screen);
}

function samplePlane(plane: Plane, x: number, y: number): number {
  const { width, height, data } = plane;
  const cx = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
  const cy = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const a = y0 * width + x0;
  const right = x0 + 1 < width ? 1 : 0;
  const down = y0 + 1 < height ? width : 0;
  const top = data[a] + (cx - x0) * (data[a + right] - data[a]);
  const bottom = data[a + down] + (cx - x0) * (data[a + down + right] - data[a + down]);
  return top + (cy - y0) * (bottom - top);
}
