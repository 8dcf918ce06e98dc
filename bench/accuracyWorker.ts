import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { cutFrame, defaultRecipe } from '../core/cut/index.ts';
import { takeFrame } from '../core/studio/index.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { fromRaster } from '../server/pictures/encode.ts';
import { benchCases } from './cases.ts';
import { cutByColourDifference } from './classic.ts';
import { measure, type Figures } from './measure.ts';

export interface CaseResult {
  name: string;
  what: string;
  part: 'tuning' | 'reporting';
  ours: Figures;
  classic: Figures;
  minutes: number;
}

/** Renders one case, photographs it as JPEG with halved chroma, cuts it and compares with the truth. */
export default async function measureCase(index: number): Promise<CaseResult> {
  const { name, what, part, plan, shot, jpegQuality } = benchCases()[index];
  const portrait = takeFrame(plan, shot);
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-bench-'));
  try {
    const file = join(folder, 'frame.jpg');
    await fromRaster(portrait.frame).toColourspace('srgb').jpeg({ quality: jpegQuality, chromaSubsampling: '4:2:0' }).toFile(file);
    const frame = await decodePicture(file, 'frame');
    const result = cutFrame(frame, defaultRecipe);
    if (!result.ok) throw new Error(`${name}: ${result.reason}`);
    const truth = [portrait.matte, portrait.foreground] as const;
    return { name, what, part, ours: measure(result.cutout, ...truth), classic: measure(cutByColourDifference(frame), ...truth), minutes: result.quality.minutes };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
