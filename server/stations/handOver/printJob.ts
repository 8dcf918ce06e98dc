import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '../../../contract/index.ts';
import { printOrders } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { handedOver } from './manifest.ts';

/** An order brought to the print service, or its price accepted there; done again after a kill, it is the same order. */
export const printJob = defined({
  lane: 'set',
  payload: z.object({ orderId: id, deliveryId: id, accept: z.boolean() }),
  tells: (_job, { deliveryId }) => ({ deliveries: [deliveryId] }),
  async prepare({ database, store, printService: service }, _job, { orderId, deliveryId, accept }) {
    const [order] = await database.select().from(printOrders).where(eq(printOrders.id, orderId));
    if (!order) return undefined;
    const { reference, items } = order;
    // Last thing: somebody may have said no since it was placed.
    const allowed = new Set((await handedOver({ database, store }, deliveryId)).files.map(({ file }) => file));
    const refused = items.filter(({ name }) => !allowed.has(name));
    if (refused.length)
      return {
        reason: `${refused.length} of these prints may not go out any more: ${refused[0].name}`,
        remedy: 'Order the prints anew; this order is not accepted and stays without cost.',
      };
    return ready<'printOrder'>({
      task: 'printOrder',
      input: { service, reference, items, accept },
      files: () => [],
      keep: async (tx, { number, price, state }) => {
        await tx.update(printOrders).set({ number, price, state, problem: null }).where(eq(printOrders.id, orderId));
        return {};
      },
    });
  },
});
