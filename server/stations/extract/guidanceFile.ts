import type { GuidanceFile } from '../../../contract/index.ts';
import { noGuidance } from '../../../core/cut/index.ts';
import type { Context } from '../../http/context.ts';
import { readPaths } from './paths.ts';
import { ordersOf } from './readOrders.ts';

/** All that is said of a frame now, its setup's and its subject's with it, for a file. */
export async function guidanceFileOf({ database, store }: Context, frameId: number): Promise<GuidanceFile> {
  const { matte: _, ...guidance } =
    (await ordersOf(database, { frameIds: [frameId] })).get(frameId)?.guidance ?? noGuidance;
  const paths = await readPaths(store, guidance.touches);
  const touches = guidance.touches.flatMap((touch) => {
    const path = paths.get(touch.path);
    return path ? [{ ...touch, path }] : [];
  });
  return { ...guidance, touches };
}
