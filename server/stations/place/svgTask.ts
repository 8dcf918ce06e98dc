import type { MadePicture } from '../../http/receivePicture.ts';
import { drawSvg } from '../../pictures/svg.ts';
import type { Bench } from '../../threads/bench.ts';

export interface SvgInput {
  /** A file on its way in. */
  path: string;
}

/** Keeps the pixels of a drawing in SVG. @throws PictureError if it cannot be drawn. */
export async function takeSvg({ path }: SvgInput, { store }: Bench): Promise<MadePicture> {
  const { content, facts } = await drawSvg(path);
  return { ...facts, file: await store.put(content) };
}
