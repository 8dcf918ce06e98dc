import { Box, Button } from '@mui/material';
import { useEffect, useState } from 'react';
import type { PrintOrder, PrintState } from '../../../contract/index.ts';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { Problem, sentence } from '../../shared/Problem.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';

const words: Record<PrintState, string> = {
  placing: 'is on its way to the print service',
  priced: 'waits for your word',
  accepting: 'is being accepted',
  accepted: 'accepted, is being printed',
  printed: 'printed, is being packed',
  sent: 'sent',
  failed: 'did not get through',
};
const settled: readonly PrintState[] = ['priced', 'sent', 'failed'];
/** How often an order that moves is asked after, ms. */
const EVERY = 3000;

/** The prints of a hand-over at the print service: ordered, priced, accepted, printed, sent. */
export function PrintOrders({ deliveryId }: { deliveryId: number }) {
  const [orders, setOrders] = useState<PrintOrder[]>([]);
  const [copies, setCopies] = useState(1);
  const take = (answer: Promise<PrintOrder[]>): Promise<void> =>
    attempt(answer).then((read) => void (read && setOrders(read)));
  useEffect(() => void take(api.printOrders(deliveryId)), [deliveryId]);
  const moves = orders.some(({ state }) => !settled.includes(state));
  useEffect(() => {
    if (!moves) return;
    const timer = setInterval(() => void take(api.printOrders(deliveryId)), EVERY);
    return () => clearInterval(timer);
  }, [moves, deliveryId]);
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <Actions>
        <Box sx={{ display: 'grid', gridTemplateColumns: 'auto auto', gap: 1, alignItems: 'baseline' }}>
          <NumberField
            label="Copies of each"
            min={1}
            max={99}
            step={1}
            value={copies}
            onChange={(n) => setCopies(Math.round(n))}
          />
        </Box>
        <Button onClick={() => void take(api.orderPrints(deliveryId, copies))}>Order the prints</Button>
      </Actions>
      {orders.map((order) => (
        <Actions key={order.id} role="status">
          <span>
            {counted(order.prints, 'print')}
            {order.number && `, order ${order.number}`}
            {order.price !== null && <strong className="figure">, {order.price.toFixed(2)}</strong>}:{' '}
            {words[order.state]}
          </span>
          {order.state === 'priced' && (
            <Button variant="contained" onClick={() => void take(api.acceptOrder(order.id))}>
              Accept the price
            </Button>
          )}
          {order.state === 'failed' && (
            <Problem
              lead={sentence(order.problem?.reason ?? 'it failed')}
              action={
                <Button variant="text" onClick={() => void take(api.acceptOrder(order.id))}>
                  Send it again
                </Button>
              }
            >
              {order.problem?.remedy}
            </Problem>
          )}
        </Actions>
      ))}
    </Box>
  );
}
