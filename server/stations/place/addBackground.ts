import { eq } from 'drizzle-orm';
import type { Request } from 'express';
import type { BackgroundResult } from '../../../contract/index.ts';
import { backgrounds } from '../../database/schema.ts';
import type { Context } from '../../http/context.ts';
import { receivePicture } from '../../http/receivePicture.ts';

/** Takes the request's body as a background. */
export async function addBackground(
  { database, store, events }: Context,
  name: string,
  request: Request,
): Promise<BackgroundResult> {
  const received = await receivePicture(request, store, 'background');
  if ('reason' in received) return { outcome: 'refused', name, ...received };
  const { hash, facts } = received;
  const result = await store
    .exclusive(async (): Promise<BackgroundResult> => {
      const [there] = await database.select().from(backgrounds).where(eq(backgrounds.file, hash));
      if (there && (await store.has(hash))) return { outcome: 'duplicate', name, of: there.name };
      await received.keep();
      if (there) return { outcome: 'duplicate', name, of: there.name };
      const { width, height } = facts;
      const title = name.replace(/\.[^.]*$/, '') || name;
      const [{ insertId }] = await database.insert(backgrounds).values({ name: title, file: hash, width, height });
      const background = { id: insertId, name: title, width, height, picture: hash.slice(0, 16) };
      return { outcome: 'stored', name, background };
    })
    .finally(() => received.drop());
  if (result.outcome === 'stored') events.send({ type: 'backgrounds' });
  return result;
}
