import {
  analysePrepared,
  coverageHistogram,
  finishCut,
  judgeQuality,
  personLight,
  prepareFrame,
  recipeAt,
  shapeMatte,
  spillColour,
  solveCoverage,
  withPersonLight,
  type Guidance,
  type KnownBefore,
  type Quality,
  type Recipe,
} from './index.ts';
import { withOwnMatte } from './ownMatte.ts';
import { spillMasks } from './guidance.ts';
import { cutWhole, wholeQuality } from './wholeFrame.ts';
import { setRegions, withoutRegions, withRegion, type Finished } from './setRegions.ts';
import { luminance } from '../colour/luminance.ts';
import { linearToOklab } from '../colour/oklab.ts';
import { srgbToLinear } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { reducedCopy, reductionFactor } from '../image/reduce.ts';
import type { Tone } from '../place/index.ts';
import {
  strokesAbout,
  strokesOf,
  touchKinds,
  workingTouches,
  type Path,
  type Stroke,
  type Touch,
  type TouchKind,
} from '../touch/touch.ts';

/** What is said of a cut: its quality, and how its coverage is spread before it is limited. */
export interface Judged {
  quality: Quality;
  coverage: number[];
}
/** What is known of one pixel. */
export interface PixelValues {
  /** Encoded, 0–255. */
  photograph: Tone;
  /** Of the foreground alone, encoded, 0–255; undefined where nothing covers. */
  colour: Tone | undefined;
  /** 0–1. */
  coverage: number;
  /** Luminance of the photograph in stops from mid-grey, 18 % of white. */
  stops: number;
  /** How far its colour lies from the screen's there: OKLab distance × 100, where 2 is just seen; none without one. */
  fromScreen: number | undefined;
}

/** Steps in which the spread of coverage is told. */
const COVERAGE_STEPS = 64;

type Cutout = EncodedRaster & { channels: 4 };

/** Cuts one picture again and again, redoing only the steps that a change touches. */
export class StagedCut {
  /** What the steps gave last, with what they were made with. */
  private readonly steps = new Map<string, { key: string; value: unknown }>();
  /** Of the last cut. */
  private last?: {
    judged: () => Judged;
    withSpill: () => Cutout | undefined;
    valuesAt: (x: number, y: number) => PixelValues;
  };

  /**
   * @param scale pixels of this picture to one of the file, along a side.
   * @param cells most reduced pixels that it is sorted on.
   */
  constructor(
    readonly frame: EncodedRaster,
    private readonly known: KnownBefore,
    private readonly scale: number,
    private readonly cells?: number,
  ) {}

  /** Whether a cut needs no sorting anew, which takes longest. */
  isSorted(recipe: Recipe, guidance: Guidance): boolean {
    const said = withoutRegions(guidance);
    return [recipe, ...setRegions(recipe, guidance).map((region) => region.recipe)].every((by, n) => {
      if (recipe.method === 'whole' && by.method === 'whole') return true;
      const name = `${regionName(n)}analysis`;
      return [name, 'analysis'].some((at) => this.steps.get(at)?.key === sortingKey(by, said));
    });
  }

  /**
   * @param paths of the guidance's touches, by name.
   * @returns undefined if the picture shows no green or blue screen and a hand points at none.
   */
  cut(recipe: Recipe, guidance: Guidance, paths: ReadonlyMap<string, Path> = new Map()): Cutout | undefined {
    const made = this.composed(recipe, guidance, paths);
    if (!made) return undefined;
    const { frame } = this;
    const { screen, quality, matte, shaped, finished } = made;
    const cutout = this.inLight('', made, recipe);
    this.last = {
      judged: () => ({
        quality: this.step('quality', finished, quality),
        coverage: this.step('coverage histogram', shaped, () => coverageHistogram(matte, COVERAGE_STEPS)),
      }),
      withSpill: () => {
        const masks = guidance.masks.filter((mask) => !spillMasks([mask]).length);
        const kept = masks.map((mask) =>
          mask.settings ? { ...mask, settings: { ...mask.settings, spill: 0 } } : mask,
        );
        const touches = guidance.touches.filter(({ kind }) => !ofColour.includes(touchKinds[kind].about));
        const spilt = { ...recipe, spill: 0 };
        const all = this.composed(spilt, { ...guidance, masks: kept, touches }, paths, 'with spill ');
        return all && this.inLight('with spill ', all, recipe);
      },
      valuesAt: (x, y) => valuesAt(frame, cutout, screen, x, y),
    };
    return cutout;
  }

  /** Some rows of the same, finished alone: from, and up to which. */
  rows(
    recipe: Recipe,
    guidance: Guidance,
    paths: ReadonlyMap<string, Path>,
    rows: readonly [number, number],
  ): Cutout | undefined {
    const made = this.composed(recipe, guidance, paths, '', rows);
    return made && withPersonLight(made.asShot, recipe);
  }

  private inLight(name: string, { asShot, finished }: { asShot: Cutout; finished: string }, recipe: Recipe): Cutout {
    const light = JSON.stringify(personLight.map((setting) => recipe[setting]));
    return this.step(`${name}cutout in its light`, finished + light, () => withPersonLight(asShot, recipe));
  }

  /**
   * The cut with its regions in it, as its light was. @param name of its finishing steps. @param rows that are finished
   * alone; nothing is kept of them.
   */
  private composed(
    recipe: Recipe,
    guidance: Guidance,
    paths: ReadonlyMap<string, Path>,
    name = '',
    rows?: readonly [number, number],
  ) {
    const said = withoutRegions(guidance);
    const whole = recipe.method === 'whole';
    const cutBy = (by: Recipe, of: string) =>
      whole && by.method === 'whole'
        ? this.withoutScreen(by, said, paths, of, name, rows)
        : this.single(by, said, paths, of, name, rows);
    const around = cutBy(recipe, '');
    if (!around) return undefined;
    let { matte, asShot, shaped, finished } = around;
    let unseen = false;
    setRegions(recipe, guidance).forEach((region, n) => {
      const inside = cutBy(region.recipe, regionName(n + 1));
      unseen ||= !inside;
      if (!inside) return;
      const lay = (): Finished =>
        withRegion({ matte, cutout: asShot }, { matte: inside.matte, cutout: inside.asShot }, region.mask, rows?.[0]);
      const { polygon, soft } = region.mask;
      const place = JSON.stringify([polygon, soft]);
      shaped += inside.shaped + place;
      finished += inside.finished + place;
      const made = rows ? lay() : this.step(`${name}${regionName(n + 1)}laid`, finished, lay);
      matte = made.matte;
      asShot = made.cutout;
    });
    // A region asks for a screen that is nowhere.
    if (unseen) return undefined;
    const { analysis, prepared } = around;
    const quality = (): Quality => (analysis ? judgeQuality(analysis, matte, asShot) : wholeQuality(this.frame, matte));
    return { matte, asShot, shaped, finished, quality, screen: prepared?.screen };
  }

  /** The cut of a frame whose screen is not looked for. */
  private withoutScreen(
    wanted: Recipe,
    { masks, touches }: Guidance,
    paths: ReadonlyMap<string, Path>,
    of: string,
    name: string,
    rows?: readonly [number, number],
  ) {
    const { frame, known, scale } = this;
    const recipe = recipeAt(wanted, scale);
    const { edge, softness, specks, holes } = recipe;
    const strokes = strokesOf(touches, paths);
    const shaped = JSON.stringify(['whole', edge, softness, specks, holes, masks, named(strokes)]);
    const finished = shaped + finishingKey(recipe);
    const made = this.step(`${name}${of}whole`, finished, () =>
      cutWhole(frame, recipe, { masks }, strokes, known.own, scale),
    );
    const { matte, cutout } = made;
    const asShot = rows ? rowsOf(cutout, rows) : cutout;
    return { matte, asShot, shaped, finished, analysis: undefined, prepared: undefined };
  }

  /**
   * A cut by one recipe all over.
   * @param of before the names of its steps; what the cut around it has by the same settings is taken.
   */
  private single(
    wanted: Recipe,
    guidance: Guidance,
    paths: ReadonlyMap<string, Path>,
    of: string,
    name: string,
    rows?: readonly [number, number],
  ) {
    const solved = this.solved(wanted, guidance, paths, of, rows);
    if (!solved) return undefined;
    const { analysis, matte, recipe, strokes, shaped } = solved;
    const colour = [spillMasks(guidance.masks), named(strokesAbout(strokes, ...ofColour))];
    const finished = shaped + finishingKey(recipe) + JSON.stringify(colour);
    const finish = (): Cutout => finishCut(this.frame, analysis, matte, recipe, { strokes, rows });
    const asShot = rows ? finish() : this.step(`${name}${of}cutout`, finished, finish);
    return { ...solved, asShot, finished };
  }

  /**
   * Coverage, and what it was solved with; `shaped` names all that it depends on.
   * @param rows that are wanted; where the others are not at hand, they may be left out.
   */
  private solved(
    wanted: Recipe,
    guidance: Guidance,
    paths: ReadonlyMap<string, Path>,
    of: string,
    rows?: readonly [number, number],
  ) {
    const { frame } = this;
    const recipe = recipeAt(wanted, this.scale);
    const { method, keyFrom, keyTo, headZone, purity, edge, softness, specks, holes } = recipe;
    const pointed = guidance.masks.filter(({ effect }) => effect === 'screen');
    const prepared = this.step('prepared', JSON.stringify(pointed.map(({ polygon }) => polygon)), () =>
      prepareFrame(frame, { ...this.known, masks: pointed }, this.cells),
    );
    if (!prepared) return undefined;
    const sorted = sortingKey(recipe, guidance);
    const strokes = strokesOf(guidance.touches, paths);
    const analysis = {
      ...this.step(`${of}analysis`, sorted, () => analysePrepared(prepared, recipe, guidance, strokes)),
      masks: guidance.masks,
    };
    const solved = sorted + JSON.stringify([method, keyFrom, keyTo, headZone, purity]);
    const shaped = solved + JSON.stringify([edge, softness, specks, holes, named(strokesAbout(strokes, 'matte'))]);
    // Pieces, gaps and how long hair is are known only where all is solved.
    const trims = strokes.some(({ kind }) => kind === 'trim');
    const inSight =
      rows && method === 'unmixing' && !specks && !holes && !trims && !this.made(`${of}coverage`, solved)
        ? around(rows, 2 * softness + Math.abs(edge) + REACH * this.scale, frame.height)
        : undefined;
    const part = inSight ? ` in rows ${inSight.join(' to ')}` : '';
    const coverage = this.step(`${of}coverage${inSight ? ' in sight' : ''}`, solved + part, () =>
      withOwnMatte(solveCoverage(frame, analysis, recipe, inSight), this.known.own),
    );
    const matte = this.step(`${of}matte${inSight ? ' in sight' : ''}`, shaped + part, () =>
      shapeMatte(coverage, recipe, analysis.masks, strokes, this.scale),
    );
    return { prepared, analysis, matte, recipe, strokes, shaped };
  }

  /** The last cut with the spill that was taken from it. */
  withSpill(): Cutout | undefined {
    return this.last?.withSpill();
  }

  /** What is known of a pixel of the last cut, at a place in shares of the frame. */
  valuesAt(x: number, y: number): PixelValues | undefined {
    return this.last?.valuesAt(x, y);
  }

  /** Judges the last cut; apart from it, since a picture must not wait for that. */
  judge(): Judged | undefined {
    return this.last?.judged();
  }

  /** What a step, or that of the cut around a region, gave with the same. */
  private made(name: string, key: string): { value: unknown } | undefined {
    return [name, name.replace(REGION, '')].map((at) => this.steps.get(at)).find((last) => last?.key === key);
  }

  /** What a step gives; made anew only if it was last made with something else. */
  private step<T>(name: string, key: string, make: () => T): T {
    const last = this.made(name, key);
    if (last) return last.value as T;
    const value = make();
    this.steps.set(name, { key, value });
    return value;
  }
}

/** A draft has at most so many pixels, and is sorted on so many. */
const DRAFT_PIXELS = 600_000;
const DRAFT_CELLS = 65_000;

/** The cut of a smaller copy, which is much sooner there; none of a picture that is small itself. */
export function draftOf(
  frame: EncodedRaster,
  { plate, persons, own }: KnownBefore,
  scale: number,
): StagedCut | undefined {
  const factor = reductionFactor(frame.width, frame.height, DRAFT_PIXELS);
  return factor > 1
    ? new StagedCut(
        reducedCopy(frame, factor),
        { persons, own, plate: plate && reducedCopy(plate, factor) },
        scale / factor,
        DRAFT_CELLS,
      )
    : undefined;
}

/** Pixels of the file that a touch on the outline looks around itself, at most. */
const REACH = 16;

function rowsOf({ width, channels, data }: Cutout, [from, to]: readonly [number, number]): Cutout {
  return { width, height: to - from, channels, data: data.slice(from * width * 4, to * width * 4) };
}

/** Rows with as many around them, within the picture. */
function around([from, to]: readonly [number, number], margin: number, height: number): [number, number] {
  return [Math.max(0, from - Math.ceil(margin)), Math.min(height, to + Math.ceil(margin))];
}

/** Strokes as a key holds them: their paths by name. */
function named(strokes: readonly Stroke[]): Touch[] {
  return strokes.map(({ line: _, ...touch }) => touch);
}

/** The settings that colours are finished by. */
function finishingKey(recipe: Recipe): string {
  const { floor, ceiling, spill, spillMethod } = recipe;
  return JSON.stringify([floor, ceiling, spill, spillMethod, ...spillColour.map((name) => recipe[name])]);
}

function sortingKey({ hairReach, greenKeep }: Recipe, { masks, verdicts, touches }: Guidance): string {
  const hints = workingTouches(touches).filter(({ kind }) => touchKinds[kind].about === 'solving');
  const about = masks.filter((mask) => !spillMasks([mask]).length);
  return JSON.stringify([hairReach, greenKeep, about, verdicts, hints]);
}

/** What stands before the names of a region's steps; 0: of the cut around them. */
function regionName(n: number): string {
  return n ? `region ${n} ` : '';
}
const REGION = /region \d+ /;

/** Touches that say nothing of coverage. */
const ofColour: (typeof touchKinds)[TouchKind]['about'][] = ['spill', 'edge'];

/** What luminance 0 is taken for, so that its stops are a number. */
const LEAST_LIGHT = 1 / 4096;
const MID_GREY = 0.18;

/** @param x share of the width. */
function valuesAt(
  frame: EncodedRaster,
  cutout: Cutout,
  screen: LinearRaster | undefined,
  x: number,
  y: number,
): PixelValues {
  const white = whiteLevel(frame);
  const pixel = (raster: { width: number; height: number }): number =>
    Math.min(raster.height - 1, Math.floor(y * raster.height)) * raster.width +
    Math.min(raster.width - 1, Math.floor(x * raster.width));
  const toned = ({ data, channels }: EncodedRaster, p: number): Tone => {
    const of = (c: number): number => Math.round((data[p * channels + c] * 255) / white);
    return [of(0), of(1), of(2)];
  };
  const p = pixel(frame);
  const photograph = toned(frame, p);
  const coverage = cutout.data[p * 4 + 3] / white;
  const [r, g, b] = photograph.map((v) => srgbToLinear(v / 255));
  const fromScreen = (): number | undefined => {
    if (!screen) return undefined;
    const behind = screen.data.subarray(pixel(screen) * 3);
    const [own, there] = [linearToOklab(r, g, b), linearToOklab(behind[0], behind[1], behind[2])];
    return 100 * Math.hypot(...own.map((v, n) => v - there[n]));
  };
  return {
    photograph,
    colour: coverage > 0 ? toned(cutout, p) : undefined,
    coverage,
    stops: Math.log2(Math.max(LEAST_LIGHT, luminance(r, g, b)) / MID_GREY),
    fromScreen: fromScreen(),
  };
}
