import type { Camera } from '../../core/gather/camera.ts';
import type { Plan } from '../../core/plan/index.ts';
import { demoBackgrounds, paintBackground, takeFrame, type Shot } from '../../core/studio/index.ts';
import { asTaken } from '../../core/gather/develop.ts';
import { developRaw } from '../pictures/raw.ts';
import type { Store } from '../store/store.ts';
import { encodePicture, fromRaster } from '../pictures/encode.ts';
import { writeWhole } from '../store/writeWhole.ts';
import type { Bench } from '../threads/bench.ts';
import { encodeMatte, encodeShot, writtenBy } from './encodeShot.ts';

/** A frame, what its camera wrote of itself, and the raw file that it was developed from. */
export type Shown = Rendered & { camera: Camera; raw: string | null };

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
export async function renderShot({ plan, shot, takenAt, truth }: ShotInput, { store }: Bench): Promise<Shown> {
  const taken = takeFrame(plan, shot);
  const written = await encodeShot(taken, plan.camera, takenAt);
  if (truth) await writeWhole(truth, await encodeMatte(taken));
  const { width, height } = shot;
  const depth = plan.camera.file === 'jpeg' ? 8 : 16;
  const raw = plan.camera.file === 'raw' ? await store.put(written) : null;
  const content = raw ? await develop(raw, store) : written;
  const camera = writtenBy(plan.camera);
  return { file: await store.put(content), raw, bytes: content.length, width, height, depth, camera };
}

async function develop(raw: string, store: Store): Promise<Buffer> {
  const { picture } = await developRaw(await store.need(raw, 'this raw file'), asTaken);
  return encodePicture(picture, 'tiff16');
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
