import { readOrder } from '../../core/capture/orders';
import type { MakePart } from '../part';

/** The block in which a page says what Avrix may know of it. */
const block = 'avrix-page';

/**
 * Tells of orders that pages say: in a block of JSON when they open, or by `avrix:tell` later. The same order again is told
 * again; that it counts once is the server's.
 */
export const part: MakePart = ({ setup, listen, later }) => ({
  work({ tell, onEnd }) {
    const look = (said: unknown) => {
      const order = readOrder(said, setup.rules.orders);
      if (order) tell({ kind: 'ordered', ...order });
    };
    const read = () => {
      const text = document.getElementById(block)?.textContent;
      if (text) look(JSON.parse(text));
    };
    if (document.readyState === 'loading') onEnd(listen(document, 'DOMContentLoaded', read));
    else later(read);
    onEnd(listen(document, 'avrix:tell', (event) => look((event as CustomEvent<unknown>).detail)));
  },
});
