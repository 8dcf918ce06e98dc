import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '../../../contract/index.ts';
import { printOrders } from '../../database/schema.ts';
import { defined, ready } from '../../jobs/definition.ts';

/** An order brought to the print service, or its price accepted there; done again after a kill, it is the same order. */
export const printJob = defined({
  lane: 'set',
  payload: z.object({ orderId: id, deliveryId: id, accept: z.boolean() }),
  tells: (_job, { deliveryId }) => ({ deliveries: [deliveryId] }),
  async prepare({ database, printService: service }, _job, { orderId, accept }) {
    const [order] = await database.select().from(printOrders).where(eq(printOrders.id, orderId));
    if (!order) return undefined;
    const { reference, items } = order;
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
