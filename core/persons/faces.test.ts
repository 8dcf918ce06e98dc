import { describe, expect, test } from 'vitest';
import { faceInput, facesFrom, FACE_SIDE, mirroredFace } from './faces.ts';

/** From the network's numbers to faces. */

const PLACES = 48;
/** Answers of a network that is sure at some places; boxes of a size about the place, eyes a little above. */
function answers(...sure: { column: number; row: number; score: number; size: number; dx?: number }[]) {
  const boxes = new Float32Array(PLACES * PLACES * 16);
  const scores = new Float32Array(PLACES * PLACES).fill(-9);
  for (const { column, row, score, size, dx = 0 } of sure) {
    const n = row * PLACES + column;
    scores[n] = score;
    boxes.set([dx, 0, size, size, dx - size / 4, -size / 4, dx + size / 4, -size / 4], n * 16);
  }
  return [boxes, scores] as const;
}

describe('facesFrom', () => {
  test('an upright frame lies in the middle: places are shares of the frame', () => {
    const [face, ...others] = facesFrom(
      { width: 600, height: 900 },
      ...answers({ column: 24, row: 12, score: 3, size: 32 }),
    );
    expect(others).toEqual([]);
    // The frame takes up 128 of the 192 columns.
    expect(face.width).toBeCloseTo(32 / 128);
    expect(face.height).toBeCloseTo(32 / 192);
    expect(face.eyesX).toBeCloseTo((98 - 32) / 128);
    expect(face.eyesY).toBeCloseTo((50 - 8) / 192);
    expect(face.sure).toBeCloseTo(0.953, 2);
  });

  test('answers about the same face are averaged, others stay apart, from the left', () => {
    const faces = facesFrom(
      { width: 900, height: 600 },
      ...answers(
        { column: 30, row: 24, score: 4, size: 30 },
        { column: 31, row: 24, score: 2, size: 30 },
        { column: 10, row: 24, score: 2, size: 30 },
      ),
    );
    expect(faces.map(({ eyesX }) => Math.round(100 * eyesX))).toEqual([22, 65]);
  });

  test('what is not sure enough is nobody', () => {
    expect(facesFrom({ width: 10, height: 10 }, ...answers({ column: 5, row: 5, score: 0.2, size: 30 }))).toEqual([]);
  });

  test('a mirrored face lies at the other side', () => {
    const [face] = facesFrom({ width: 600, height: 900 }, ...answers({ column: 18, row: 12, score: 3, size: 20 }));
    expect(mirroredFace(face, true).eyesX).toBeCloseTo(1 - face.eyesX);
    expect(mirroredFace(face, false)).toBe(face);
  });
});

test('the network sees the frame whole, black beside it, at either depth alike', () => {
  const pixels = (white: number, of: (length: number) => Uint8Array | Uint16Array) => {
    const data = of(40 * 20 * 3).fill(white);
    return faceInput({ width: 40, height: 20, channels: 3, data });
  };
  const eight = pixels(255, (length) => new Uint8Array(length));
  expect(eight).toEqual(pixels(65535, (length) => new Uint16Array(length)));
  const at = (x: number, y: number): number => eight[(y * FACE_SIDE + x) * 3];
  expect([at(0, 96), at(191, 96), at(96, 0), at(96, 191)]).toEqual([1, 1, -1, -1]);
});
