import type { Camera } from '../../core/gather/camera.ts';
import type { Plan } from '../../core/plan/index.ts';
import { demoBackgrounds, paintBackground, takeFrame, type Shot } from '../../core/studio/index.ts';
import { fromRaster } from '../pictures/encode.ts';
import { writeWhole } from '../store/writeWhole.ts';
import type { Bench } from '../threads/bench.ts';
import { encodeMatte, encodeShot, writtenBy } from './encodeShot.ts';

/** A planned set and what is photographed on it. */
export interface ShotInput {
  plan: Plan;
  shot: Shot;
  takenAt: string;
  /** Where its true matte goes, if anywhere. */
  truth?: string;
}
/** A background of the sample shoot by its name, and its height in pixels. */
export interface BackgroundInput {
  name: string;
  height: number;
}
/** A picture in the store. */
export interface Rendered {
  file: string;
  bytes: number;
  width: number;
  height: number;
  depth: 8 | 16;
}

/** Has the stand-in camera take a frame. */
export async function renderShot(
  { plan, shot, takenAt, truth }: ShotInput,
  { store }: Bench,
): Promise<Rendered & { camera: Camera }> {
  const taken = takeFrame(plan, shot);
  const content = await encodeShot(taken, plan.camera, takenAt);
  if (truth) await writeWhole(truth, await encodeMatte(taken));
  const { width, height } = shot;
  const depth = plan.camera.file === '16-bit' ? 16 : 8;
  const camera = writtenBy(plan.camera);
  return { file: await store.put(content), bytes: content.length, width, height, depth, camera };
}

/** Paints a background of the sample shoot. */
export async function renderBackground({ name, height }: BackgroundInput, { store }: Bench): Promise<Rendered> {
  const found = demoBackgrounds.findIndex((b) => b.name === name);
  if (found < 0) throw new TypeError(`name: expected a demo background, received ${name}`);
  const width = Math.round(height * 0.75);
  const picture = paintBackground(demoBackgrounds[found].scene(), width, height, found + 1);
  const content = await fromRaster(picture).jpeg({ quality: 93, chromaSubsampling: '4:4:4' }).toBuffer();
  return { file: await store.put(content), bytes: content.length, width, height, depth: 8 };
}
