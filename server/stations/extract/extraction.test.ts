import { readFileSync, writeFileSync } from 'node:fs';
import process from 'node:process';
import { expect, test } from 'vitest';
import { cutFrame, defaultRecipe, EXTRACTION } from '../../../core/cut/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { demoFrames, demoShot, takeFrame } from '../../../core/studio/index.ts';
import { findPersons } from '../../persons/findPersons.ts';

/** Cuts in coarse, as they were when the way of extracting was last counted. */
const file = new URL('extraction.json', import.meta.url);
interface Kept {
  extraction: number;
  /** By the frame's name: mean R, G, B (premultiplied) and coverage of each cell, 0–255, row by row. */
  frames: Record<string, number[]>;
}

const ACROSS = 8;
const DOWN = 12;
/** So far a cell may be off without that anybody would see it. */
const UNSEEN = 3;

function inCoarse({ width, height, data }: EncodedRaster): number[] {
  const white = data instanceof Uint16Array ? 65535 : 255;
  const sums = new Float64Array(ACROSS * DOWN * 4);
  const counts = new Float64Array(ACROSS * DOWN);
  for (let p = 0; p < width * height; p++) {
    const x = Math.floor(((p % width) * ACROSS) / width);
    const cell = Math.floor((Math.floor(p / width) * DOWN) / height) * ACROSS + x;
    const coverage = data[p * 4 + 3] / white;
    counts[cell]++;
    for (let c = 0; c < 3; c++) sums[cell * 4 + c] += (data[p * 4 + c] / white) * coverage;
    sums[cell * 4 + 3] += coverage;
  }
  return [...sums].map((sum, k) => Math.round((255 * sum) / counts[k >> 2]));
}

test('the same order gives the cuts that it gave, or the way of extracting has been counted up', async () => {
  const frames: Kept['frames'] = {};
  for (const name of ['SKM_0104', 'SKM_0204', 'SKM_0215']) {
    const frame = demoFrames.find((one) => one.name === name);
    if (!frame) throw new Error(name);
    const { plan, shot } = demoShot(frame, 300);
    const taken = takeFrame(plan, shot).frame;
    const cut = cutFrame(taken, defaultRecipe, undefined, { persons: await findPersons(taken) });
    if (!cut.ok) throw new Error(cut.reason);
    frames[name] = inCoarse(cut.cutout);
  }
  const before = JSON.parse(readFileSync(file, 'utf8')) as Kept;
  const now: Kept = { extraction: EXTRACTION, frames };
  // What was not counted up is not kept either.
  const renewed = process.env.KEEP_EXTRACTION !== undefined && EXTRACTION > before.extraction;
  if (renewed) writeFileSync(file, JSON.stringify(now));
  const kept = renewed ? now : before;
  const seen = Object.entries(kept.frames).flatMap(([name, cells]) =>
    cells.flatMap((value, k) =>
      Math.abs(value - frames[name][k]) > UNSEEN ? [`${name} cell ${k >> 2}: ${frames[name][k]}, was ${value}`] : [],
    ),
  );
  const remedy =
    'Cuts look otherwise: add one to EXTRACTION in core/cut/order.ts, so that cuts of before say so, and run this test once with KEEP_EXTRACTION=1.';
  expect(seen, remedy).toEqual([]);
  expect(kept.extraction, remedy).toBe(EXTRACTION);
});
