import express from 'express';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { z } from 'zod';
import { problemSchema } from '../../contract/index.ts';
import { silentLog, type Log } from '../log.ts';
import { BrokenOff } from '../store/store.ts';
import { answerFailure, found, handler, idOf, parse, Refusal, sendPicture } from './answers.ts';

/** How failures become answers that say what is wrong and what to do. */

const told: { level: string; words: unknown }[] = [];
const log = Object.assign(Object.create(silentLog()) as Log, {
  info: (_: unknown, words: unknown) => told.push({ level: 'info', words }),
  warn: (_: unknown, words: unknown) => told.push({ level: 'warn', words }),
  error: (_: unknown, words: unknown) => told.push({ level: 'error', words }),
});
const settings = z.object({ quality: z.number().max(100), size: z.object({ width: z.number().int() }) });
const HASH = 'a'.repeat(32);

let server: Server;
let address: string;
beforeAll(async () => {
  const app = express();
  app.use((_request, response, next) => {
    response.locals.id = 'r1';
    next();
  });
  app.use(express.json({ limit: 2000 }));
  app.post(
    '/settings',
    handler((request, response) => Promise.resolve(void response.json(parse(settings, request.body, 'settings')))),
  );
  app.get(
    '/items/:id',
    handler((request, response) => Promise.resolve(void response.json({ id: idOf(request) }))),
  );
  app.get(
    '/gone',
    handler(() => Promise.resolve(void found(undefined, 'frame'))),
  );
  app.get(
    '/taken',
    handler(() => Promise.reject(new Refusal(409, { reason: 'it is taken', remedy: 'Take another.' }))),
  );
  app.get(
    '/fault',
    handler(() => Promise.reject(new Error('an index of minus one'))),
  );
  app.get(
    '/away',
    handler(() => Promise.reject(Object.assign(new Error('no'), { code: 'ECONNREFUSED' }))),
  );
  app.get(
    '/full',
    handler(() => Promise.reject(Object.assign(new Error('no space left'), { code: 'ENOSPC' }))),
  );
  app.get(
    '/left',
    handler(() => Promise.reject(new BrokenOff())),
  );
  app.get(
    '/half',
    handler((_request, response) => {
      response.write('one half');
      return Promise.reject(new Error('and then nothing'));
    }),
  );
  app.get('/picture', (request, response) => sendPicture(request, response, 'png', HASH, Buffer.from('dots')));
  app.use(answerFailure(log));
  server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});
const get = async (path: string): Promise<{ status: number; body: unknown; headers: Headers }> => {
  const response = await fetch(address + path);
  return { status: response.status, body: await response.json(), headers: response.headers };
};
const post = async (body: string): Promise<{ status: number; body: unknown }> => {
  const response = await fetch(`${address}/settings`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body,
  });
  return { status: response.status, body: await response.json() };
};

describe('what was sent', () => {
  test('is taken where it fits', async () => {
    const given = { quality: 92, size: { width: 40 } };
    expect(await post(JSON.stringify(given))).toEqual({ status: 200, body: given });
  });
  test.each([
    [{ quality: 400, size: { width: 4 } }, /^settings\.quality: /],
    [{ quality: 40, size: { width: 4.5 } }, /^settings\.size\.width: /],
    [[], /^settings: /],
  ])('%j is refused by its field', async (given, words) => {
    const { status, body } = await post(JSON.stringify(given));
    expect(status).toBe(400);
    expect(problemSchema.parse(body).reason).toMatch(words);
  });
  test('no JSON, and more than any setting can be, are told apart', async () => {
    const broken = await post('{"quality": ');
    expect(broken.status).toBe(400);
    expect(problemSchema.parse(broken.body).remedy).toContain('Reload');
    const large = await post(JSON.stringify({ text: 'x'.repeat(4000) }));
    expect(large.status).toBe(413);
    expect(problemSchema.parse(large.body).reason).toContain('larger than any setting');
  });
  test('a number in an address that is none is refused by its name', async () => {
    expect((await get('/items/7')).body).toEqual({ id: 7 });
    for (const id of ['seven', '-3', '1.5', '0'])
      expect(await get(`/items/${id}`), id).toMatchObject({
        status: 400,
        body: { reason: expect.stringMatching(/^id: /) },
      });
  });
});

describe('what went wrong', () => {
  test('what is gone and what is taken say so', async () => {
    expect(await get('/gone')).toMatchObject({
      status: 404,
      body: { reason: 'this frame does not exist (any more)' },
    });
    expect(await get('/taken')).toMatchObject({
      status: 409,
      body: { reason: 'it is taken', remedy: 'Take another.' },
    });
  });
  test('a fault of ours is not told in its own words, but can be found in the log by its name', async () => {
    told.length = 0;
    const { status, body } = await get('/fault');
    expect(status).toBe(500);
    const { reason, remedy } = problemSchema.parse(body);
    expect(reason + remedy).not.toContain('minus one');
    expect(remedy).toContain('“r1”');
    expect(told).toEqual([{ level: 'error', words: expect.any(String) }]);
  });
  test('a full disk and a database that is away are faults with a remedy of their own; the latter passes', async () => {
    const full = await get('/full');
    expect(full.status).toBe(507);
    expect(problemSchema.parse(full.body).reason).toMatch(/disk|room/);
    const away = await get('/away');
    expect(away.status).toBe(503);
    expect(away.headers.get('retry-after')).toBe('1');
  });
  test('who broke off gets no answer, and it is nobody’s fault', async () => {
    told.length = 0;
    await expect(fetch(`${address}/left`)).rejects.toThrow();
    expect(told.map(({ level }) => level)).toEqual(['info']);
  });
  test('an answer that breaks off in its middle ends there, so that nobody takes a half for the whole', async () => {
    told.length = 0;
    await expect(fetch(`${address}/half`).then((response) => response.text())).rejects.toThrow();
    expect(told.map(({ level }) => level)).toEqual(['warn']);
  });
});

describe('a picture', () => {
  test.each([
    [`?v=${HASH.slice(0, 16)}`, true],
    [`?v=${HASH}`, true],
    ['?v=aaaa', false],
    [`?v=${'b'.repeat(16)}`, false],
    [`?v=${HASH.slice(0, 16)}&v=${HASH.slice(0, 16)}`, false],
    ['', false],
  ])('under %s is kept for ever: %s', async (query, kept) => {
    const response = await fetch(`${address}/picture${query}`);
    expect(response.headers.get('content-type')).toBe('image/png');
    expect(response.headers.get('cache-control')).toBe(kept ? 'private, max-age=31536000, immutable' : 'no-cache');
    expect(await response.text()).toBe('dots');
  });
});
