import { existsSync, readdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { srgbToLinear } from '../core/colour/transfer.ts';
import { createLinear, createPlane, type EncodedRaster } from '../core/image/raster.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { benchCases } from './cases.ts';
import { generateTruth } from './generated.ts';
import { generatedCases } from './generator/cases.ts';
import type { Truth } from './measure.ts';
import { renderTruth } from './renderTruth.ts';

/**
 * What a frame belongs to: the stand-in camera's own, a generator's that shares no code with it, photographs with
 * truth.
 */
export const setNames = ['standIn', 'generated', 'photographs'] as const;
export type SetName = (typeof setNames)[number];

/** One frame to measure on. */
export interface BenchFrame {
  set: SetName;
  name: string;
  what: string;
  /** Looked at while tuning, or only reported. */
  part: 'tuning' | 'reporting';
  /** @param withPlate whether the empty screen is asked for. */
  load: (withPlate: boolean) => Promise<Truth & { plate?: EncodedRaster }>;
}

/** All frames of a set, always in the same order. @param folder of the photographs. */
export function framesOf(set: SetName, folder?: string): BenchFrame[] {
  if (set === 'standIn')
    return benchCases().map((one) => ({
      set,
      name: one.name,
      what: one.what,
      part: one.part,
      load: () => renderTruth(one),
    }));
  if (set === 'generated')
    return generatedCases().map((one) => ({
      set,
      name: one.name,
      what: one.what,
      part: one.part,
      load: (withPlate) => generateTruth(one.scene, withPlate),
    }));
  if (!folder) return [];
  return readdirSync(folder)
    .sort()
    .filter((name) => existsSync(join(folder, name, 'case.json')))
    .map((name) => ({
      set,
      name,
      what: name,
      part: 'reporting' as const,
      load: (withPlate) => readPhotograph(join(folder, name), withPlate),
    }));
}

interface CaseFile {
  keyChannel: 'g' | 'b';
  readings: { screenMeanSRGB8: [number, number, number] };
}

/**
 * A photograph laid over a screen, with its truth: `shot.jpg`, `plate.jpg`, `alpha.png` (coverage), `fg.png` (the
 * person's colour without the
 * screen's light), `regions.png` (2: green that has to stay, 3: a gap; may be missing), `case.json` (`keyChannel`,
 * `readings.screenMeanSRGB8`).
 */
async function readPhotograph(folder: string, withPlate: boolean): Promise<Truth & { plate?: EncodedRaster }> {
  const { keyChannel, readings } = JSON.parse(await readFile(join(folder, 'case.json'), 'utf8')) as CaseFile;
  const frame = await decodePicture(join(folder, 'shot.jpg'), 'frame');
  const plane = async (name: string, type: 'ushort' | 'uchar'): Promise<Uint16Array | Uint8Array> => {
    const { data } = await sharp(join(folder, name))
      .toColourspace(type === 'ushort' ? 'grey16' : 'b-w')
      .extractChannel(0)
      .raw({ depth: type })
      .toBuffer({ resolveWithObject: true });
    return type === 'ushort' ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : data;
  };
  const coverage = await plane('alpha.png', 'ushort');
  const matte = createPlane(frame.width, frame.height);
  for (let p = 0; p < matte.data.length; p++) matte.data[p] = coverage[p] / 65535;
  const colour = await sharp(join(folder, 'fg.png')).toColourspace('srgb').removeAlpha().raw().toBuffer();
  const clean = createLinear(frame.width, frame.height, 4);
  for (let p = 0; p < matte.data.length; p++) {
    for (let c = 0; c < 3; c++) clean.data[p * 4 + c] = matte.data[p] * srgbToLinear(colour[p * 3 + c] / 255);
    clean.data[p * 4 + 3] = matte.data[p];
  }
  const screen = readings.screenMeanSRGB8.map((v) => srgbToLinear(v / 255)) as [number, number, number];
  const labels = existsSync(join(folder, 'regions.png'))
    ? Uint8Array.from(await plane('regions.png', 'uchar'))
    : undefined;
  const plate = withPlate ? await decodePicture(join(folder, 'plate.jpg'), 'frame') : undefined;
  return { frame, plate, matte, foreground: clean, clean, screen, channel: keyChannel === 'b' ? 2 : 1, labels };
}
