import type { EncodedRaster } from '../image/raster.ts';
import { forBlocks } from './personMap.ts';

/** A face in an upright frame; all lengths are shares of the frame's own width or height. */
export interface Face {
  /** From the brows to the chin: left, top, width, height. */
  x: number;
  y: number;
  width: number;
  height: number;
  /** The middle between the eyes. */
  eyesX: number;
  eyesY: number;
  /** How sure it is that this is a face, 0–1. */
  sure: number;
}

/** Side of the square picture that the network looks at; the frame lies in its middle, its longer side as long as it. */
export const FACE_SIDE = 192;
/** Places to a side that it answers for, and numbers that it gives for each: a box and six points. */
const PLACES = 48;
const NUMBERS = 16;
/** From how sure an answer is a face, and boxes that share so much are the same one. */
const SURE = 0.6;
const SAME = 0.3;
/** Of answers for the same face those so sure are averaged. */
const AVERAGED = 0.3;
/** Metres from the brows to the chin of a grown person: the network's box, measured on rendered people of known height. */
export const FACE_METRES = 0.165;

/** A face in its frame once that is mirrored; as before if it is not. */
export function mirroredFace(face: Face, mirrored: boolean): Face {
  return mirrored ? { ...face, x: 1 - face.x - face.width, eyesX: 1 - face.eyesX } : face;
}

/** What the network looks at: sRGB −1…1, black around the frame. */
export function faceInput(frame: EncodedRaster): Float32Array {
  const { width, height, left, top } = inner(frame);
  const out = new Float32Array(FACE_SIDE * FACE_SIDE * 3).fill(-1);
  forBlocks(frame, { x: 0, y: 0, ...sizeOf(frame) }, width, height, (column, row, r, g, b) => {
    const o = ((top + row) * FACE_SIDE + left + column) * 3;
    out[o] = 2 * r - 1;
    out[o + 1] = 2 * g - 1;
    out[o + 2] = 2 * b - 1;
  });
  return out;
}

interface Size {
  width: number;
  height: number;
}
const sizeOf = ({ width, height }: Size): Size => ({ width, height });

function inner({ width, height }: Size): Size & { left: number; top: number } {
  const scale = FACE_SIDE / Math.max(width, height);
  const size = {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
  return { ...size, left: (FACE_SIDE - size.width) >> 1, top: (FACE_SIDE - size.height) >> 1 };
}

/**
 * The faces in a frame, from the left, of what the network gave.
 * @param boxes for each place, row by row: middle, size and six points, pixels of its picture from the place.
 * @param scores how sure each is, before the logistic curve.
 */
export function facesFrom(frame: Size, boxes: Float32Array, scores: Float32Array): Face[] {
  const { width, height, left, top } = inner(frame);
  const across = (x: number): number => (x - left) / width;
  const down = (y: number): number => (y - top) / height;
  const answers: Face[] = [];
  for (let n = 0; n < scores.length; n++) {
    const sure = 1 / (1 + Math.exp(-scores[n]));
    if (sure < AVERAGED) continue;
    const placeX = (((n % PLACES) + 0.5) / PLACES) * FACE_SIDE;
    const placeY = ((Math.floor(n / PLACES) + 0.5) / PLACES) * FACE_SIDE;
    const at = (k: number): number => boxes[n * NUMBERS + k];
    answers.push({
      x: across(placeX + at(0) - at(2) / 2),
      y: down(placeY + at(1) - at(3) / 2),
      width: at(2) / width,
      height: at(3) / height,
      eyesX: across(placeX + (at(4) + at(6)) / 2),
      eyesY: down(placeY + (at(5) + at(7)) / 2),
      sure,
    });
  }
  answers.sort((a, b) => b.sure - a.sure);
  const faces: Face[] = [];
  while (answers.length) {
    const [first] = answers;
    if (first.sure < SURE) break;
    const same = answers.filter((other) => shared(first, other) > SAME);
    faces.push(averaged(same));
    for (const one of same) answers.splice(answers.indexOf(one), 1);
  }
  return faces.sort((a, b) => a.eyesX - b.eyesX);
}

/** Area of both ÷ area of either. */
function shared(a: Face, b: Face): number {
  const across = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const down = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  if (across <= 0 || down <= 0) return 0;
  const both = across * down;
  return both / (a.width * a.height + b.width * b.height - both);
}

function averaged(faces: readonly Face[]): Face {
  const total = faces.reduce((sum, { sure }) => sum + sure, 0);
  const mean = (name: keyof Face): number => faces.reduce((sum, face) => sum + face.sure * face[name], 0) / total;
  return {
    x: mean('x'),
    y: mean('y'),
    width: mean('width'),
    height: mean('height'),
    eyesX: mean('eyesX'),
    eyesY: mean('eyesY'),
    sure: faces[0].sure,
  };
}
