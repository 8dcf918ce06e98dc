import { existsSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import { cutFrame, type Guidance, type Path, type Quality, type Recipe } from '../core/cut/index.ts';
import { compositeOnBackground, defaultPlacement } from '../core/place/index.ts';
import { faultOf } from '../server/faults.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import { encodePicture, type PictureFormat } from '../server/pictures/encode.ts';
import { coverageIn, transparencyOf } from '../server/pictures/transparency.ts';
import { writeWhole } from '../server/store/writeWhole.ts';
import '../server/kernels.ts';

/** One frame to cut, as sent to a worker thread, and what came of it. */
export interface CutOrder {
  file: string;
  target: string;
  /** Where the person on the background goes. */
  finished?: string;
  format: Exclude<PictureFormat, 'jpeg'>;
  recipe: Recipe;
  guidance: Guidance;
  /** Of its touches, by name. */
  paths: ReadonlyMap<string, Path>;
  plate?: string;
  background?: string;
}
export type CutLine =
  | {
      ok: true;
      file: string;
      out: string;
      width: number;
      height: number;
      ms: { decode: number; cut: number; encode: number };
      quality: Quality;
    }
  | { ok: false; file: string; reason: string; remedy: string };

export default async function cutOne(order: CutOrder): Promise<CutLine> {
  const { file } = order;
  if (!existsSync(file)) return { ok: false, file, reason: 'the file does not exist', remedy: 'Check the name.' };
  try {
    const start = performance.now();
    const frame = await decodePicture(file, 'frame');
    const plate = order.plate ? await decodePicture(order.plate, 'frame') : undefined;
    if (plate && (plate.width !== frame.width || plate.height !== frame.height)) {
      return {
        ok: false,
        file,
        reason: `the plate is ${plate.width} × ${plate.height} pixels, the frame ${frame.width} × ${frame.height}`,
        remedy: 'Give a plate of the same size, or none.',
      };
    }
    const background = order.background ? await decodePicture(order.background, 'background') : undefined;
    const decoded = performance.now();
    const persons = await findPersons(frame);
    // What is cut out already has its matte with it, and no screen.
    const open = await transparencyOf(file);
    const result = cutFrame(frame, open ? { ...order.recipe, method: 'whole' } : order.recipe, order.guidance, {
      plate,
      persons,
      own: open && { ...(await coverageIn(open)), use: 'instead' },
      paths: order.paths,
    });
    if (!result.ok) return { ok: false, file, reason: result.reason, remedy: result.remedy };
    const cut = performance.now();
    await writeWhole(order.target, await encodePicture(result.cutout, order.format));
    const encoded = performance.now();
    if (background && order.finished)
      await writeWhole(
        order.finished,
        await encodePicture(compositeOnBackground(result.cutout, background, defaultPlacement), 'jpeg'),
      );
    const ms = {
      decode: Math.round(decoded - start),
      cut: Math.round(cut - decoded),
      encode: Math.round(encoded - cut),
    };
    return { ok: true, file, out: order.target, width: frame.width, height: frame.height, ms, quality: result.quality };
  } catch (error) {
    const fault = faultOf(error);
    if (fault) return { ok: false, file, ...fault.problem };
    throw error;
  }
}
