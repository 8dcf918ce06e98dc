import { join } from 'node:path';
import sharp from 'sharp';
import { demoBackgrounds, demoFrames, demoPlan, paintBackground, renderPortrait } from '../../core/studio/index.ts';
import { fromRaster } from '../pictures/encode.ts';
import { Store } from '../store/store.ts';
import { writeWhole } from '../store/writeWhole.ts';

/**
 * Renders one demo picture in a worker thread and keeps it in the store. The true matte of a frame goes to
 * demo-truth/NAME.png in the data folder, 16-bit grey.
 */
export type RenderTask = { kind: 'frame' | 'background'; name: string; store: string; height: number };
export interface Rendered {
  file: string;
  bytes: number;
  width: number;
  height: number;
}

export default async function render(task: RenderTask): Promise<Rendered> {
  return task.kind === 'frame' ? renderFrame(task) : renderBackground(task);
}

async function renderFrame(task: RenderTask): Promise<Rendered> {
  const frame = demoFrames.find((f) => f.name === task.name);
  if (!frame) throw new TypeError(`name: expected a demo frame, received ${task.name}`);
  const store = new Store(task.store);
  const width = Math.round((task.height * 2) / 3);
  const portrait = renderPortrait(demoPlan(frame, width, task.height));
  const content = await fromRaster(portrait.frame).toColourspace('srgb').jpeg({ quality: 90, chromaSubsampling: '4:2:0' }).withExif({ IFD2: { DateTimeOriginal: takenAt(frame.name) } }).toBuffer();
  const truth = Uint16Array.from(portrait.matte.data, (a) => Math.round(a * 65535));
  const matte = await sharp(truth, { raw: { width, height: task.height, channels: 1 } }).toColourspace('grey16').png().toBuffer();
  await writeWhole(join(task.store, '..', 'demo-truth', `${frame.name}.png`), matte);
  return { file: await store.put(content), bytes: content.length, width, height: task.height };
}

async function renderBackground(task: RenderTask): Promise<Rendered> {
  const found = demoBackgrounds.findIndex((b) => b.name === task.name);
  if (found < 0) throw new TypeError(`name: expected a demo background, received ${task.name}`);
  const width = Math.round(task.height * 0.75);
  const picture = paintBackground(demoBackgrounds[found].scene(), width, task.height, found + 1);
  const content = await fromRaster(picture).jpeg({ quality: 93, chromaSubsampling: '4:4:4' }).toBuffer();
  return { file: await new Store(task.store).put(content), bytes: content.length, width, height: task.height };
}

/** The demo day: frames a few minutes apart, in the order of their numbers. */
export function takenAt(name: string): string {
  const number = Number(name.slice(-4));
  const minutes = (number > 200 ? 14 * 60 : 11 * 60) + (number % 100) * 4;
  return `2026:06:13 ${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}:07`;
}
