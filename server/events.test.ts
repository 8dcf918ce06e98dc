import { once } from 'node:events';
import { createServer, get, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { promisify } from 'node:util';
import express, { type Response } from 'express';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { Events, MOST_UNREAD } from './events.ts';

let events: Events;
let server: Server;
let address: string;

beforeEach(async () => {
  events = new Events();
  const app = express();
  app.get('/events', (_request, response) => events.subscribe(response));
  server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/events`;
});
afterEach(() => {
  events.close();
  server.closeAllConnections();
  server.close();
});

async function listen(): Promise<{ type?: string; next: () => Promise<string>; leave: () => void }> {
  const request = get(address, { agent: false }).on('error', () => undefined);
  const [response] = (await once(request, 'response')) as [IncomingMessage];
  const parts = response.setEncoding('utf8')[Symbol.asyncIterator]() as AsyncIterator<string, undefined>;
  return {
    type: response.headers['content-type'],
    next: async () => (await parts.next()).value ?? '',
    leave: () => request.destroy(),
  };
}

test('every open page hears every event, in order, and is told to come back soon', async () => {
  const [one, other] = [await listen(), await listen()];
  expect(one.type).toBe('text/event-stream');
  expect(await one.next()).toContain('retry: 1000');
  expect(await other.next()).toContain('retry: 1000');
  events.send({ type: 'shoots' });
  events.send({ type: 'changed', shootId: 3, revision: 1, items: {}, gone: { frames: [7] } });
  for (const page of [one, other]) {
    let heard = '';
    while (!heard.includes('gone')) heard += await page.next();
    const told = heard
      .split('\n\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line.replace('data: ', '')) as { type: string });
    expect(told.map(({ type }) => type)).toEqual(['shoots', 'changed']);
  }
});

test('a page that has gone disturbs nobody', async () => {
  const [gone, there] = [await listen(), await listen()];
  await gone.next();
  await there.next();
  gone.leave();
  const connected = promisify(server.getConnections.bind(server));
  await expect.poll(connected, { interval: 5 }).toBe(1);
  events.send({ type: 'shoots' });
  expect(await there.next()).toContain('"shoots"');
});

test('a page that reads nothing is let go, so that memory has a bound', () => {
  const slow = {
    writableLength: 0,
    destroyed: false,
    writeHead: () => undefined,
    on: () => undefined,
    write: (text: string) => (slow.writableLength += text.length),
    destroy: () => (slow.destroyed = true),
    end: () => undefined,
  };
  events.subscribe(slow as unknown as Response);
  const large = {
    type: 'changed' as const,
    shootId: 1,
    revision: 1,
    items: {},
    gone: { frames: Array.from({ length: 100_000 }, (_, n) => n + 1) },
  };
  for (let n = 0; n < 50 && !slow.destroyed; n++) events.send(large);
  expect(slow.destroyed).toBe(true);
  expect(slow.writableLength).toBeLessThan(MOST_UNREAD + 1_000_000);
  const held = slow.writableLength;
  events.send(large);
  expect(slow.writableLength, 'nothing more is written to it').toBe(held);
});

test('closing ends what is open', async () => {
  const page = await listen();
  await page.next();
  events.close();
  expect(await page.next()).toBe('');
});
