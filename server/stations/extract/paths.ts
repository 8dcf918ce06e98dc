import { readFile } from 'node:fs/promises';
import { pathSchema, type GuidanceFile } from '../../../contract/index.ts';
import { noGuidance, type Path, type Touch } from '../../../core/cut/index.ts';
import type { Context } from '../../http/context.ts';
import type { Store } from '../../store/store.ts';
import { ordersOf } from './readOrders.ts';

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

/** All that is said of a frame now, its setup's and its subject's with it, for a file. */
export async function guidanceFileOf({ database, store }: Context, frameId: number): Promise<GuidanceFile> {
  const guidance = (await ordersOf(database, { frameIds: [frameId] })).get(frameId)?.guidance ?? noGuidance;
  const paths = await readPaths(store, guidance.touches);
  const touches = guidance.touches.flatMap((touch) => {
    const path = paths.get(touch.path);
    return path ? [{ ...touch, path }] : [];
  });
  return { ...guidance, touches };
}
