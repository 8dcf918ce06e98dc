import { utimes } from 'node:fs/promises';
import { request as plainRequest } from 'node:http';
import { createConnection } from 'node:net';
import { eq, sql } from 'drizzle-orm';
import sharp from 'sharp';
import { afterAll, beforeEach, describe, expect, test } from 'vitest';
import type { Delivery, Frame, ImportResult, Problem, Setup, Shoot, ShootDetail } from '../contract/index.ts';
import { defaultRecipe } from '../core/cut/index.ts';
import { cuts, deliveries, deliveryFiles, frames, jobs } from '../server/database/schema.ts';
import { sweep } from '../server/store/sweep.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { someDeliverySettings, someQuality } from '../contract/testing/items.ts';
import { served, type Served } from './served.ts';

/** What attacks on the running application found: nothing lost, nobody locked out. */

let s: Served;
beforeEach(async () => {
  await s?.close();
  s = await served();
});
afterAll(() => s.close());

async function shoot(name = 'Sure'): Promise<{ shootId: number; setup: Setup }> {
  const { body } = await s.call<Shoot>('POST', '/shoots', { name, date: '2026-06-13' });
  const detail = await s.call<ShootDetail>('GET', `/shoots/${body.id}`);
  return { shootId: body.id, setup: detail.body.setups[0] };
}

async function bring(setupId: number, name: string, shade = 0): Promise<ImportResult> {
  const picture = await sampleImage({ width: 120, height: 160, shade }).jpeg().toBuffer();
  return (await s.call<ImportResult>('POST', `/setups/${setupId}/frames?name=${name}`, picture)).body;
}

async function stored(setupId: number, name: string, shade = 0): Promise<Frame> {
  const result = await bring(setupId, name, shade);
  if (result.outcome !== 'stored') throw new Error(JSON.stringify(result));
  return result.frame;
}

const quality = someQuality({ minutes: 1 });

describe('what is kept and cannot be read', () => {
  test('a spoilt cut is one broken frame with a remedy; the shoot opens, the others are whole', async () => {
    const { shootId, setup } = await shoot();
    const [bad, good] = [await stored(setup.id, 'bad.jpg'), await stored(setup.id, 'good.jpg', 9)];
    for (const { id } of [bad, good])
      await s.database
        .insert(cuts)
        .values({ frameId: id, file: 'a'.repeat(64), depth: 8, recipe: defaultRecipe, quality });
    await s.database.execute(
      sql`update cuts set quality = json_set(quality, '$.minutes', null, '$.ledger', json_array(json_object('rough', null))) where frame_id = ${bad.id}`,
    );
    const { status, body } = await s.call<ShootDetail>('GET', `/shoots/${shootId}`);
    expect(status).toBe(200);
    expect(body.frames.find(({ id }) => id === good.id)?.cut).not.toBeNull();
    expect(body.frames.find(({ id }) => id === bad.id)).toMatchObject({
      cut: null,
      job: {
        state: 'failed',
        problem: { reason: expect.stringContaining('cannot be read'), remedy: 'Extract it again.' },
      },
    });
  });

  test('spoilt settings and a spoilt plan are named, and the shoot opens', async () => {
    const { shootId, setup } = await shoot();
    await s.database.execute(sql`update setups set recipe = '{"floor": "high"}' where id = ${setup.id}`);
    await s.database.execute(sql`insert into plans (shoot_id, plan) values (${shootId}, '{"name": "Tent"}')`);
    const { body } = await s.call<ShootDetail>('GET', `/shoots/${shootId}`);
    expect(body.setups[0].recipe).toEqual(defaultRecipe);
    expect(body.plans).toEqual([]);
    expect(body.broken.map(({ reason }) => reason).join()).toMatch(/Setup 1.*floor.*Tent/s);
  });

  test('what does not pass its schema is not written', async () => {
    const { setup } = await shoot();
    const frame = await stored(setup.id, 'f.jpg');
    const writing = s.database.insert(cuts).values({
      frameId: frame.id,
      file: 'a'.repeat(64),
      depth: 8,
      recipe: defaultRecipe,
      quality: { ...quality, minutes: NaN },
    });
    await expect((async () => writing)()).rejects.toThrow();
    expect(await s.database.select().from(cuts).where(eq(cuts.frameId, frame.id))).toEqual([]);
  });
});

describe('two windows', () => {
  test('settings that each moved are both kept; the same one in two ways is refused with what the other did', async () => {
    const { setup } = await shoot();
    const { recipe } = setup;
    const change = (to: object) =>
      s.call<Setup & Problem>('PATCH', `/setups/${setup.id}`, { recipe: { ...recipe, ...to }, seen: { recipe } });
    expect((await change({ floor: 0.2 })).status).toBe(200);
    const second = await change({ ceiling: 0.9 });
    expect(second.body.recipe).toMatchObject({ floor: 0.2, ceiling: 0.9 });
    const third = await change({ floor: 0.1 });
    expect(third).toMatchObject({ status: 409, body: { reason: expect.stringMatching(/0\.2 in another window/) } });
  });

  test('verdicts and masks of both are kept, and a repeated change changes nothing', async () => {
    const { setup } = await shoot();
    const frame = await stored(setup.id, 'f.jpg');
    const verdict = (x: number) => ({ x, y: 0.5, chroma: [0.3, 0.3], share: 0.01, keep: true });
    const mask = {
      effect: 'clear',
      polygon: [
        { x: 0, y: 0 },
        { x: 1, y: 0 },
        { x: 1, y: 1 },
      ],
    };
    const { guidance } = frame;
    const send = (to: object) =>
      s.call<Frame>('PATCH', `/frames/${frame.id}`, { guidance: { ...guidance, ...to }, seen: { guidance } });
    await Promise.all([
      send({ verdicts: [verdict(0.1)] }),
      send({ verdicts: [verdict(0.2)] }),
      send({ masks: [mask] }),
      send({ verdicts: [verdict(0.2)] }),
    ]);
    const { body } = await s.call<Frame>('PATCH', `/frames/${frame.id}`, {});
    expect(body.guidance.verdicts.map(({ x }) => x).sort()).toEqual([0.1, 0.2]);
    expect(body.guidance.masks).toHaveLength(1);
  });

  test('each reading of an item is newer than the one before, however it was asked for', async () => {
    const { shootId, setup } = await shoot();
    const first = setup.revision;
    const { body: patched } = await s.call<Setup>('PATCH', `/setups/${setup.id}`, { name: 'Tent' });
    const { body: detail } = await s.call<ShootDetail>('GET', `/shoots/${shootId}`);
    expect(patched.revision).toBeGreaterThan(first);
    expect(detail.setups[0].revision).toBeGreaterThan(patched.revision);
  });
});

describe('files and rows', () => {
  test('a file taken out of one shoot while it comes into another is never lost', async () => {
    const [a, b] = [await shoot('A'), await shoot('B')];
    for (let n = 0; n < 12; n++) {
      const first = await stored(a.setup.id, `a${n}.jpg`, n * 3);
      const [second] = await Promise.all([
        bring(b.setup.id, `b${n}.jpg`, n * 3),
        new Promise((resolve) => setTimeout(resolve, n)).then(() => s.call('DELETE', `/frames/${first.id}`)),
      ]);
      if (second.outcome === 'stored') {
        const [row] = await s.database.select().from(frames).where(eq(frames.id, second.frame.id));
        expect(await s.store.has(row.file), `try ${n}`).toBe(true);
      }
    }
  });

  test('a file that has gone is named with a remedy, without inner paths, and bringing it in again mends the frame', async () => {
    const { setup } = await shoot();
    const frame = await stored(setup.id, 'gone.jpg', 5);
    const [{ file }] = await s.database.select().from(frames).where(eq(frames.id, frame.id));
    await s.store.remove(file);
    for (const view of ['thumbnail', 'working', 'region?view=photograph&x=0&y=0&width=9&height=9']) {
      const { status, body } = await s.call<Problem>('GET', `/frames/${frame.id}/${view}`);
      expect(status, view).toBe(409);
      expect(body.reason).toContain('photograph is missing');
      expect(body.remedy).toContain('Bring the same file in again');
      expect(JSON.stringify(body)).not.toContain(s.storeFolder);
    }
    expect(await bring(setup.id, 'again.jpg', 5)).toMatchObject({ outcome: 'duplicate', of: 'gone.jpg' });
    expect(await s.store.has(file)).toBe(true);
  });

  test('the sweep removes what no row names, and nothing young', async () => {
    const { setup } = await shoot();
    const frame = await stored(setup.id, 'kept.jpg');
    const [{ file }] = await s.database.select().from(frames).where(eq(frames.id, frame.id));
    const [old, young] = [await s.store.put(Buffer.from('old')), await s.store.put(Buffer.from('young'))];
    const yesterday = new Date(Date.now() - 86_400_000);
    for (const hash of [file, old]) await utimes(s.store.path(hash), yesterday, yesterday);
    expect(await sweep(s.database, s.store)).toBe(1);
    expect(await Promise.all([file, old, young].map((hash) => s.store.has(hash)))).toEqual([true, false, true]);
  });

  test('pictures may be kept for ever only under an address that names their content', async () => {
    const { setup } = await shoot();
    const frame = await stored(setup.id, 'f.jpg');
    const kept = async (query: string): Promise<string | null> =>
      (await fetch(`${s.address}/api/frames/${frame.id}/thumbnail${query}`)).headers.get('cache-control');
    expect(await kept(`?v=${frame.picture}`)).toContain('immutable');
    expect(await kept('')).toBe('no-cache');
    expect(await kept('?v=0000000000000000')).toBe('no-cache');
  });
});

describe('downloads', () => {
  async function delivery(count: number, bytes: number): Promise<{ id: number; files: string[] }> {
    const { shootId, setup } = await shoot();
    const frame = await stored(setup.id, 'f.jpg');
    const made = await s.call<Delivery & Problem>('POST', `/shoots/${shootId}/deliveries`, someDeliverySettings());
    expect(made.status).toBe(409);
    const [{ insertId: batchId }] = (await s.database.execute(
      sql`insert into batches (shoot_id, kind) values (${shootId}, 'deliver')`,
    )) as unknown as [{ insertId: number }];
    await s.database.insert(jobs).values({ kind: 'deliver', shootId, batchId, frameId: frame.id, state: 'done' });
    const [{ insertId: id }] = await s.database
      .insert(deliveries)
      .values({ shootId, batchId, settings: someDeliverySettings() });
    const files: string[] = [];
    for (let n = 0; n < count; n++) {
      const content = Buffer.alloc(bytes, n + 1);
      files.push(await s.store.put(content));
      await s.database.insert(deliveryFiles).values({
        deliveryId: id,
        frameId: frame.id,
        name: `cutouts/F${n}.png`,
        file: files[n],
        bytes,
        width: 1,
        height: 1,
      });
    }
    return { id, files };
  }

  test('a file that is gone is named in the ZIP, the rest goes out, the server lives', async () => {
    const { id, files } = await delivery(3, 1000);
    await s.store.remove(files[1]);
    const response = await fetch(`${s.address}/api/deliveries/${id}/zip`);
    expect(response.status).toBe(200);
    const zip = Buffer.from(await response.arrayBuffer()).toString('latin1');
    for (const name of ['cutouts/F0.png', 'cutouts/F2.png', 'MISSING.txt', 'manifest.csv']) expect(zip).toContain(name);
    // Stored deflated or not, the two that are there are whole.
    expect(zip.split('\u0001').length + zip.split('\u0003').length).toBeGreaterThan(2000);
    expect((await s.call('GET', '/shoots')).status).toBe(200);
  });

  test('broken-off downloads leave no file open', async () => {
    const { id } = await delivery(4, 3_000_000);
    const open = async (): Promise<number> => {
      const { readdir, readlink } = await import('node:fs/promises');
      const links = await Promise.all(
        (await readdir('/proc/self/fd')).map((fd) => readlink(`/proc/self/fd/${fd}`).catch(() => '')),
      );
      return links.filter((link) => link.startsWith(s.storeFolder)).length;
    };
    await Promise.all(
      Array.from(
        { length: 12 },
        (_, n) =>
          new Promise<void>((resolve) => {
            const request = plainRequest(`${s.address}/api/deliveries/${id}/zip`, (response) => {
              let got = 0;
              response.on('data', (chunk: Buffer) => {
                got += chunk.length;
                if (got > 100_000 * (1 + n)) request.destroy();
              });
              response.on('close', () => resolve());
              response.on('error', () => undefined);
            });
            request.on('error', () => undefined);
            request.end();
          }),
      ),
    );
    await expect.poll(open, { timeout: 60_000 }).toBe(0);
  });
});

describe('who may ask', () => {
  const ask = (headers: Record<string, string | string[]>, path = '/api/shoots', method = 'GET'): Promise<number> =>
    new Promise((resolve, reject) => {
      const { port } = new URL(s.address);
      const lines = Object.entries(headers).flatMap(([name, values]) =>
        [values].flat().map((value) => `${name}: ${value}`),
      );
      const socket = createConnection(Number(port), '127.0.0.1', () =>
        socket.write([`${method} ${path} HTTP/1.1`, ...lines, 'Connection: close', '', ''].join('\r\n')),
      );
      let text = '';
      socket.on('data', (chunk) => (text += chunk));
      socket.on('close', () => resolve(Number(/^HTTP\/1.1 (\d+)/.exec(text)?.[1])));
      socket.on('error', reject);
    });

  test('hosts that are not this machine, two hosts, and other sites are refused; capitals are not', async () => {
    const here = new URL(s.address).host;
    expect(await ask({ Host: here })).toBe(200);
    expect(await ask({ Host: here.replace('127.0.0.1', 'LOCALHOST') })).toBe(200);
    expect(await ask({ Host: 'evil.example' })).toBe(403);
    expect([400, 403]).toContain(await ask({ Host: [here, 'evil.example'] }));
    expect(await ask({ Host: here, 'Sec-Fetch-Site': 'cross-site' })).toBe(403);
    expect(
      await ask({ Host: here, 'Sec-Fetch-Site': 'cross-site', 'Content-Length': '0' }, '/api/setups/1/plate', 'POST'),
    ).toBe(403);
    expect(await ask({ Host: here, 'Sec-Fetch-Site': 'same-origin' })).toBe(200);
    expect(await ask({ Host: here, Origin: 'http://evil.example' })).toBe(403);
  });

  test('every answer carries the headers that keep a page to itself', async () => {
    const { headers } = await fetch(`${s.address}/api/shoots`);
    expect(headers.get('content-security-policy')).toMatch(/default-src 'none'.*frame-ancestors 'none'/);
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('cross-origin-resource-policy')).toBe('same-origin');
    expect(headers.get('x-request-id')).toMatch(/^[0-9a-f]{8}$/);
    expect(headers.get('strict-transport-security')).toBeNull();
  });

  test('a name that is too long is refused by its name', async () => {
    const { setup } = await shoot();
    const { status, body } = await s.call<Problem>(
      'POST',
      `/setups/${setup.id}/frames?name=${'n'.repeat(300)}.jpg`,
      Buffer.from('x'),
    );
    expect(status).toBe(400);
    expect(body.reason).toMatch(/nnn…”.*304 letters/);
  });
});

test('a frame far smaller than the rest of its setup is asked about; a raw file that cannot be read is refused for what it is', async () => {
  const { setup } = await shoot();
  for (let n = 0; n < 3; n++) {
    const picture = await sampleImage({ width: 480, height: 640, shade: n * 5 })
      .jpeg()
      .toBuffer();
    const { body } = await s.call<ImportResult>('POST', `/setups/${setup.id}/frames?name=full${n}.jpg`, picture);
    expect(body).not.toHaveProperty('question');
  }
  expect(await bring(setup.id, 'preview.jpg', 40)).toMatchObject({
    outcome: 'stored',
    question: { reason: expect.stringMatching(/0\.02 megapixels.*0\.31/) },
  });

  // A classic TIFF whose first picture says that it is a reduced one, with others behind it.
  const entries = [
    [254, 4, 1, 1],
    [256, 4, 1, 160],
    [257, 4, 1, 120],
    [330, 4, 1, 8],
  ];
  const raw = Buffer.alloc(8 + 2 + entries.length * 12 + 4);
  raw.write('II*\0', 'latin1');
  raw.writeUInt32LE(8, 4);
  raw.writeUInt16LE(entries.length, 8);
  entries.forEach(([tag, type, count, value], n) => {
    raw.writeUInt16LE(tag, 10 + n * 12);
    raw.writeUInt16LE(type, 12 + n * 12);
    raw.writeUInt32LE(count, 14 + n * 12);
    raw.writeUInt32LE(value, 18 + n * 12);
  });
  const { body } = await s.call<ImportResult>('POST', `/setups/${setup.id}/frames?name=raw.tif`, raw);
  expect(body).toMatchObject({
    outcome: 'refused',
    reason: expect.stringContaining('raw file'),
    remedy: expect.stringMatching(/develop it to 16-bit TIFF/),
  });
});

test('a whole picture is checked strip by strip; one that is cut short is refused', async () => {
  const { setup } = await shoot();
  const whole = await sharp({
    create: {
      width: 3000,
      height: 2000,
      channels: 3,
      background: '#3a8a3a',
      noise: { type: 'gaussian', mean: 120, sigma: 30 },
    },
  })
    .jpeg()
    .toBuffer();
  const { body } = await s.call<ImportResult>(
    'POST',
    `/setups/${setup.id}/frames?name=half.jpg`,
    whole.subarray(0, Math.round(whole.length * 0.6)),
  );
  expect(body).toMatchObject({ outcome: 'refused', reason: expect.stringContaining('cut short') });
  expect((await s.call<ImportResult>('POST', `/setups/${setup.id}/frames?name=whole.jpg`, whole)).body.outcome).toBe(
    'stored',
  );
});
