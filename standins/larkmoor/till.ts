import { randomUUID } from 'node:crypto';
import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { postJson } from '../shared/call';
import { isoNow } from '../shared/clock';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import type { Store } from '../shared/store';
import type { PaidOrder } from './shop';

interface Posted extends Delivery {
  body: string;
}
const postSchema = z.object({
  order: z.string().min(1),
  step: z.enum(['refund', 'chargeback']),
  amount: z
    .string()
    .regex(/^$|^\d{1,6}(\.\d{1,2})?$/, 'must be a decimal number such as 54.00, or empty for all of it'),
});
type Frame = (title: string, body: unknown) => unknown;

/** The back end that takes payments: it posts what became of each order to whoever is named. */
export function makeTill(store: Store, orders: () => PaidOrder[]) {
  const targets = store.rows<{ id: string; url: string }>('till target');
  const target = () => targets.get('target')?.url ?? '';
  const posted = store.rows<Posted>('till');
  const deliveries = makeDeliveries(posted, ({ body }) => postJson(target(), {}, body));
  const post = (said: object) =>
    deliveries.add({ id: randomUUID(), body: JSON.stringify({ id: randomUUID(), ...said }) });

  return {
    rest: deliveries.rest,
    pages(frame: Frame): Hono {
      const pages = new Hono();
      pages.get('/', (c) =>
        c.html(
          frame(
            'Till',
            html`<main class="words">
              <h1>The till</h1>
              <h2>Posted to</h2>
              <form method="post" action="/till/target">
                <label>Address <input name="url" size="70" value="${target()}" /></label>
                <button class="button">Save</button>
              </form>
              <h2>Orders</h2>
              ${orders()
                .slice(-20)
                .reverse()
                .map(
                  ({ number, total }) =>
                    html`<form method="post" action="/till" aria-label="${number}">
                      <input type="hidden" name="order" value="${number}" />
                      ${number}, £${total}
                      <label>Amount, empty for all <input name="amount" size="7" inputmode="decimal" /></label>
                      <button class="button" name="step" value="refund">Refund</button>
                      <button class="button" name="step" value="chargeback">Chargeback</button>
                    </form>`,
                )}
              <h2>Posted</h2>
              <ul>
                ${posted
                  .all()
                  .slice(-20)
                  .reverse()
                  .map(({ body, last_answer }) => html`<li><code>${body}</code> ${last_answer || 'on its way'}</li>`)}
              </ul>
            </main>`,
          ) as string,
        ),
      );
      pages.post('/', async (c) => {
        const given = postSchema.safeParse(await c.req.parseBody());
        if (!given.success) return c.text(given.error.issues.map(({ message }) => message).join('\n'), 422);
        const { order, step, amount } = given.data;
        post({ step, order, ...(amount === '' ? {} : { amount, currency: 'GBP' }), at: isoNow() });
        return c.redirect('/till', 303);
      });
      pages.post('/target', async (c) => {
        const { url } = await c.req.parseBody<{ url: string }>();
        targets.put({ id: 'target', url: url.trim() });
        return c.redirect('/till', 303);
      });
      return pages;
    },
  };
}
