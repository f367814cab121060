import { readOrder } from '../../core/capture/orders';
import type { MakePart } from '../part';
import { onSaid } from '../said';

/** Tells of orders that pages say. The same order again is told again; that it counts once is the server's. */
export const part: MakePart = (tools) => ({
  work(host) {
    onSaid(tools, host, (said) => {
      const order = readOrder(said, tools.setup.rules.orders);
      if (order) host.tell({ kind: 'ordered', ...order });
    });
  },
});
