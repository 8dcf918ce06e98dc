import { eq } from 'drizzle-orm';
import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { someDeliverySettings } from '../contract/testing/items.ts';
import { deliveries, deliveryFiles, jobs } from '../server/database/schema.ts';
import { Events } from '../server/events.ts';
import { Progress } from '../server/jobs/progress.ts';
import { News } from '../server/news.ts';
import { fixture, seedBatch, type Fixture } from './fixture.ts';

let f: Fixture;
beforeAll(async () => {
  f = await fixture();
});
afterAll(() => f.close());

test('a shoot is read as it stood at one moment, whatever ends while it is read', async () => {
  const { shootId, batchId, frameIds } = await seedBatch(f.database, 1, 'deliver');
  const [{ insertId: deliveryId }] = await f.database
    .insert(deliveries)
    .values({ shootId, batchId, settings: someDeliverySettings() });
  await f.database.insert(deliveryFiles).values({ deliveryId, frameId: frameIds[0], name: 'F0.png' });
  const events = new Events();
  const news = new News(f.database, events, new Progress(), 1);

  // Subjects are read after batches and before hand-overs: the reading stands still there.
  const holder = await createConnection(f.mariadb);
  await holder.query('lock tables subjects write');
  const reading = news.detail(shootId);
  await vi.waitUntil(async () => {
    const [waiting] = await holder.query<never[]>(
      "select id from information_schema.processlist where db = database() and state like 'Waiting for table%'",
    );
    return waiting.length > 0;
  });
  await f.database.transaction(async (tx) => {
    await tx.update(jobs).set({ state: 'done' }).where(eq(jobs.batchId, batchId));
    await tx
      .update(deliveryFiles)
      .set({ file: 'a'.repeat(64), bytes: 9 })
      .where(eq(deliveryFiles.deliveryId, deliveryId));
  });
  await holder.query('unlock tables');
  await holder.end();

  const before = await reading;
  expect(before.batches).toMatchObject([{ id: batchId, open: 1 }]);
  expect(before.deliveries).toMatchObject([{ batch: { open: 1 }, files: 0 }]);
  const after = await news.detail(shootId);
  expect(after.batches).toEqual([]);
  expect(after.deliveries).toMatchObject([{ batch: { open: 0 }, files: 1 }]);
  events.close();
});
