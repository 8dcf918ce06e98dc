import { fillUnknown } from '../image/fillUnknown.ts';
import { growMask } from '../image/growMask.ts';
import { createLinear, createMask, RasterError, type LinearRaster, type Mask } from '../image/raster.ts';
import { findShift, shifted } from './plate.ts';
import { fitScreenModel } from './screenModel.ts';
import { medianOf } from './statistics.ts';
import { surveyScreen } from './survey.ts';

/** Reduced pixels around the person that are left out: strands and spill are not yet screen. */
const BESIDE = 3;

export interface Gathered {
  /** The empty screen, as the first frame's camera and lamps would have shown it; as large as the frames. */
  plate: LinearRaster;
  /** How many frames could be used, and which share of the plate some frame shows plainly. */
  used: number;
  seen: number;
}

/**
 * The screen behind everybody, from several frames of one setup: each sees what another covers. The frames are laid
 * over the first by the screen's fine structure, brought to its level, and at each place the middle one of those that
 * show the screen plainly is taken; what nobody shows goes on smoothly.
 * @param frames reduced, linear, all of one size.
 * @returns undefined if none shows a screen.
 * @throws RasterError if sizes differ.
 */
export function gatherPlate(frames: readonly LinearRaster[]): Gathered | undefined {
  const seen: { frame: LinearRaster; clear: Mask }[] = [];
  let first: { frame: LinearRaster; screen: LinearRaster } | undefined;
  for (const frame of frames) {
    if (frame.width !== frames[0].width || frame.height !== frames[0].height)
      throw new RasterError(
        `frames: expected ${frames[0].width}×${frames[0].height} reduced, received ${frame.width}×${frame.height}`,
      );
    const survey = surveyScreen(frame);
    if (!survey) continue;
    const laid = first ? shifted(frame, findShift(first.frame, frame, survey)) : frame;
    const { screen, clear } = fitScreenModel(laid, survey);
    const plain = growMask(clear, -BESIDE);
    if (!first) first = { frame, screen };
    seen.push({ frame: seen.length ? levelled(laid, plain, seen[0].frame, seen[0].clear) : laid, clear: plain });
  }
  if (!first) return undefined;
  const { screen } = first;
  const { width, height } = screen;
  const ratio = createLinear(width, height);
  const known = createMask(width, height);
  let count = 0;
  for (let p = 0; p < known.data.length; p++) {
    const at = middleOf(seen, p);
    if (!at) continue;
    known.data[p] = 1;
    count++;
    for (let c = 0; c < 3; c++) ratio.data[p * 3 + c] = at.data[p * 3 + c] / Math.max(1e-4, screen.data[p * 3 + c]);
  }
  const plate = count ? fillUnknown(ratio, known) : ratio;
  for (let i = 0; i < plate.data.length; i++) plate.data[i] = count ? plate.data[i] * screen.data[i] : screen.data[i];
  return { plate, used: seen.length, seen: count / known.data.length };
}

/**
 * Of the frames that show the screen at a place plainly the one of middle brightness: shadows fall now here, now there.
 */
function middleOf(seen: readonly { frame: LinearRaster; clear: Mask }[], p: number): LinearRaster | undefined {
  const there = seen.filter(({ clear }) => clear.data[p]);
  if (there.length < 2) return there[0]?.frame;
  const level = ({ frame: { data } }: (typeof there)[number]): number =>
    data[p * 3] + data[p * 3 + 1] + data[p * 3 + 2];
  return there.sort((a, b) => level(a) - level(b))[there.length >> 1].frame;
}

/** A frame brought to the level of another, channel by channel, by what both show plainly: lamps drift. */
function levelled(frame: LinearRaster, clear: Mask, to: LinearRaster, toClear: Mask): LinearRaster {
  const places: number[] = [];
  for (let p = 0; p < clear.data.length; p += 7) if (clear.data[p] && toClear.data[p]) places.push(p);
  if (!places.length) return frame;
  const gains = [0, 1, 2].map((c) =>
    medianOf(places.map((p) => to.data[p * 3 + c] / Math.max(1e-4, frame.data[p * 3 + c]))),
  );
  return { ...frame, data: frame.data.map((v, i) => v * gains[i % 3]) };
}
