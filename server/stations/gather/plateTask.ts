import type { Bench } from '../../threads/bench.ts';
import { gatherScreen } from './gatherScreen.ts';

/** Hashes of frames of one setup. */
export interface PlateInput {
  files: string[];
}
/**
 * The empty screen put together from them: its file, how many were used, share of the screen that one of them shows.
 */
export interface PlateOutput {
  file: string;
  bytes: number;
  width: number;
  height: number;
  used: number;
  seen: number;
}

/** @throws PictureError if none shows a screen. */
export async function makePlate({ files }: PlateInput, { store, tell }: Bench): Promise<PlateOutput> {
  const paths: string[] = [];
  for (const file of files) if (await store.has(file)) paths.push(await store.need(file, 'this photograph'));
  const { content, width, height, used, seen } = await gatherScreen(paths, (done) => tell(done / paths.length));
  return { file: await store.put(content), bytes: content.length, width, height, used, seen };
}
