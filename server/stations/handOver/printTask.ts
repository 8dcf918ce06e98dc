import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { setTimeout as sleep } from 'node:timers/promises';
import type { z } from 'zod';
import { serviceOrderSchema, type PrintItem } from '../../../contract/index.ts';
import { PictureError } from '../../pictures/decode.ts';
import type { Bench } from '../../threads/bench.ts';

/** An order as the service is told of it; placed and supplied with its files, then accepted. */
export interface PrintInput {
  service: string;
  reference: string;
  items: PrintItem[];
  accept: boolean;
}
export interface PrintOutput {
  number: string;
  price: number;
  state: 'priced' | 'accepted' | 'printed' | 'sent';
}

/** How often a request is tried, and how long after the first failure, ms; each wait is twice the one before. */
const TRIES = 9;
const FIRST_WAIT = 60;

/**
 * Brings an order to the service, however often its answers are lost: the reference makes a second placing the first, a
 * file is sent only if it is missing, and accepting twice is accepting once.
 * @throws PictureError if the service does not answer or refuses.
 */
export async function placeOrder(
  { service, reference, items, accept }: PrintInput,
  { store, tell }: Bench,
): Promise<PrintOutput> {
  const place = () =>
    ask(`${service}/orders`, () => ({
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ reference, items }),
    }));
  let order = await place();
  const wanted = order.missing;
  for (const [n, sha256] of wanted.entries()) {
    const path = await store.need(sha256, 'this file');
    await tried(`${service}/files/${sha256}`, () => ({
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: Readable.toWeb(createReadStream(path)) as unknown as BodyInit,
      duplex: 'half',
    }));
    tell((n + 1) / (wanted.length + 1));
  }
  if (accept) order = await ask(`${service}/orders/${order.id}/accept`, () => ({ method: 'POST' }));
  return { number: order.id, price: order.price, state: order.state };
}

async function ask(address: string, init: () => RequestInit): Promise<z.infer<typeof serviceOrderSchema>> {
  return serviceOrderSchema.parse(await tried(address, init));
}

/** Asks until it is answered. What is refused is not asked again. */
async function tried(address: string, init: () => RequestInit & { duplex?: string }): Promise<unknown> {
  for (let n = 0; ; n++) {
    const response = await fetch(address, init()).catch(() => undefined);
    if (response?.ok) {
      const answer = await response.json().catch(() => undefined);
      if (answer !== undefined) return answer;
    }
    if (response && response.status < 500 && !response.ok) {
      const said = (await response.json().catch(() => ({}))) as { reason?: string };
      throw new PictureError(
        `the print service refuses: ${said.reason ?? `it answered ${response.status}`}`,
        'Hand the prints over once more, then order again.',
      );
    }
    if (n + 1 >= TRIES)
      throw new PictureError(
        'the print service does not answer',
        'Try again later; an order that it has already is not made a second time.',
      );
    await sleep(FIRST_WAIT * 2 ** n);
  }
}
