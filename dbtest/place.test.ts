import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Background, BackgroundResult, Frame, Shoot, ShootDetail } from '../contract/index.ts';
import { placements } from '../server/database/schema.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** Backgrounds, and frames of a shoot placed on them, over HTTP. */

let f: Served;
let shootId: number;
let frameIds: number[];
let strange: number;
beforeAll(async () => {
  f = await served();
  const frame = async (setupId: number, shade: number): Promise<number> => {
    const content = await sampleImage({ shade }).png().toBuffer();
    const { body } = await f.call<{ frame: Frame }>('POST', `/setups/${setupId}/frames?name=F${shade}.png`, content);
    return body.frame.id;
  };
  const shoot = async (name: string): Promise<{ id: number; setupId: number }> => {
    const { id } = (await f.call<Shoot>('POST', '/shoots', { name, date: '2026-06-13' })).body;
    return { id, setupId: (await f.call<ShootDetail>('GET', `/shoots/${id}`)).body.setups[0].id };
  };
  const own = await shoot('Placed');
  shootId = own.id;
  frameIds = [await frame(own.setupId, 1), await frame(own.setupId, 2), await frame(own.setupId, 3)];
  strange = await frame((await shoot('Another')).setupId, 4);
});
afterAll(() => f.close());

const colour = (background: string, width = 90, height = 60): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background } })
    .jpeg()
    .toBuffer();
const add = async (name: string, content: Buffer): Promise<BackgroundResult> =>
  (await f.call<BackgroundResult>('POST', `/backgrounds?name=${encodeURIComponent(name)}`, content)).body;
const all = async (): Promise<Background[]> => (await f.call<Background[]>('GET', '/backgrounds')).body;
const place = (placement: object | null, ids?: number[]) =>
  f.call<Frame[]>('PUT', `/shoots/${shootId}/placements`, { placement, ...(ids ? { frameIds: ids } : {}) });

describe('a background', () => {
  test('is taken under its name without the ending; the same picture again is recognised', async () => {
    const sand = await colour('#c2a878');
    expect(await add('Sand dune.jpg', sand)).toMatchObject({
      outcome: 'stored',
      background: { name: 'Sand dune', width: 90, height: 60 },
    });
    expect(await add('copy of it.jpg', sand)).toEqual({
      outcome: 'duplicate',
      name: 'copy of it.jpg',
      of: 'Sand dune',
    });
    expect(await all()).toHaveLength(1);
  });

  test('that is no picture is refused with a remedy, and nothing is kept of it', async () => {
    expect(await add('notes.txt', Buffer.from('buy batteries'))).toMatchObject({
      outcome: 'refused',
      name: 'notes.txt',
      reason: expect.any(String),
      remedy: expect.any(String),
    });
    expect(await all()).toHaveLength(1);
  });

  test('given twice at once is there once', async () => {
    const sky = await colour('#88aacc');
    const results = await Promise.all([add('sky.jpg', sky), add('sky too.jpg', sky)]);
    expect(results.map(({ outcome }) => outcome).sort()).toEqual(['duplicate', 'stored']);
    expect(await all()).toHaveLength(2);
  });

  test('is handed out small and large', async () => {
    const large = await add('large.jpg', await colour('#335544', 1800, 1200));
    if (large.outcome !== 'stored') throw new Error(large.outcome);
    const size = async (which: string): Promise<number | undefined> => {
      const response = await fetch(`${f.address}/api/backgrounds/${large.background.id}/${which}`);
      return (await sharp(Buffer.from(await response.arrayBuffer())).metadata()).width;
    };
    const [small, view] = [await size('thumbnail'), await size('view')];
    expect(small).toBeLessThan(600);
    expect(view).toBeGreaterThan(1000);
    expect((view ?? 0) * ((view ?? 0) / 1.5)).toBeLessThanOrEqual(1_210_000);
    expect((await f.call('GET', '/backgrounds/99999/view')).status).toBe(404);
  });
});

describe('placing', () => {
  const at = { x: 0.4, y: 1, height: 0.8 };

  test('puts those named on the background, and nobody else', async () => {
    const [{ id }] = await all();
    const { body } = await place({ backgroundId: id, ...at }, frameIds.slice(0, 2));
    expect(body.map((frame) => frame.id).sort()).toEqual(frameIds.slice(0, 2));
    for (const { placement } of body) expect(placement).toEqual({ backgroundId: id, ...at });
    expect(await f.database.select().from(placements)).toHaveLength(2);
  });

  test('without names it is all of the shoot; again it replaces', async () => {
    const [, { id }] = await all();
    const { body } = await place({ backgroundId: id, ...at, x: 0.6 });
    expect(body.map((frame) => frame.placement?.x)).toEqual([0.6, 0.6, 0.6]);
    expect(await f.database.select().from(placements)).toHaveLength(3);
  });

  test('does not reach into another shoot', async () => {
    const [{ id }] = await all();
    expect((await place({ backgroundId: id, ...at }, [strange])).body).toEqual([]);
    const rows = await f.database.select().from(placements);
    expect(rows.some(({ frameId }) => frameId === strange)).toBe(false);
  });

  test('on a background that is gone, or beyond every range, is refused and changes nothing', async () => {
    const before = await f.database.select().from(placements);
    expect((await place({ backgroundId: 99_999, ...at })).status).toBe(404);
    const [{ id }] = await all();
    expect(await place({ backgroundId: id, ...at, height: 90 })).toMatchObject({
      status: 400,
      body: { reason: expect.stringContaining('height') },
    });
    expect(await f.database.select().from(placements)).toEqual(before);
  });

  test('nothing takes them off again; nobody named is nobody', async () => {
    expect((await place(null, [])).body).toEqual([]);
    expect(await f.database.select().from(placements)).toHaveLength(3);
    const { body } = await place(null, [frameIds[1]]);
    expect(body[0].placement).toBeNull();
    await place(null);
    expect(await f.database.select().from(placements)).toHaveLength(0);
  });
});
