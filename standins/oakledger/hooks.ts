import { createHmac } from 'node:crypto';
import { isoNow, nowMs } from '../shared/clock';
import { postJson } from '../shared/call';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import type { Store } from '../shared/store';
import { newEventId } from './deals';

export interface Hook extends Delivery {
  kind: string;
  deal: string;
  at: string;
}

/**
 * Signed webhooks. `oakledger-seal` is the HMAC-SHA256, in hex, of `<oakledger-sent>.<body>` under the account's
 * secret; `oakledger-sent` is the time of sending in milliseconds.
 */
export function makeHooks(store: Store, url: string, secret: string) {
  const rows = store.rows<Hook>('hooks');
  const deliveries = makeDeliveries(rows, ({ id, kind, deal, at }) => {
    const body = JSON.stringify({ event: id, kind, deal, at });
    const sent = String(nowMs());
    const seal = createHmac('sha256', secret).update(`${sent}.${body}`).digest('hex');
    return postJson(url, { 'oakledger-sent': sent, 'oakledger-seal': seal }, body);
  });
  return {
    owe(kind: string, deal: string): void {
      if (url) deliveries.add({ id: newEventId(), kind, deal, at: isoNow() });
    },
    ofDeal: (deal: string): Hook[] => rows.all().filter((hook) => hook.deal === deal),
    rest: deliveries.rest,
  };
}
