import { readFile } from 'node:fs/promises';
import { pathSchema } from '../../../contract/index.ts';
import type { Path, Touch } from '../../../core/cut/index.ts';
import type { Store } from '../../store/store.ts';

/** Where hands went on frames: files of the store, named by their content as pictures are. */

/** @returns the name by which touches refer to it. */
export function keepPath(store: Store, path: Path): Promise<string> {
  return store.put(Buffer.from(JSON.stringify(path)));
}

/** The paths of touches, by name. @throws PictureError if one is gone. */
export async function readPaths(store: Store, touches: readonly Touch[]): Promise<Map<string, Path>> {
  const names = [...new Set(touches.filter(({ on }) => on).map(({ path }) => path))];
  return new Map(
    await Promise.all(
      names.map(async (name): Promise<[string, Path]> => {
        const content = await readFile(await store.need(name, 'a stroke'), 'utf8');
        return [name, pathSchema.parse(JSON.parse(content))];
      }),
    ),
  );
}
