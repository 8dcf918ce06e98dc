import express from 'express';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { z } from 'zod';
import { printItemSchema } from '../../contract/index.ts';
import { seededRandom } from '../../core/random.ts';
import { writeWhole } from '../store/writeWhole.ts';

/**
 * A print service that ships with the application, in the place of a real one: it takes orders by HTTP, prices them,
 * keeps their files, prints and sends them after a while. It fails now and then if that is wished, before it has done what
 * it was asked or after: an answer that was lost is what doubles orders.
 */

const orderSchema = z.object({
  id: z.string(),
  /** The customer’s own name for the order; a second order of one name is the first. */
  reference: z.uuid(),
  items: z.array(printItemSchema),
  price: z.number(),
  /** When it was accepted, ms. */
  acceptedAt: z.number().nullable(),
});
type Order = z.infer<typeof orderSchema>;
const newOrderSchema = z.object({ reference: z.uuid(), items: z.array(printItemSchema).min(1).max(5000) }).strict();

export interface ServiceOptions {
  /** Share of requests that fail, half of them after they were done; none of them more than `MOST_FAULTS` times in a row. */
  faults?: number;
  /** Seconds from acceptance to being printed, and as long again until it is sent. */
  printing?: number;
}
export interface PrintService {
  address: string;
  /** Orders as the service knows them. */
  orders: () => readonly Order[];
  close: () => Promise<void>;
}

/** Price of a square metre of print, and the least of one. */
const PRICE = { metre: 38, least: 0.35 };
const MOST_FILE = '400mb';
const MOST_FAULTS = 4;

export async function startPrintService(
  folder: string,
  { faults = 0, printing = 20 }: ServiceOptions = {},
): Promise<PrintService> {
  await mkdir(join(folder, 'files'), { recursive: true });
  const book = join(folder, 'orders.json');
  const orders = existsSync(book) ? z.array(orderSchema).parse(JSON.parse(await readFile(book, 'utf8'))) : [];
  const save = (): Promise<void> => writeWhole(book, Buffer.from(JSON.stringify(orders, null, 1)));
  const fileOf = (sha256: string): string => join(folder, 'files', sha256);
  const shown = (order: Order) => ({
    id: order.id,
    reference: order.reference,
    price: order.price,
    state: stateOf(order, printing),
    missing: order.items.filter(({ sha256 }) => !existsSync(fileOf(sha256))).map(({ sha256 }) => sha256),
  });
  const random = seededRandom(1);
  /** How often in a row each request has failed. */
  const failed = new Map<string, number>();
  const app = express();
  app.use(({ method, url }, response, next) => {
    const dice = random();
    const inARow = failed.get(`${method} ${url}`) ?? 0;
    failed.set(`${method} ${url}`, dice < faults && inARow < MOST_FAULTS ? inARow + 1 : 0);
    if (dice >= faults || inARow >= MOST_FAULTS) return next();
    if (dice < faults / 2) return void response.status(503).json({ reason: 'the service is busy' });
    // Does what it is asked, and the answer is lost.
    response.json = () => {
      response.destroy();
      return response;
    };
    next();
  });
  app.post('/orders', express.json({ limit: '8mb' }), async (request, response) => {
    const asked = newOrderSchema.safeParse(request.body);
    if (!asked.success) return void response.status(400).json({ reason: asked.error.issues[0].message });
    let order = orders.find(({ reference }) => reference === asked.data.reference);
    if (!order) {
      order = { id: `P-${orders.length + 1}`, ...asked.data, price: priceOf(asked.data.items), acceptedAt: null };
      orders.push(order);
      await save();
    }
    response.json(shown(order));
  });
  app.put('/files/:sha256', express.raw({ limit: MOST_FILE, type: () => true }), async (request, response) => {
    const { sha256 } = request.params;
    const content = request.body as Buffer;
    if (createHash('sha256').update(content).digest('hex') !== sha256)
      return void response.status(400).json({ reason: 'the file is not what its name says' });
    await writeWhole(fileOf(sha256), content);
    response.json({ kept: true });
  });
  app.get('/orders/:id', (request, response) => {
    const order = orders.find(({ id }) => id === request.params.id);
    if (!order) return void response.status(404).json({ reason: 'no such order' });
    response.json(shown(order));
  });
  app.post('/orders/:id/accept', async (request, response) => {
    const order = orders.find(({ id }) => id === request.params.id);
    if (!order) return void response.status(404).json({ reason: 'no such order' });
    if (shown(order).missing.length) return void response.status(409).json({ reason: 'files are missing' });
    if (order.acceptedAt === null) {
      order.acceptedAt = Date.now();
      await save();
    }
    response.json(shown(order));
  });
  const server = await new Promise<Server>((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
  });
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    orders: () => orders,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

function priceOf(items: Order['items']): number {
  const sum = items.reduce((all, { width, height, copies }) => {
    const metres = (width / 1000) * (height / 1000);
    return all + copies * Math.max(PRICE.least, metres * PRICE.metre);
  }, 0);
  return Math.round(sum * 100) / 100;
}

function stateOf({ acceptedAt }: Order, printing: number): 'priced' | 'accepted' | 'printed' | 'sent' {
  if (acceptedAt === null) return 'priced';
  const seconds = (Date.now() - acceptedAt) / 1000;
  return seconds < printing ? 'accepted' : seconds < 2 * printing ? 'printed' : 'sent';
}
