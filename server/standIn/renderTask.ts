import { join } from 'node:path';
import type { Plan } from '../../core/plan/index.ts';
import { demoBackgrounds, paintBackground, takeFrame, type Shot } from '../../core/studio/index.ts';
import { fromRaster } from '../pictures/encode.ts';
import { Store } from '../store/store.ts';
import { writeWhole } from '../store/writeWhole.ts';
import { encodeMatte, encodeShot } from './encodeShot.ts';

/** Renders one picture in a worker thread and keeps it in the store; a shot's true matte goes to `truth`, if that is given. */
export type RenderTask =
  | { kind: 'shot'; plan: Plan; shot: Shot; takenAt: string; store: string; truth?: string }
  | { kind: 'background'; name: string; store: string; height: number };
export interface Rendered {
  file: string;
  bytes: number;
  width: number;
  height: number;
  depth: 8 | 16;
}

export default async function render(task: RenderTask): Promise<Rendered> {
  return task.kind === 'shot' ? renderShot(task) : renderBackground(task);
}

async function renderShot({ plan, shot, takenAt, store, truth }: RenderTask & { kind: 'shot' }): Promise<Rendered> {
  const taken = takeFrame(plan, shot);
  const content = await encodeShot(taken, plan.camera.file, takenAt);
  if (truth) await writeWhole(truth, await encodeMatte(taken));
  return {
    file: await new Store(store).put(content),
    bytes: content.length,
    width: shot.width,
    height: shot.height,
    depth: plan.camera.file === '16-bit' ? 16 : 8,
  };
}

async function renderBackground(task: RenderTask & { kind: 'background' }): Promise<Rendered> {
  const found = demoBackgrounds.findIndex((b) => b.name === task.name);
  if (found < 0) throw new TypeError(`name: expected a demo background, received ${task.name}`);
  const width = Math.round(task.height * 0.75);
  const picture = paintBackground(demoBackgrounds[found].scene(), width, task.height, found + 1);
  const content = await fromRaster(picture).jpeg({ quality: 93, chromaSubsampling: '4:4:4' }).toBuffer();
  return {
    file: await new Store(task.store).put(content),
    bytes: content.length,
    width,
    height: task.height,
    depth: 8,
  };
}

/** Where the true matte of a demo frame is kept. */
export function truthFile(storeFolder: string, name: string): string {
  return join(storeFolder, '..', 'demo-truth', `${name}.png`);
}
