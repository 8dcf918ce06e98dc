import { painted, type Paint, type Size } from '../../../core/place/index.ts';
import { fromRaster } from '../../pictures/encode.ts';
import type { Rendered } from '../../standIn/renderTask.ts';
import type { Bench } from '../../threads/bench.ts';

export type PaintInput = Size & { paint: Paint };

/** Paints a plain background or one that goes from one tone to the other. */
export async function paintPlain({ paint, width, height }: PaintInput, { store }: Bench): Promise<Rendered> {
  const content = await fromRaster(painted(paint, width, height))
    .png()
    .toBuffer();
  return { file: await store.put(content), bytes: content.length, width, height, depth: 8 };
}
