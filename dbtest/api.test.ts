import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { request as httpRequest } from 'node:http';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import {
  shootDetailSchema,
  type Delivery,
  type Frame,
  type ImportResult,
  type Setup,
  type ShootDetail,
} from '../contract/index.ts';
import { defaultRecipe, EXTRACTION, fingerprintOf, noGuidance, type Guidance, type Order } from '../core/cut/index.ts';
import { someDeliverySettings } from '../contract/testing/items.ts';
import { frames, jobs } from '../server/database/schema.ts';
import { writeSamples, type SampleName } from '../server/testing/samples.ts';
import { served, type Answer, type Served } from './served.ts';

let f: Served;
let folder: string;
let samples: Record<SampleName, string>;

beforeAll(async () => {
  f = await served();
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-api-'));
  samples = await writeSamples(folder);
});
afterAll(async () => {
  await f.close();
  await rm(folder, { recursive: true });
});

function call<T = unknown>(method: string, path: string, body?: unknown): Promise<Answer<T>> {
  return f.call<T>(method, path, body);
}

async function send(path: string, file: string, name = basename(file)): Promise<ImportResult> {
  const response = await fetch(`${f.address}/api${path}?${new URLSearchParams({ name })}`, {
    method: 'POST',
    body: await readFile(file),
  });
  return (await response.json()) as ImportResult;
}

async function newShoot(): Promise<ShootDetail> {
  const { body } = await call<{ id: number }>('POST', '/shoots', { name: 'Test', date: '2026-06-13' });
  return (await call<ShootDetail>('GET', `/shoots/${body.id}`)).body;
}

async function until<T>(read: () => Promise<T>, good: (value: T) => boolean): Promise<T> {
  for (let n = 0; n < 300; n++) {
    const value = await read();
    if (good(value)) return value;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('it did not come about within 30 s');
}

describe('import', () => {
  test('takes the good, refuses the bad one by one, knows what it has', async () => {
    const { shoot, setups } = await newShoot();
    const path = `/setups/${setups[0].id}/frames`;
    const outcomes: Record<string, string> = {};
    for (const [name, file] of Object.entries(samples)) outcomes[name] = (await send(path, file)).outcome;
    const stored = [
      'good.jpg',
      'turned.jpg',
      'dated.jpg',
      'good.png',
      'good.tif',
      'sixteen.png',
      'sixteen.tif',
      'opaque.png',
      'transparent.png',
      'no-screen.jpg',
      'ünï code & 100% (1).jpg',
    ];
    expect(
      Object.keys(outcomes)
        .filter((name) => outcomes[name] === 'stored')
        .sort(),
    ).toEqual(stored.sort());
    expect(await send(path, samples['good.jpg'], 'again.jpg')).toEqual({
      outcome: 'duplicate',
      name: 'again.jpg',
      of: 'good.jpg',
    });
    const detail = shootDetailSchema.parse((await call('GET', `/shoots/${shoot.id}`)).body);
    expect(detail.frames).toHaveLength(stored.length);
    expect(detail.frames.find((frame) => frame.name === 'turned.jpg')).toMatchObject({
      width: 160,
      height: 120,
      depth: 8,
    });
    expect(detail.frames.find((frame) => frame.name === 'sixteen.tif')).toMatchObject({ depth: 16 });
    expect(detail.frames.find((frame) => frame.name === 'dated.jpg')).toMatchObject({ takenAt: '2026-06-13T11:04:07' });
  });

  test('the same file twice at once is stored once', async () => {
    const { shoot, setups } = await newShoot();
    const path = `/setups/${setups[0].id}/frames`;
    const outcomes = await Promise.all([1, 2, 3, 4].map((n) => send(path, samples['good.png'], `copy ${n}.png`)));
    expect(outcomes.map((r) => r.outcome).sort()).toEqual(['duplicate', 'duplicate', 'duplicate', 'stored']);
    expect((await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body.frames).toHaveLength(1);
  });

  test('a frame can be taken out; its file stays while another shoot has it', async () => {
    const one = await newShoot();
    const two = await newShoot();
    const a = await send(`/setups/${one.setups[0].id}/frames`, samples['good.tif']);
    const b = await send(`/setups/${two.setups[0].id}/frames`, samples['good.tif']);
    if (a.outcome !== 'stored' || b.outcome !== 'stored') throw new Error('not stored');
    expect((await call('DELETE', `/frames/${a.frame.id}`)).status).toBe(204);
    expect((await fetch(`${f.address}/api/frames/${b.frame.id}/thumbnail`)).status).toBe(200);
    expect((await fetch(`${f.address}/api/frames/${a.frame.id}/thumbnail`)).status).toBe(404);
  });
});

describe('cut, place, deliver', () => {
  test('from frames to a ZIP with a list', async () => {
    const { shoot, setups } = await newShoot();
    const path = `/setups/${setups[0].id}/frames`;
    for (const name of ['good.jpg', 'sixteen.png', 'no-screen.jpg'] as const) await send(path, samples[name]);
    expect((await call('POST', `/setups/${setups[0].id}/cut`, {})).status).toBe(202);
    const detail = await until(
      async () => (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body,
      (d) => d.batches.length === 0,
    );
    const byName = (name: string) => detail.frames.find((frame) => frame.name === name);
    expect(byName('good.jpg')?.cut?.quality.screen).toBe('green');
    const wanted = detail.orders.find(({ id }) => id === byName('good.jpg')?.id)?.wanted;
    expect(byName('good.jpg')?.cut).toMatchObject({ fingerprint: wanted, extraction: EXTRACTION });
    expect(byName('no-screen.jpg')).toMatchObject({
      cut: null,
      job: { state: 'failed', problem: { reason: expect.stringContaining('screen') } },
    });

    const uploaded = await fetch(`${f.address}/api/backgrounds?name=wall.png`, {
      method: 'POST',
      body: await readFile(samples['good.png']),
    }).then((r) => r.json());
    const placement = { backgroundId: uploaded.background.id, x: 0.4, y: 1, height: 0.8 };
    expect((await call('PUT', `/shoots/${shoot.id}/placements`, { placement })).status).toBe(200);
    expect((await call('PUT', `/shoots/${shoot.id}/placements`, { placement: { ...placement, x: 7 } })).status).toBe(
      400,
    );
    expect(
      (
        await call<{ placement: unknown }[]>('PUT', `/shoots/${shoot.id}/placements`, {
          frameIds: [byName('sixteen.png')?.id],
          placement: null,
        })
      ).body[0].placement,
    ).toBeNull();

    const { body: delivery } = await call<Delivery>('POST', `/shoots/${shoot.id}/deliveries`, someDeliverySettings());
    const ended = await until(
      async () => (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body.deliveries[0],
      (d) => d.batch.open === 0,
    );
    expect(ended.problems).toEqual([]);
    expect(ended.notPlaced, 'no failure, and said').toEqual(['sixteen.png']);
    const zip = Buffer.from(await (await fetch(`${f.address}/api/deliveries/${delivery.id}/zip`)).arrayBuffer());
    const names = zip.toString('latin1');
    for (const name of [
      'Cutouts/good.png',
      'Cutouts/sixteen.png',
      'Finished/good.jpg',
      'manifest.csv',
      'manifest.json',
      'checksums.txt',
    ])
      expect(names).toContain(name);
    expect(ended.files).toBe(3);
  });

  test('a batch started in two windows at once puts each frame into the queue once', async () => {
    const { setups } = await newShoot();
    for (const name of ['good.jpg', 'turned.jpg', 'dated.jpg'] as const)
      await send(`/setups/${setups[0].id}/frames`, samples[name]);
    // Nothing is taken from the queue while the two are asked.
    const wake = vi.spyOn(f.runner, 'wake').mockImplementation(() => undefined);
    const started = await Promise.all([1, 2, 3].map(() => call('POST', `/setups/${setups[0].id}/cut`, {})));
    expect(started.map(({ status }) => status).sort()).toEqual([202, 409, 409]);
    const waiting = (await f.database.select().from(jobs)).filter(
      ({ kind, state }) => kind === 'cut' && state === 'queued',
    );
    expect(new Set(waiting.map(({ frameId }) => frameId)).size).toBe(3);
    expect(waiting).toHaveLength(3);
    wake.mockRestore();
    f.runner.wake();
    await f.idle();
  });

  test('masks, verdicts and a plate go into the cut, and what it was made with is kept', async () => {
    const { shoot, setups } = await newShoot();
    const setup = setups[0];
    const path = `/setups/${setup.id}/frames`;
    const [a, b] = [await send(path, samples['good.png']), await send(path, samples['good.jpg'])];
    if (a.outcome !== 'stored' || b.outcome !== 'stored') throw new Error('not stored');
    const half = {
      effect: 'clear',
      polygon: [
        { x: 0, y: 0.5 },
        { x: 1, y: 0.5 },
        { x: 1, y: 1 },
        { x: 0, y: 1 },
      ],
    };
    expect(
      (await call('PATCH', `/setups/${setup.id}`, { masks: [{ ...half, polygon: half.polygon.slice(0, 2) }] })).status,
    ).toBe(400);
    expect((await call<Setup>('PATCH', `/setups/${setup.id}`, { masks: [half] })).body).toMatchObject({
      masks: [half],
    });
    const changes = [{ frameIds: [b.frame.id], plate: true }];
    expect((await call<Frame[]>('PUT', `/shoots/${shoot.id}/sorting`, { changes })).body[0].plate).toBe(true);
    const said = {
      subject: ' Ana ',
      guidance: {
        masks: [],
        verdicts: [{ x: 0.5, y: 0.5, chroma: [0.2, 0.3], share: 0.1, keep: true }],
        touches: [],
        departures: [],
      },
    };
    expect((await call<Frame>('PATCH', `/frames/${a.frame.id}`, said)).body).toMatchObject({
      subject: 'Ana',
      guidance: said.guidance,
    });
    await call('POST', `/setups/${setup.id}/cut`, {});
    const detail = await until(
      async () => (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body,
      (d) => d.batches.length === 0,
    );
    const cutOf = (id: number) => detail.frames.find((frame) => frame.id === id)?.cut;
    const guidance = { ...noGuidance, masks: [half], verdicts: said.guidance.verdicts } as Guidance;
    const order: Order = { recipe: defaultRecipe, guidance, plate: null };
    const [{ file: plate }] = await f.database.select().from(frames).where(eq(frames.id, b.frame.id));
    expect(cutOf(a.frame.id)?.fingerprint).toBe(fingerprintOf({ ...order, plate }));
    // The plate is nobody’s picture.
    expect(cutOf(b.frame.id)).toBeNull();
    expect(detail.orders.find(({ id }) => id === b.frame.id)?.wanted).toBeNull();
    const lower = await sharp(
      Buffer.from(
        await (
          await fetch(`${f.address}/api/frames/${a.frame.id}/region?view=matte&x=0&y=82&width=120&height=70`)
        ).arrayBuffer(),
      ),
    )
      .raw()
      .toBuffer();
    expect(Math.max(...lower)).toBe(0);
    expect((await call('DELETE', `/frames/${b.frame.id}`)).status).toBe(204);
    const after = (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body;
    expect(after.orders.find(({ id }) => id === a.frame.id)?.wanted).toBe(fingerprintOf(order));
  });

  test('a plate is put together from the setup’s frames and taken for all of them', async () => {
    const { shoot, setups } = await newShoot();
    const path = `/setups/${setups[0].id}`;
    await send(`${path}/frames`, samples['good.jpg']);
    const alone = await call<{ reason: string }>('POST', `${path}/plate`);
    expect([alone.status, alone.body.reason]).toEqual([409, 'the setup has fewer than two frames of one size']);
    await send(`${path}/frames`, samples['good.png']);
    const made = (await f.job(`${path}/plate`)).made;
    expect(made?.seen).toBeGreaterThan(0.3);
    const before = (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body;
    expect(before.frames.find(({ id }) => id === made?.frameId)).toMatchObject({
      name: 'screen of 2 frames.jpg',
      width: 120,
      height: 160,
      depth: 8,
      plate: true,
    });
    await call('POST', `${path}/cut`, {});
    await f.idle();
    const { shoot: counted, frames: all, orders } = (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body;
    expect(counted.frames).toBe(2);
    expect(all.map(({ name, cut }) => [name, cut !== null]).sort()).toEqual([
      ['good.jpg', true],
      ['good.png', true],
      ['screen of 2 frames.jpg', false],
    ]);
    for (const { id, cut } of all)
      expect(orders.find((order) => order.id === id)?.wanted).toBe(cut?.fingerprint ?? null);
    // Two at once: the second is refused and the first goes on.
    const both = await Promise.all([
      call<{ reason?: string }>('POST', `${path}/plate`),
      call<{ reason?: string }>('POST', `${path}/plate`),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([202, 409]);
    expect(both.find(({ status }) => status === 409)?.body.reason).toContain('already');
    await f.idle();
    // A second time: the same frames give the same plate, which is there already.
    expect((await f.job(`${path}/plate`)).made?.frameId).toBe(made?.frameId);
  });

  test('a mask drawn while a plate is being put together is in the setup that comes back with the plate', async () => {
    const { shoot, setups } = await newShoot();
    for (const name of ['good.jpg', 'dated.jpg', 'good.png'] as const)
      await send(`/setups/${setups[0].id}/frames`, samples[name]);
    const masks: Guidance['masks'] = [
      {
        effect: 'clear',
        polygon: [
          { x: 0, y: 0 },
          { x: 0.2, y: 0 },
          { x: 0, y: 0.2 },
        ],
      },
    ];
    expect((await call('POST', `/setups/${setups[0].id}/plate`)).status).toBe(202);
    expect((await call('PATCH', `/setups/${setups[0].id}`, { masks })).status).toBe(200);
    await f.idle();
    const kept = (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body;
    expect(kept.setups[0].masks).toEqual(masks);
    expect(kept.frames.filter(({ plate }) => plate)).toHaveLength(1);
  });

  test('an 8-bit frame delivered with 16 bits really has more than 256 levels of coverage', async () => {
    const { shoot, setups } = await newShoot();
    const blurred = join(await mkdtemp(join(tmpdir(), 'silent-lawn-soft-')), 'soft.png');
    await sharp(samples['good.png']).resize(480).blur(6).png().toFile(blurred);
    await send(`/setups/${setups[0].id}/frames`, blurred);
    await call('POST', `/setups/${setups[0].id}/cut`, {});
    await until(
      async () => (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body,
      (d) => d.frames[0].cut !== null,
    );
    const deep = someDeliverySettings({
      presets: [{ name: 'Deep', kind: 'cutout', format: 'png16', trimmed: false }],
    });
    await call('POST', `/shoots/${shoot.id}/deliveries`, deep);
    const delivery = await until(
      async () => (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body.deliveries[0],
      (d) => d.batch.open === 0,
    );
    const zip = Buffer.from(await (await fetch(`${f.address}/api/deliveries/${delivery.id}/zip`)).arrayBuffer());
    const start = zip.indexOf(Buffer.from([0x89, 0x50, 0x4e, 0x47]));
    const { data } = await sharp(zip.subarray(start))
      .toColourspace('rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer({ resolveWithObject: true });
    const levels = new Set<number>();
    for (let i = 6; i < data.length; i += 8) levels.add(data.readUInt16LE(i));
    expect(levels.size).toBeGreaterThan(300);
  });

  test('pictures of a frame: working copy, regions in every view, and a clear no for what is not cut', async () => {
    const { shoot, setups } = await newShoot();
    await send(`/setups/${setups[0].id}/frames`, samples['good.png']);
    const [frame] = (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body.frames;
    const region = (view: string) =>
      fetch(`${f.address}/api/frames/${frame.id}/region?view=${view}&x=100&y=150&width=64&height=64`);
    expect((await region('matte')).status).toBe(409);
    await call('POST', `/setups/${setups[0].id}/cut`, {});
    await until(
      async () => (await call<ShootDetail>('GET', `/shoots/${shoot.id}`)).body,
      (d) => d.frames[0].cut !== null,
    );
    for (const view of ['photograph', 'matte', 'grey', 'white', 'red', 'black']) {
      const metadata = await sharp(Buffer.from(await (await region(view)).arrayBuffer())).metadata();
      expect([metadata.width, metadata.height], view).toEqual([20, 10]);
    }
  });
});

describe('what may not pass', () => {
  const raw = (headers: Record<string, string>, method = 'GET', path = '/api/shoots'): Promise<number> =>
    new Promise((resolve, reject) => {
      const req = httpRequest(
        `${f.address}${path}`,
        { method, headers },
        (response) => (response.resume(), resolve(response.statusCode ?? 0)),
      );
      req.on('error', reject);
      req.end();
    });
  test('a forged Host and a foreign Origin', async () => {
    expect(await raw({ host: 'evil.example' })).toBe(403);
    expect(await raw({ origin: 'http://evil.example' }, 'POST')).toBe(403);
    expect(await raw({})).toBe(200);
    expect(await raw({ origin: f.address }, 'GET')).toBe(200);
  });
  test.each([
    ['GET', '/shoots/abc', undefined, 400],
    ['GET', '/shoots/99999', undefined, 404],
    ['GET', '/frames/99999/working', undefined, 404],
    ['POST', '/shoots', { name: '', date: '2026-06-13' }, 400],
    ['POST', '/shoots', { name: 'A', date: 'yesterday' }, 400],
    ['PATCH', '/setups/1', { recipe: { floor: 9 } }, 400],
    ['POST', '/setups/99999/cut', {}, 404],
    ['GET', '/no/such/thing', undefined, 404],
  ] as const)('%s %s with %j gives %i and a problem in words', async (method, path, body, status) => {
    const answer = await call<{ reason: string; remedy: string }>(method, path, body);
    expect(answer.status).toBe(status);
    expect(answer.body.reason.length).toBeGreaterThan(5);
    expect(answer.body.remedy.length).toBeGreaterThan(5);
  });
});
