import { randomUUID } from 'node:crypto';
import { and, desc, eq, sql } from 'drizzle-orm';
import { serviceOrderSchema, type PrintItem, type PrintOrder, type Problem } from '../../../contract/index.ts';
import { MOST_PRESETS, printedSize } from '../../../core/handOver/index.ts';
import { deliveries, jobs, printOrders } from '../../database/schema.ts';
import { found, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { startJob } from '../../jobs/startJob.ts';
import { handedOver } from './manifest.ts';

/** Prints of a hand-over, ordered from the print service. */

/** How long the service is waited for when it is only asked how things stand, ms. */
const PATIENCE = 2500;

/** Orders every print and sheet of a hand-over that may still go out. */
export async function orderPrints(context: Context, deliveryId: number, copies: number): Promise<PrintOrder[]> {
  const { settings, files, shootId } = await handedOver(context, deliveryId);
  const items = files.flatMap(({ file, preset: name, sha256, bytes, missing }): PrintItem[] => {
    const preset = settings.presets.slice(0, MOST_PRESETS).find((one) => one.name === name);
    if (missing || (preset?.kind !== 'print' && preset?.kind !== 'sheet')) return [];
    const size = preset.kind === 'print' ? printedSize(preset) : { width: preset.width, height: preset.height };
    return [{ name: file, sha256, bytes, ...size, paper: preset.paper, copies }];
  });
  if (!items.length)
    throw new Refusal(409, {
      reason: 'this hand-over has no prints that may go out',
      remedy: 'Make one with a print or a sheet among its presets.',
    });
  const [{ insertId: orderId }] = await context.database
    .insert(printOrders)
    .values({ shootId, deliveryId, reference: randomUUID(), items, state: 'placing' });
  await startJob(context, { kind: 'printOrder', shootId, payload: { orderId, deliveryId, accept: false } });
  return readOrders(context, deliveryId);
}

/** Accepts the price of an order; or tries one again that failed. */
export async function acceptOrder(context: Context, id: number): Promise<PrintOrder[]> {
  const { database } = context;
  const [row] = await database.select().from(printOrders).where(eq(printOrders.id, id));
  const order = found(row, 'order');
  const { shootId, deliveryId, price } = order;
  if (order.state !== 'priced' && !(await failureOf(context, order))) return readOrders(context, deliveryId);
  const accept = price !== null;
  await database
    .update(printOrders)
    .set({ state: accept ? 'accepting' : 'placing', problem: null })
    .where(eq(printOrders.id, id));
  await startJob(context, { kind: 'printOrder', shootId, payload: { orderId: id, deliveryId, accept } });
  return readOrders(context, deliveryId);
}

/** The orders of a hand-over, the latest first, with how they stand at the service now. */
export async function readOrders(context: Context, deliveryId: number): Promise<PrintOrder[]> {
  const { database } = context;
  const [delivery] = await database.select().from(deliveries).where(eq(deliveries.id, deliveryId));
  found(delivery, 'hand-over');
  const rows = await database
    .select()
    .from(printOrders)
    .where(eq(printOrders.deliveryId, deliveryId))
    .orderBy(desc(printOrders.id));
  for (const row of rows) {
    const failed = await failureOf(context, row);
    if (failed) Object.assign(row, { state: 'failed', problem: failed });
    if (row.state !== 'accepted' && row.state !== 'printed') continue;
    const state = await stateAtService(context.printService, row.number);
    if (!state || state === row.state || state === 'priced') continue;
    row.state = state;
    await database.update(printOrders).set({ state }).where(eq(printOrders.id, row.id));
  }
  return rows.map(({ id, number, items, price, state, problem, createdAt }) => ({
    id,
    deliveryId,
    number,
    prints: items.reduce((sum, { copies }) => sum + copies, 0),
    price,
    state,
    problem,
    createdAt: createdAt.toISOString(),
  }));
}

/** Why the job that was to bring an order to the service has ended without it. */
async function failureOf(
  { database }: Pick<Context, 'database'>,
  { id, state }: typeof printOrders.$inferSelect,
): Promise<Problem | undefined> {
  if (state !== 'placing' && state !== 'accepting') return undefined;
  const [job] = await database
    .select()
    .from(jobs)
    .where(and(eq(jobs.kind, 'printOrder'), sql`json_value(${jobs.payload}, '$.orderId') = ${id}`))
    .orderBy(desc(jobs.id))
    .limit(1);
  if (job?.state === 'failed' && job.problem) return job.problem;
  return job?.state === 'cancelled' ? { reason: 'it was cancelled', remedy: 'Send it once more.' } : undefined;
}

async function stateAtService(service: string, number: string) {
  const address = `${service}/orders/${encodeURIComponent(number)}`;
  const response = await fetch(address, { signal: AbortSignal.timeout(PATIENCE) }).catch(() => undefined);
  const read = serviceOrderSchema.safeParse(await response?.json().catch(() => undefined));
  return read.success ? read.data.state : undefined;
}
