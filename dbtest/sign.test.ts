import type { AddressInfo } from 'node:net';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Frame, Shoot, ShootDetail } from '../contract/index.ts';
import type { FrameFacts } from '../core/gather/facts.ts';
import { frames } from '../server/database/schema.ts';
import { signAddress, startSign } from '../server/sign/sign.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** The sign for the set as a tablet reads it. */

let f: Served;
let address: string;
let end: () => void;
let setupId: number;
beforeAll(async () => {
  f = await served();
  const server = await startSign(f.database, { host: '127.0.0.1', port: 0 });
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  end = () => {
    server.close();
    server.closeAllConnections();
  };
  const { id } = (await f.call<Shoot>('POST', '/shoots', { name: 'Secret fair', date: '2026-06-13' })).body;
  setupId = (await f.call<ShootDetail>('GET', `/shoots/${id}`)).body.setups[0].id;
});
afterAll(async () => {
  end();
  await f.close();
});

const page = async (): Promise<string> => (await fetch(address)).text();
const main = async (): Promise<string> =>
  (/<main.*<\/main>/s.exec(await page())?.[0] ?? '').replace(/<[^>]*>/g, ' ').trim();
const facts = (beyond: number): FrameFacts => ({
  kind: 'people',
  slate: null,
  screen: null,
  person: { share: 0.3, looks: [], beyond, near: 0 },
  faces: [],
  sharp: null,
  clipped: null,
  shadow: null,
  eyes: null,
  minutes: null,
});
let shade = 0;
async function frameComes(read: FrameFacts | null): Promise<void> {
  const content = await sampleImage({ shade: ++shade }).png().toBuffer();
  const { body } = await f.call<{ frame: Frame }>('POST', `/setups/${setupId}/frames?name=Ada${shade}.png`, content);
  await f.idle();
  await f.database.update(frames).set({ facts: read, subject: 'Ada Berg' }).where(eq(frames.id, body.frame.id));
}

test('it waits, says good, and says again with the reason and the remedy', async () => {
  expect(await main()).toBe('Waiting for the first frame');
  await frameComes(facts(0));
  expect(await main()).toBe('Good');
  await frameComes(facts(0.2));
  expect(await main()).toMatch(/^Again, because\s+reaches beyond the screen \(20 %/);
  await frameComes(null);
  expect(await main()).toBe('Reading …');
});

test('it names nobody, shows nothing else, and changes nothing', async () => {
  const text = await page();
  for (const secret of ['Ada', 'Secret', 'Berg', '/api', '<img', '<script']) expect(text).not.toContain(secret);
  expect((await fetch(`${address}api/shoots`)).status).toBe(404);
  expect((await fetch(address, { method: 'POST' })).status).toBe(405);
  expect((await fetch(address)).headers.get('content-security-policy')).toContain("default-src 'none'");
});

test('where it listens is told by a port, or an address and a port', () => {
  expect(signAddress(undefined)).toBeUndefined();
  expect(signAddress('4311')).toEqual({ host: '0.0.0.0', port: 4311 });
  expect(signAddress('192.168.0.5:4311')).toEqual({ host: '192.168.0.5', port: 4311 });
  for (const wrong of ['tablet', '99999', '10.0.0.1']) expect(() => signAddress(wrong), wrong).toThrow('SIGN is');
});

test('a port that is taken is told, with the remedy', async () => {
  const port = Number(new URL(address).port);
  await expect(startSign(f.database, { host: '127.0.0.1', port })).rejects.toThrow('Set SIGN to a free port');
});
