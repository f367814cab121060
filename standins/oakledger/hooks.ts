import { createHmac } from 'node:crypto';
import { html } from 'hono/html';
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

/** How webhooks go out: once each, twice each, or not at all. */
export const hookWays = { once: 'go out once', twice: 'go out twice', missing: 'go missing' } as const;
export type HookWay = keyof typeof hookWays;

/**
 * Signed webhooks. `oakledger-seal` is the HMAC-SHA256, in hex, of `<oakledger-sent>.<body>` under the account's
 * secret; `oakledger-sent` is the time of sending in milliseconds.
 */
export function makeHooks(store: Store, url: string, secret: string) {
  const rows = store.rows<Hook>('hooks');
  const settings = store.rows<{ id: string; way: HookWay }>('hook settings');
  const targets = store.rows<{ id: string; url: string; secret: string }>('hook target');
  /** Where they go: as somebody set it, else as it was when the service was started. */
  const target = () => targets.get('target') ?? { url, secret };
  const way = (): HookWay => settings.get('way')?.way ?? 'once';
  const deliveries = makeDeliveries(rows, ({ id, kind, deal, at }) => {
    const body = JSON.stringify({ event: id.split(' ')[0], kind, deal, at });
    const sent = String(nowMs());
    const seal = createHmac('sha256', target().secret).update(`${sent}.${body}`).digest('hex');
    return postJson(target().url, { 'oakledger-sent': sent, 'oakledger-seal': seal }, body);
  });
  return {
    owe(kind: string, deal: string): void {
      if (!target().url || way() === 'missing') return;
      const hook = { id: newEventId(), kind, deal, at: isoNow() };
      deliveries.add(hook);
      // The same event, sent by a second row of its own.
      if (way() === 'twice') deliveries.add({ ...hook, id: `${hook.id} again` });
    },
    way,
    target: () => target().url,
    setTarget: (to: string, by: string) => targets.put({ id: 'target', url: to, secret: by }),
    setWay: (next: HookWay) => settings.put({ id: 'way', way: next }),
    form: () =>
      html`<form method="post" action="/hooks" class="faults">
        <label
          >Its webhooks
          <select name="way">
            ${Object.entries(hookWays).map(
              ([key, words]) => html`<option value="${key}" ${key === way() ? 'selected' : ''}>${words}</option>`,
            )}
          </select></label
        >
        <button>Set</button>
      </form>`,
    ofDeal: (deal: string): Hook[] => rows.all().filter((hook) => hook.deal === deal),
    rest: deliveries.rest,
  };
}
