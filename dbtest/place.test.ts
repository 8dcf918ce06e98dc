import { eq, sql } from 'drizzle-orm';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type {
  Background,
  BackgroundResult,
  Frame,
  LutResult,
  Problem,
  Shoot,
  ShootDetail,
  Style,
} from '../contract/index.ts';
import { someDeliverySettings, someQuality } from '../contract/testing/items.ts';
import { defaultRecipe } from '../core/cut/index.ts';
import {
  cubeOf,
  defaultLook,
  matchOf,
  placedPicture,
  plainLook,
  readCube,
  straightCurves,
  writeCube,
  type Look,
  type Tones,
} from '../core/place/index.ts';
import { fringeOn, fringeSamples, USUAL_SCREEN } from '../core/place/fringe.ts';
import {
  backgrounds,
  cuts,
  deliveryFiles,
  luts as lutsTable,
  placements,
  styles as stylesTable,
} from '../server/database/schema.ts';
import { purgeBackgrounds } from '../server/stations/place/backgrounds.ts';
import { colourDifference } from '../server/pictures/colourDifference.ts';
import { decodeCutout } from '../server/pictures/views.ts';
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

/** Whole finished pictures, to the pixel. */
const finished = someDeliverySettings({
  presets: [{ name: 'Finished', kind: 'screen', longest: 12_000, most: 0, format: 'png', quality: 90 }],
});

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

  test('brings what its camera wrote: lens and settings', async () => {
    const content = await sharp({ create: { width: 120, height: 80, channels: 3, background: '#556677' } })
      .withExif({
        IFD2: { FocalLength: '23/1', FocalLengthIn35mmFilm: '35', FNumber: '8/1', ExposureTime: '1/125' },
      })
      .jpeg()
      .toBuffer();
    const added = await add('pier.jpg', content);
    if (added.outcome !== 'stored') throw new Error(added.outcome);
    const { scene } = added.background;
    expect(scene).toMatchObject({ focal: 35, by: { focal: 'file' }, horizon: null });
    expect(scene.notes).toBe('23 mm, f/8, 1/125 s');
    await f.call('PATCH', `/backgrounds/${added.background.id}`, { removed: true });
  });

  test('may be a drawing in SVG, which is drawn large and keeps its transparency', async () => {
    const drawing = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 30 20"><circle cx="9" cy="9" r="5"/></svg>';
    const added = await add('badge.svg', Buffer.from(drawing));
    expect(added).toMatchObject({ outcome: 'stored', background: { name: 'badge', width: 4000 } });
    if (added.outcome !== 'stored') return;
    const [{ file }] = await f.database.select().from(backgrounds).where(eq(backgrounds.id, added.background.id));
    const { channels } = await sharp(await f.store.need(file, 'the background')).stats();
    expect([channels[3].min, channels[3].max]).toEqual([0, 255]);
    await f.call('PATCH', `/backgrounds/${added.background.id}`, { removed: true });
    expect(await add('broken.svg', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><g>'))).toMatchObject({
      outcome: 'refused',
      remedy: 'Save it again as plain SVG, or as PNG.',
    });
  });

  test('given twice at once is there once', async () => {
    const before = (await all()).length;
    const sky = await colour('#88aacc');
    const results = await Promise.all([add('sky.jpg', sky), add('sky too.jpg', sky)]);
    expect(results.map(({ outcome }) => outcome).sort()).toEqual(['duplicate', 'stored']);
    expect(await all()).toHaveLength(before + 1);
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
    for (const { placement } of body) expect(placement).toEqual({ backgroundId: id, ...at, look: {}, others: [] });
    expect(await f.database.select().from(placements)).toHaveLength(2);
  });

  test('without names it is all of the shoot; again it replaces', async () => {
    const [, { id }] = await all();
    const { body } = await place({ backgroundId: id, ...at, x: 0.6 });
    expect(body.map((frame) => frame.placement?.x)).toEqual([0.6, 0.6, 0.6]);
    expect(await f.database.select().from(placements)).toHaveLength(3);
  });

  test('single ones may have a place of their own, and points in which they differ', async () => {
    const [{ id }] = await all();
    const { body } = await f.call<Frame[]>('PUT', `/shoots/${shootId}/placements`, {
      placement: { backgroundId: id, ...at, look: { haze: 0.2 } },
      places: [{ id: frameIds[1], x: 0.1, y: 0.9, height: 0.5 }],
    });
    const of = (n: number): Frame['placement'] | undefined => body.find((frame) => frame.id === frameIds[n])?.placement;
    expect(of(0)).toEqual({ backgroundId: id, ...at, look: { haze: 0.2 }, others: [] });
    expect(of(1)).toEqual({ backgroundId: id, x: 0.1, y: 0.9, height: 0.5, look: { haze: 0.2 }, others: [] });
    const wrong = { placement: { backgroundId: id, ...at, look: { haze: 9 } } };
    expect(await f.call('PUT', `/shoots/${shootId}/placements`, wrong)).toMatchObject({ status: 400 });
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

describe('the style of a background', () => {
  const styles = async (): Promise<Style[]> => (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.styles;
  const change = (backgroundId: number, look: object, seen?: object) =>
    f.call<Style & Problem>('PUT', `/shoots/${shootId}/styles/${backgroundId}`, {
      look,
      ...(seen ? { seen: { look: seen } } : {}),
    });
  const at = { x: 0.5, y: 1, height: 0.9 };

  test('is there as soon as somebody stands on it, as it is proposed, and stays as it was changed', async () => {
    const [, , { id }] = await all();
    expect((await styles()).some(({ backgroundId }) => backgroundId === id)).toBe(false);
    await place({ backgroundId: id, ...at });
    expect((await styles()).find(({ backgroundId }) => backgroundId === id)?.look).toEqual(defaultLook);
    expect((await change(id, { wrap: 0.9 })).body.look).toEqual({ ...defaultLook, wrap: 0.9 });
    await place({ backgroundId: id, ...at, x: 0.4 });
    expect((await styles()).find(({ backgroundId }) => backgroundId === id)?.look.wrap).toBe(0.9);
  });

  test('whoever stood there before there were styles stays as they are, also when moved', async () => {
    const [, , { id }] = await all();
    await place({ backgroundId: id, ...at });
    await f.database.delete(stylesTable);
    await place({ backgroundId: id, ...at, x: 0.3 });
    expect(await styles()).toEqual([]);
    await change(id, { wrap: 0.5 });
    expect((await styles())[0].look).toEqual({ ...defaultLook, wrap: 0.5 });
  });

  test('that cannot be read is told, and does nothing', async () => {
    const [, , { id }] = await all();
    await f.database.execute(sql`update styles set look = '{"wrap":"much"}' where background_id = ${id}`);
    const { body } = await f.call<ShootDetail>('GET', `/shoots/${shootId}`);
    expect(body.styles.find(({ backgroundId }) => backgroundId === id)?.look).toEqual(plainLook);
    expect(body.broken[0].reason).toContain('wrap');
    await f.database.delete(stylesTable);
    await change(id, defaultLook);
  });

  test('two windows: what only one changed is kept; the same changed by both is told', async () => {
    const [, , { id }] = await all();
    await change(id, { haze: 0.1, contact: 0.2 });
    await change(id, { haze: 0.3 }, { haze: 0.1 });
    expect((await change(id, { contact: 0.4 }, { contact: 0.2 })).body.look).toMatchObject({ haze: 0.3, contact: 0.4 });
    const refused = await change(id, { haze: 0.5 }, { haze: 0.1 });
    expect(refused.status).toBe(409);
    expect(refused.body.reason).toContain('Haze before the person');
    expect((await change(99_999, { haze: 0.1 })).status).toBe(404);
    expect((await change(id, { haze: 7 })).body.reason).toContain('haze');
  });

  test('is copied with a shoot', async () => {
    const { body } = await f.call<Shoot>('POST', `/shoots/${shootId}/copy`);
    const copied = (await f.call<ShootDetail>('GET', `/shoots/${body.id}`)).body.styles;
    expect(copied.map(({ look }) => look)).toEqual((await styles()).map(({ look }) => look));
  });
});

describe('the library', () => {
  const change = (id: number, to: object) => f.call<Background & Problem>('PATCH', `/backgrounds/${id}`, to);

  test('a background is called anew, found by words and known by its horizon; two windows keep what each said', async () => {
    const [{ id, name }] = await all();
    const known = { horizon: 0.4, cameraHeight: 1.5, lightFrom: -1 };
    expect((await change(id, { tags: ['sea', 'day'], scene: known })).body).toMatchObject({ name, scene: known });
    await change(id, { scene: { ...known, horizon: 0.45 }, seen: { scene: known } });
    await change(id, {
      scene: { ...known, lightFrom: 1 },
      tags: ['sea', 'old'],
      seen: { scene: known, tags: ['sea', 'day'] },
    });
    expect((await all())[0]).toMatchObject({
      tags: ['sea', 'old'],
      scene: { horizon: 0.45, cameraHeight: 1.5, lightFrom: 1 },
    });
    const refused = await change(id, { scene: { ...known, horizon: 0.1 }, seen: { scene: known } });
    expect(refused.status).toBe(409);
    expect(refused.body.reason).toContain('Horizon');
    expect((await change(id, { scene: { ...known, horizon: 9 } })).body.reason).toContain('horizon');
    expect((await change(99_999, { name: 'x' })).status).toBe(404);
  });

  test('what is removed is no longer offered, goes for good a day later unless somebody stands on it, and comes back with its file', async () => {
    const sand = await colour('#112233');
    const added = await add('gone.jpg', sand);
    if (added.outcome !== 'stored') throw new Error(added.outcome);
    const { id } = added.background;
    expect((await change(id, { removed: true })).body.removed).toBe(true);
    await purgeBackgrounds(f);
    expect((await all()).some((one) => one.id === id)).toBe(true);
    expect(await add('gone.jpg', sand)).toMatchObject({ outcome: 'stored', background: { id, removed: false } });
    await change(id, { removed: true });
    const [{ id: stoodOn }] = await all();
    await change(stoodOn, { removed: true });
    await place({ backgroundId: stoodOn, x: 0.5, y: 1, height: 0.9 }, frameIds.slice(0, 1));
    await f.database.execute(sql`update backgrounds set removed_at = '2020-01-01' where removed_at is not null`);
    await purgeBackgrounds(f);
    const left = await all();
    expect(left.some((one) => one.id === id)).toBe(false);
    expect(left.find((one) => one.id === stoodOn)?.removed).toBe(true);
    await change(stoodOn, { removed: false });
  });

  test('one is painted', async () => {
    const wanted = { name: 'Plain', paint: { from: '#336699', to: '#000000', way: 'plain' }, width: 120, height: 160 };
    const { body } = await f.call<BackgroundResult>('POST', '/backgrounds/painted', wanted);
    expect(body).toMatchObject({ outcome: 'stored', background: { name: 'Plain', width: 120, height: 160 } });
    expect((await f.call<BackgroundResult>('POST', '/backgrounds/painted', wanted)).body.outcome).toBe('duplicate');
    expect((await f.call('POST', '/backgrounds/painted', { ...wanted, width: 9 })).status).toBe(400);
  });
});

describe('a finished picture', () => {
  /** A white person on a grey screen, as if cut. */
  async function cutOf(frameId: number): Promise<string> {
    const width = 40;
    const height = 60;
    const pixels = Buffer.alloc(width * height * 4);
    for (let y = 10; y < height; y++)
      for (let x = 10; x < 30; x++) pixels.set([210, 160, 140, 255], (y * width + x) * 4);
    const file = await f.store.put(
      await sharp(pixels, { raw: { width, height, channels: 4 } })
        .png()
        .toBuffer(),
    );
    await f.database.insert(cuts).values({ frameId, file, depth: 8, recipe: defaultRecipe, quality: someQuality() });
    return file;
  }

  test('is what hand-over gives: the style, and in single points the frame’s own look', async () => {
    const dusk = await add(
      'dusk.png',
      await sharp({ create: { width: 120, height: 180, channels: 3, background: '#3a2436' } })
        .png()
        .toBuffer(),
    );
    if (dusk.outcome !== 'stored') throw new Error(dusk.outcome);
    const { id } = dusk.background;
    const [first, second] = frameIds;
    for (const frameId of [first, second]) await cutOf(frameId);
    const at = { backgroundId: id, x: 0.5, y: 1, height: 0.9 };
    await place(at, [first]);
    await place({ ...at, look: { exposure: 1 } }, [second]);
    f.runner.wake();
    await f.call('POST', `/shoots/${shootId}/deliveries`, finished);
    await f.idle();
    const files = await f.database.select().from(deliveryFiles);
    const pixels = async (frameId: number): Promise<Buffer> => {
      const file = files.find((one) => one.frameId === frameId)?.file ?? '';
      return sharp(await f.store.need(file, 'this cut'))
        .removeAlpha()
        .raw()
        .toBuffer();
    };
    const style = (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.styles.find(
      ({ backgroundId }) => backgroundId === id,
    );
    const tones = async (path: string): Promise<Tones> => {
      const { tones: found } = (await f.call<{ tones: Tones }>('GET', path)).body;
      return found;
    };
    const cut = { width: 40, height: 60 };
    const measured = {
      person: await tones(`/frames/${first}/tones`),
      scene: await tones(`/backgrounds/${id}/tones`),
      cut,
      background: { width: 120, height: 180 },
      lightFrom: null,
    };
    const [{ file }] = await f.database.select().from(cuts).where(eq(cuts.frameId, first));
    const cutout = await decodeCutout(await f.store.need(file, 'this cut'), 8);
    const behind = { ...measured.background, channels: 3 as const, data: new Uint8Array(120 * 180 * 3) };
    for (let i = 0; i < behind.data.length; i += 3) behind.data.set([0x3a, 0x24, 0x36], i);
    const expected = (own: Partial<Look>): Uint8Array | Uint16Array =>
      placedPicture(cutout, behind, at, { ...plainLook, ...style?.look, ...own }, measured).data;
    expect(new Uint8Array(await pixels(first))).toEqual(expected({}));
    expect(new Uint8Array(await pixels(second))).toEqual(expected({ exposure: 1 }));
    expect(expected({})).not.toEqual(expected({ exposure: 1 }));
    // The person is brought down to the dusk.
    const middle = (90 * 120 + 60) * 3;
    expect(expected({})[middle]).toBeLessThan(190);

    const fringe = async (on: object[]) =>
      (
        await f.call<{ seen: (number | null)[] }>(
          'GET',
          `/frames/${first}/fringe?${new URLSearchParams({ on: JSON.stringify(on) })}`,
        )
      ).body.seen;
    const here = { backgroundId: id, x: 0.5, y: 1, height: 0.8 };
    const [seen, gone, outside] = await fringe([
      here,
      { ...here, backgroundId: 999_999 },
      { ...here, x: 1.5, height: 0.1 },
    ]);
    expect(seen).toBeCloseTo(
      fringeOn(
        fringeSamples(cutout),
        {
          ...{ screen: USUAL_SCREEN, cut, background: behind, on: measured.background, placement: here },
          person: matchOf(measured, { ...plainLook, ...style?.look }, here).step,
        },
        colourDifference,
      ),
      6,
    );
    expect([gone, outside]).toEqual([null, 0]);

    const query = new URLSearchParams({
      on: JSON.stringify({ ...at, look: {} }),
      look: JSON.stringify(style?.look),
      extras: JSON.stringify(style?.extras),
      light: 'none',
    });
    const small = await fetch(`${f.address}/api/frames/${first}/finished?${query}`);
    expect(small.headers.get('content-type')).toBe('image/jpeg');
    expect((await sharp(Buffer.from(await small.arrayBuffer())).metadata()).height).toBe(180);
    query.set('look', '{');
    expect((await fetch(`${f.address}/api/frames/${first}/finished?${query}`)).status).toBe(400);
  });

  test('has the layers, the card and the look-up table of its style, in the sheet and handed over alike', async () => {
    const [first] = frameIds;
    const dusk = (await all()).find(({ name }) => name === 'dusk');
    if (!dusk) throw new Error('no dusk');
    const veil = await sharp({
      create: { width: 60, height: 90, channels: 4, background: { r: 255, g: 0, b: 0, alpha: 1 } },
    })
      .composite([
        {
          input: { create: { width: 60, height: 70, channels: 4, background: '#000' } },
          blend: 'dest-out',
          top: 20,
          left: 0,
        },
      ])
      .png()
      .toBuffer();
    const layer = await add('veil.png', veil);
    if (layer.outcome !== 'stored') throw new Error(layer.outcome);
    const cube = await f.call<LutResult>(
      'POST',
      '/luts?name=Cold.cube',
      Buffer.from(writeCube(cubeOf('Cold', 3, (rgb) => (rgb[0] *= 0.5)))),
    );
    if (cube.body.outcome !== 'stored') throw new Error(cube.body.outcome);
    expect(
      (await f.call<LutResult>('POST', '/luts?name=x.cube', Buffer.from('LUT_3D_SIZE 2\n0 0 0'))).body,
    ).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('1 colours'),
    });
    const line = { id: 'a', text: '{frame}', at: 'bottom', size: 120, font: 'bold', tone: '#ffffff', edge: false };
    const lower = [
      { from: 0, to: 0 },
      { from: 1, to: 0.97 },
    ];
    const extras = {
      // The layer has no blue.
      curves: { ...straightCurves, blue: lower },
      lut: cube.body.lut.id,
      layers: [{ id: 'veil', backgroundId: layer.background.id, where: 'front', way: 'over', strength: 1 }],
      card: { lines: [line], margin: 40, border: 0, tone: '#ffffff' },
    };
    const { body: style } = await f.call<Style>('PUT', `/shoots/${shootId}/styles/${dusk.id}`, { extras });
    expect(style.extras).toEqual(extras);
    await place({ backgroundId: dusk.id, x: 0.5, y: 1, height: 0.9 }, [first]);
    await f.call('POST', `/shoots/${shootId}/deliveries`, finished);
    await f.idle();
    const files = await f.database.select().from(deliveryFiles).where(eq(deliveryFiles.frameId, first));
    const handed = await sharp(await f.store.need(files.at(-1)?.file ?? '', 'this cut'))
      .removeAlpha()
      .raw()
      .toBuffer();
    const at = (of: Buffer, x: number, y: number): number[] => [
      ...of.subarray((y * 120 + x) * 3, (y * 120 + x) * 3 + 3),
    ];
    // The layer is red above; the table takes half of its light.
    expect(at(handed, 60, 10)).toEqual([188, 0, 0]);
    const white = (of: Buffer): number => {
      let count = 0;
      for (let i = 0; i < of.length; i += 3) if (of[i] > 245 && of[i + 1] > 245 && of[i + 2] > 245) count++;
      return count;
    };
    expect(white(handed), 'letters').toBeGreaterThan(40);

    const query = new URLSearchParams({
      on: JSON.stringify({ backgroundId: dusk.id, x: 0.5, y: 1, height: 0.9, look: {} }),
      look: JSON.stringify(style.look),
      extras: JSON.stringify(extras),
      light: 'none',
    });
    const sheet = await fetch(`${f.address}/api/frames/${first}/finished?${query}`);
    const small = await sharp(Buffer.from(await sheet.arrayBuffer()))
      .removeAlpha()
      .raw()
      .toBuffer();
    at(small, 60, 10).forEach((v, c) => expect(Math.abs(v - [188, 0, 0][c])).toBeLessThan(8));
    expect(white(small) / white(handed)).toBeGreaterThan(0.6);

    const grade = await (await fetch(`${f.address}/api/shoots/${shootId}/styles/${dusk.id}/grade.cube`)).text();
    const read = readCube(grade);
    expect(read.ok && [...read.cube.data.slice(-3)].map((v) => Math.round(100 * v))).toEqual([74, 100, 97]);

    // What lies over pictures stays, though it is no longer offered.
    await f.call('PATCH', `/backgrounds/${layer.background.id}`, { removed: true });
    await f.database.execute(sql`update backgrounds set removed_at = '2020-01-01' where id = ${layer.background.id}`);
    await purgeBackgrounds(f);
    expect((await all()).some(({ id }) => id === layer.background.id)).toBe(true);

    // Somebody else stands before the person, in the sheet and handed over alike; all at once keeps who stands with whom.
    const beside = { frameId: frameIds[1], x: 0.15, y: 1, height: 0.5, mirrored: false, where: 'front' };
    const withOther = { backgroundId: dusk.id, x: 0.7, y: 1, height: 0.9, others: [beside] };
    expect((await place(withOther, [first])).body[0].placement?.others).toEqual([beside]);
    await place({ backgroundId: dusk.id, x: 0.7, y: 1, height: 0.9 }, frameIds.slice(0, 2));
    const kept = (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body.frames.find(({ id }) => id === first);
    expect(kept?.placement?.others).toEqual([beside]);
    await f.call('POST', `/shoots/${shootId}/deliveries`, finished);
    await f.idle();
    const group = (await f.database.select().from(deliveryFiles).where(eq(deliveryFiles.frameId, first))).at(-1);
    const both = await sharp(await f.store.need(group?.file ?? '', 'this cut'))
      .removeAlpha()
      .raw()
      .toBuffer();
    // The other's middle, where there is only background without them.
    const there = (of: Buffer): number => at(of, 18, 150)[1];
    expect(there(both)).toBeGreaterThan(there(handed) + 20);
    files.push(group as (typeof files)[number]);

    // Who left the library leaves the pictures, too, and stops nothing.
    await f.database.delete(lutsTable);
    await f.call('POST', `/shoots/${shootId}/deliveries`, finished);
    await f.idle();
    const later = await f.database.select().from(deliveryFiles).where(eq(deliveryFiles.frameId, first));
    expect(later).toHaveLength(files.length + 1);
  });
});
