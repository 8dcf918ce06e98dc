import sharp from 'sharp';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { BackgroundResult, Delivery, Frame, PrintOrder, Problem, Shoot, ShootDetail } from '../contract/index.ts';
import { someDeliverySettings, someQuality } from '../contract/testing/items.ts';
import { defaultRecipe } from '../core/cut/index.ts';
import { noSubject } from '../core/gather/subject.ts';
import type { Preset } from '../core/handOver/index.ts';
import { cuts, jobs } from '../server/database/schema.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** Prints ordered from a service that fails as often as not, half of the time after it did what it was asked. */

let f: Served;
let shootId: number;
const print: Preset = {
  ...{ name: 'Small', kind: 'print', width: 40, height: 60, resolution: 100, bleed: 0, safe: 0, profile: 'srgb' },
  ...{ intent: 'relative', paper: 'none', format: 'jpeg', quality: 90 },
} as Preset;

beforeAll(async () => {
  f = await served({ faults: 0.5, printing: 0.2 });
  shootId = (await f.call<Shoot>('POST', '/shoots', { name: 'Fair', date: '2026-06-13' })).body.id;
  const [{ id: setupId }] = (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.setups;
  const picture = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#246' } })
    .png()
    .toBuffer();
  const { body } = await f.call<BackgroundResult>('POST', '/backgrounds?name=dusk.png', picture);
  if (body.outcome !== 'stored') throw new Error('not stored');
  for (let n = 0; n < 3; n++) {
    const content = await sampleImage({ shade: 40 + n })
      .png()
      .toBuffer();
    const { frame } = (await f.call<{ frame: Frame }>('POST', `/setups/${setupId}/frames?name=P${n}.png`, content))
      .body;
    const file = await f.store.put(
      await sampleImage({ shade: 70 + n })
        .ensureAlpha()
        .png()
        .toBuffer(),
    );
    const row = { frameId: frame.id, file, depth: 8, recipe: defaultRecipe, quality: someQuality() };
    await f.database.insert(cuts).values(row);
    const placement = { backgroundId: body.background.id, x: 0.5, y: 1, height: 0.9 };
    await f.call('PUT', `/shoots/${shootId}/placements`, { frameIds: [frame.id], placement });
  }
});
afterAll(() => f.close());

async function delivery(presets: Preset[]): Promise<number> {
  const settings = someDeliverySettings({ presets });
  const { body } = await f.call<Delivery>('POST', `/shoots/${shootId}/deliveries`, settings);
  await f.idle();
  return body.id;
}
const orders = async (id: number): Promise<PrintOrder[]> =>
  (await f.call<PrintOrder[]>('GET', `/deliveries/${id}/orders`)).body;

test('an order gets through once, is priced, accepted, printed and sent, whatever is lost on the way', async () => {
  const id = await delivery([print]);
  expect((await f.call('POST', `/deliveries/${id}/orders`, { copies: 2 })).status).toBe(202);
  await f.idle();
  const [priced] = await orders(id);
  expect(priced).toMatchObject({ state: 'priced', prints: 6, price: 2.1 });
  // As after a kill between the service's answer and ours: the same job once more.
  await f.database.update(jobs).set({ state: 'queued' });
  f.runner.wake();
  await f.idle();
  expect(f.service.orders()).toHaveLength(1);
  expect(f.service.orders()[0].acceptedAt).toBeNull();

  await f.call('POST', `/orders/${priced.id}/accept`);
  await f.idle();
  await expect.poll(async () => (await orders(id))[0].state, { timeout: 60_000 }).toBe('sent');
  expect(f.service.orders()).toHaveLength(1);
  expect((await f.call('POST', `/orders/${priced.id}/accept`)).status).toBe(202);
  expect(f.service.orders()).toHaveLength(1);
});

test('without prints there is nothing to order; a service that is away is said, and the order can be sent again', async () => {
  const cutouts = await delivery(someDeliverySettings().presets.slice(0, 1));
  const refused = await f.call<Problem>('POST', `/deliveries/${cutouts}/orders`, { copies: 1 });
  expect([refused.status, refused.body.reason]).toEqual([409, expect.stringContaining('no prints')]);
  const id = await delivery([print]);
  const { printService } = f.context;
  f.context.printService = 'http://127.0.0.1:1';
  const asked = f.hands.printService;
  f.hands.printService = 'http://127.0.0.1:1';
  await f.call('POST', `/deliveries/${id}/orders`, { copies: 1 });
  await f.idle();
  const [failed] = await orders(id);
  expect(failed).toMatchObject({ state: 'failed', problem: { reason: 'the print service does not answer' } });
  f.context.printService = printService;
  f.hands.printService = asked;
  await f.call('POST', `/orders/${failed.id}/accept`);
  await f.idle();
  expect((await orders(id))[0].state).toBe('priced');
});

test('who says no after the order was placed is not printed: the price is not accepted, and why is said', async () => {
  const id = await delivery([print]);
  await f.call('POST', `/deliveries/${id}/orders`, { copies: 1 });
  await f.idle();
  const [placed] = await orders(id);
  const { frames } = (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body;
  await f.call('POST', `/shoots/${shootId}/subjects`, { subjects: [{ ...noSubject, name: 'Ida', consent: 'no' }] });
  await f.call('PUT', `/shoots/${shootId}/sorting`, { changes: [{ frameIds: [frames[0].id], subject: 'Ida' }] });
  await f.call('POST', `/orders/${placed.id}/accept`);
  await f.idle();
  const [refused] = await orders(id);
  expect(refused).toMatchObject({ state: 'failed' });
  expect(refused.problem?.reason).toContain('1 of these prints may not go out any more');
  expect(f.service.orders().at(-1)?.acceptedAt).toBeNull();
});
