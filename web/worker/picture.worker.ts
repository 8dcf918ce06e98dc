import { expose, transfer } from 'comlink';
import {
  noScreen,
  type Guidance,
  type OwnCoverage,
  type OwnMatteUse,
  type Place,
  type Recipe,
} from '../../core/cut/index.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import type { PersonMap } from '../../core/persons/personMap.ts';
import { installKernels, type PlaneKernel, type RowKernel } from '../../core/kernels/kernels.ts';
import kernelsAddress from '../../dist/kernels.wasm?url';
import {
  compositeOnTone,
  cropAround,
  cropped,
  defaultPlacement,
  differencePicture,
  histogramsOf,
  judgingTones,
  onBackground,
  placedPeople,
  plainLook,
  shownAs,
  shownPlaced,
  spillPicture,
  underCrop,
  worstTone,
  type Also,
  type Curves,
  type CutView,
  type Histograms,
  type LayerPlace,
  type LayerWay,
  type Look as PlacedLook,
  type Measured,
  type OtherPlace,
  type PlacedView,
  type Tone,
  type Placement,
} from '../../core/place/index.ts';
import type { Path, Touch } from '../../core/touch/touch.ts';
import { idleTouches } from '../../core/cut/idleTouches.ts';
import { fetchCube, fetchCutout, fetchPersons, fetchPicture, once, type Cutout } from './fetchPicture.ts';
import { bitmapOf, toImageData } from './imageData.ts';
import { draftOf, StagedCut, type Judged, type PixelValues } from '../../core/cut/stagedCut.ts';

/** Cuts and composes pictures beside the page, with the same core as the batch. */
export type PreviewView = 'photograph' | CutView | 'background' | 'spill' | 'change';
export type Preview = { ok: true; bitmaps: ImageBitmap[] } | { ok: false; reason: string; remedy: string };

/** How a cut is shown: in one or two views at once, by what it is placed with, and beside which stored cut. */
export interface Showing {
  views: readonly PreviewView[];
  placement: Placement | undefined;
  /** Address of the frame's stored cut. */
  stored: string | undefined;
}

/** Where a frame's pictures are to be had. */
export interface FrameAddresses {
  frame: string;
  persons: string;
  fileWidth: number;
  plate: string | undefined;
  own: OwnAddress | undefined;
  background: string | undefined;
}
/** A matte made elsewhere, and what becomes of it. */
export interface OwnAddress {
  address: string;
  use: OwnMatteUse;
}
/** A place on its background and on its worst tone. */
export interface Look {
  first: ImageBitmap;
  second: ImageBitmap;
}

/** What `looks` loaded last. */
const loaded: { frame?: string; plate?: string; own?: string } = {};
let frame: EncodedRaster | undefined;
/** Pixels of the working copy to one of the file. */
let scale = 1;
/** The frame's cut, and one of fewer pixels that is quicker, if the frame has many. */
let whole: StagedCut | undefined;
let draft: StagedCut | undefined;
/** One for trying what a touch does. */
let spare: StagedCut | undefined;
/** Where persons are in the frame; the empty screen, and a matte made elsewhere, that it is cut with. */
let persons: PersonMap | undefined;
let plate: EncodedRaster | undefined;
let own: OwnCoverage | undefined;
let cutout: Cutout | undefined;
/** The stored cut that was shown last. */
let storedCut: { address: string; cut: Cutout } | undefined;
/** Where hands went, by the names that touches give. */
const paths = new Map<string, Path>();
let background: EncodedRaster | undefined;
let backgroundAddress = '';

/** Without the compiled kernels, as in a browser that lacks what they need, all is computed in plain code. */
const kernelsReady = WebAssembly.compileStreaming(fetch(kernelsAddress))
  .then(async (module) => {
    const [rows, planes] = await Promise.all([WebAssembly.instantiate(module), WebAssembly.instantiate(module)]);
    installKernels({ rows: rows.exports as unknown as RowKernel, planes: planes.exports as unknown as PlaneKernel });
  })
  .catch(() => undefined);

const worker = {
  /**
   * The frame to preview, as a decoded working copy.
   * @param personsAddress of its map of persons.
   * @param fileWidth of the frame itself, pixels.
   */
  async loadFrame(address: string, personsAddress: string, fileWidth: number): Promise<void> {
    [frame, persons] = await Promise.all([fetchPicture(address), fetchPersons(personsAddress)]);
    scale = frame.width / fileWidth;
    await kernelsReady;
    plate = own = undefined;
    stage();
  },

  /** The empty screen that the frame is cut with; none without an address, or if its size is another. */
  async loadPlate(address: string | undefined): Promise<void> {
    const picture = address ? await fetchPicture(address) : undefined;
    plate = picture?.width === frame?.width && picture?.height === frame?.height ? picture : undefined;
    stage();
  },

  /** A matte made elsewhere that the frame is cut with, or none. */
  async loadOwnMatte(given: OwnAddress | undefined): Promise<void> {
    const picture = given && (await fetchPicture(given.address));
    own = picture && {
      width: picture.width,
      height: picture.height,
      data: Uint16Array.from({ length: picture.width * picture.height }, (_, p) => picture.data[p * 3] * 257),
      use: given.use,
    };
    stage();
  },

  /** The background for the view on a background, and for placing; reduced to `width` pixels if given. */
  async loadBackground(address: string, width?: number): Promise<{ width: number; height: number }> {
    background = await fetchPicture(address, width);
    backgroundAddress = address;
    return { width: background.width, height: background.height };
  },

  /** A stored cut for placing. */
  async loadCutout(address: string): Promise<{ width: number; height: number }> {
    cutout = await fetchCutout(address);
    return { width: cutout.width, height: cutout.height };
  },

  /** A stored cut in the wanted views, without anything being cut here; undefined if it alone cannot show them. */
  async stored(address: string, { views, placement }: Showing): Promise<ImageBitmap[] | undefined> {
    if (views.some((view) => view === 'photograph' || view === 'spill' || view === 'change')) return undefined;
    const cut = await storedAt(address);
    const bitmaps = await Promise.all(
      views.map((view) => bitmapOf(cutShown(cut, view as CutView | 'background', placement))),
    );
    return transfer(bitmaps, bitmaps);
  },

  /** The loaded frame itself. */
  async photograph(): Promise<ImageBitmap | undefined> {
    const bitmap = frame && (await createImageBitmap(toImageData(frame)));
    return bitmap && transfer(bitmap, [bitmap]);
  },

  /** A coarser picture of the wanted cut, if that is much sooner there than the cut itself. */
  async draft(recipe: Recipe, guidance: Guidance, showing: Showing): Promise<ImageBitmap[] | undefined> {
    if (!draft || showing.views[0] === 'photograph' || whole?.isSorted(recipe, guidance)) return undefined;
    const bitmaps = await show(draft, recipe, guidance, showing);
    return bitmaps && transfer(bitmaps, bitmaps);
  },

  /** Cuts the loaded frame, redoing only what the changed settings touch, and shows it in the wanted views. */
  async preview(recipe: Recipe, guidance: Guidance, showing: Showing): Promise<Preview> {
    if (!whole) return { ok: false, reason: 'no frame is loaded', remedy: 'Choose one.' };
    const bitmaps = await show(whole, recipe, guidance, showing);
    return bitmaps ? transfer({ ok: true, bitmaps }, bitmaps) : { ok: false, ...noScreen };
  },

  /** What is known of a pixel of the loaded frame's cut. @param x share of the width. */
  valuesAt(x: number, y: number): PixelValues | undefined {
    return whole?.valuesAt(x, y);
  },

  /**
   * How a place of a frame looks by each of several guidances: on the background, or mid-grey without one, and on the
   * tone on which it shows worst. Loads what is not loaded yet.
   * @param extra paths that are not kept yet, by name.
   */
  async looks(
    {
      frame: address,
      persons: personsAddress,
      fileWidth,
      plate: screen,
      own: matte,
      background: behind,
    }: FrameAddresses,
    recipe: Recipe,
    guidances: readonly Guidance[],
    extra: readonly (readonly [string, Path])[],
    place: Place,
    placement: Placement | undefined,
  ): Promise<Look[]> {
    const name = matte && JSON.stringify(matte);
    if (loaded.frame !== address || loaded.plate !== screen || loaded.own !== name) {
      await worker.loadFrame(address, personsAddress, fileWidth);
      await worker.loadPlate(screen);
      if (matte) await worker.loadOwnMatte(matte);
      Object.assign(loaded, { frame: address, plate: screen, own: name });
    }
    if (behind && backgroundAddress !== behind) await worker.loadBackground(behind);
    for (const [name, path] of extra) paths.set(name, path);
    const made: Look[] = [];
    let worst: Tone | undefined;
    for (const guidance of guidances) {
      const cut = whole?.cut(recipe, guidance, await pathsOf(guidance.touches));
      if (!cut) continue;
      const crop = cropAround(place, cut);
      const part = cropped(cut, crop);
      const tone: Tone = (worst ??= worstTone(part));
      const first =
        behind && background && placement
          ? onBackground(part, underCrop(background, cut, placement, crop))
          : compositeOnTone(part, judgingTones.grey.tone);
      made.push({
        first: await createImageBitmap(toImageData(first)),
        second: await createImageBitmap(toImageData(compositeOnTone(part, tone))),
      });
    }
    return transfer(
      made,
      made.flatMap(({ first, second }) => [first, second]),
    );
  },

  /** Whether the cut would look the same without a touch; looked at on a draft of its own, so that the others stay as they are. */
  async isIdle(recipe: Recipe, guidance: Guidance, touchId: string): Promise<boolean> {
    if (!frame) return false;
    spare ??= draftOf(frame, { plate, persons, own }, scale) ?? new StagedCut(frame, { plate, persons, own }, scale);
    return idleTouches(spare, recipe, guidance, await pathsOf(guidance.touches), [touchId]).length > 0;
  },

  /** Judges the cut that was shown last; apart from showing it, which must not wait. */
  judge(): Judged | undefined {
    return whole?.judge();
  },

  /** How bright person and background are in the finished picture that was shown last. */
  histograms(): Histograms | undefined {
    return lastPlaced && histogramsOf(lastPlaced.picture, lastPlaced.cutout, lastPlaced.placement, lastPlaced.mirrored);
  },

  /** The loaded cut on the loaded background, as it is to be handed over or in a view that shows one side of it. */
  async place(
    placement: Placement,
    look: PlacedLook,
    measured: Measured | undefined,
    view: PlacedView,
    extras: ShownExtras,
    others: readonly ShownOther[] = [],
  ): Promise<ImageData | undefined> {
    const before = view === 'before';
    const also = before ? {} : await alsoOf(extras);
    const beside = await Promise.all(
      others.map(async ({ address, ...other }) => ({ ...other, cutout: await once(address, fetchCutout) })),
    );
    if (!cutout || !background) return undefined;
    const shownLook = before ? { ...plainLook, mirrorPerson: look.mirrorPerson, turn: look.turn } : look;
    const { mirrorPerson: mirrored, turn } = shownLook;
    const at = (where: OtherPlace) =>
      beside.filter((other) => other.where === where).map((other) => ({ ...other, turn: 0 }));
    const people = [...at('behind'), { cutout, placement, mirrored, turn, measured }, ...at('front')];
    const picture = placedPeople(people, background, shownLook, also);
    lastPlaced = { picture, cutout, placement, mirrored: look.mirrorPerson };
    const pixels = toImageData(shownPlaced(picture, view));
    return transfer(pixels, [pixels.data.buffer]);
  },
};

/** Somebody else in a finished picture, by the address of their cut. */
export interface ShownOther {
  address: string;
  placement: Placement;
  mirrored: boolean;
  where: OtherPlace;
  measured: Measured | undefined;
}

/** Extras of a finished picture by their addresses. */
export interface ShownExtras {
  curves?: Curves;
  lut?: string;
  layers: { address: string; where: LayerPlace; way: LayerWay; strength: number; at?: Placement | null }[];
  card?: string;
}

async function alsoOf({ curves, lut, layers, card }: ShownExtras): Promise<Also> {
  const laid = await Promise.all(
    layers.map(async ({ address, where, way, strength, at }) => ({
      where,
      laid: { picture: await once(address, fetchCutout), way, strength, at },
    })),
  );
  return {
    curves,
    lut: lut === undefined ? undefined : await once(lut, fetchCube),
    behind: laid.filter(({ where }) => where === 'behind').map((one) => one.laid),
    front: laid.filter(({ where }) => where === 'front').map((one) => one.laid),
    card: card === undefined ? undefined : await once(card, fetchCutout),
  };
}

/** The finished picture that was shown last. */
let lastPlaced:
  { picture: EncodedRaster & { channels: 3 }; cutout: Cutout; placement: Placement; mirrored: boolean } | undefined;

export type PictureWorker = typeof worker;
expose(worker);

function stage(): void {
  if (!frame) return;
  whole = new StagedCut(frame, { plate, persons, own }, scale);
  draft = draftOf(frame, { plate, persons, own }, scale);
  spare = undefined;
}

async function show(
  staged: StagedCut,
  recipe: Recipe,
  guidance: Guidance,
  { views, placement, stored }: Showing,
): Promise<ImageBitmap[] | undefined> {
  const cut = staged.cut(recipe, guidance, await pathsOf(guidance.touches));
  if (!cut) return undefined;
  const shown = async (view: PreviewView): Promise<EncodedRaster> => {
    if (view === 'photograph') return staged.frame;
    if (view === 'spill') return spillPicture(staged.withSpill() ?? cut, cut);
    // Before the first cut is stored nothing has changed.
    if (view === 'change') return differencePicture(stored ? await storedAt(stored) : cut, cut);
    return cutShown(cut, view, placement);
  };
  return Promise.all(views.map(async (view) => bitmapOf(await shown(view))));
}

/** The paths of touches, each fetched once; one that cannot be had is left out, and the batch says why. */
async function pathsOf(touches: readonly Touch[]): Promise<ReadonlyMap<string, Path>> {
  await Promise.all(
    touches
      .filter(({ path }) => !paths.has(path))
      .map(async ({ path }) => {
        const response = await fetch(`/api/paths/${path}`).catch(() => undefined);
        if (response?.ok) paths.set(path, (await response.json()) as Path);
      }),
  );
  return paths;
}

/** A cut as far as it alone shows it; on the background in the frame's own pixels. */
function cutShown(cut: Cutout, view: CutView | 'background', placement = defaultPlacement): EncodedRaster {
  if (view !== 'background') return shownAs(cut, view);
  const whole = { left: 0, top: 0, width: cut.width, height: cut.height };
  return background ? onBackground(cut, underCrop(background, cut, placement, whole)) : shownAs(cut, 'grey');
}

async function storedAt(address: string): Promise<Cutout> {
  if (storedCut?.address !== address) storedCut = { address, cut: await fetchCutout(address) };
  return storedCut.cut;
}
