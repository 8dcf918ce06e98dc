import { srgbToLinear } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster } from '../image/raster.ts';
import type { Face } from './faces.ts';
import { isSkin, logColour, skinOf, type LogColour } from './skin.ts';

/** Where the eyes are beside their middle, and half the size of what is looked at, in widths of the face. */
const EYES = { beside: 0.21, across: 0.16, up: 0.1, down: 0.16 };

/**
 * Share of the face’s skin around the eye that shows less of it: lashes and brows take some of it, hair over an eye
 * nearly all. To be compared among frames of one person only.
 */
export function skinAtEyes(frame: EncodedRaster, face: Face): number | null {
  const { x, y, width, height, eyesX, eyesY } = face;
  const cheeks = coloursIn(frame, x + 0.25 * width, x + 0.75 * width, y + 0.45 * height, y + 0.75 * height);
  const skin = skinOf(cheeks);
  if (!skin) return null;
  const share = (side: number): number => {
    const middle = eyesX + side * EYES.beside * width;
    const [from, to] = [middle - EYES.across * width, middle + EYES.across * width];
    const around = coloursIn(frame, from, to, eyesY - EYES.up * height, eyesY + EYES.down * height);
    return around.filter((colour) => isSkin(colour, skin)).length / around.length;
  };
  return Math.min(share(-1), share(1));
}

/** Colours at so many places each way of a part of a frame that is given in shares of it. */
const PLACES = 24;
function coloursIn(frame: EncodedRaster, left: number, right: number, top: number, bottom: number): LogColour[] {
  const { width, height, channels, data } = frame;
  const white = whiteLevel(frame);
  const at = (from: number, to: number, n: number, size: number): number =>
    Math.min(size - 1, Math.max(0, Math.floor((from + ((n + 0.5) / PLACES) * (to - from)) * size)));
  const light = (i: number): number => srgbToLinear(data[i] / white);
  const colours: LogColour[] = [];
  for (let row = 0; row < PLACES; row++)
    for (let column = 0; column < PLACES; column++) {
      const i = (at(top, bottom, row, height) * width + at(left, right, column, width)) * channels;
      colours.push(logColour(light(i), light(i + 1), light(i + 2)));
    }
  return colours;
}
