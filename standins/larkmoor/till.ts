import { randomUUID } from 'node:crypto';
import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { postJson } from '../shared/call';
import { isoNow } from '../shared/clock';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import type { Store } from '../shared/store';
import { monthOf, type CarePlan } from './care';
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
/** What can become of a subscription: a payment each month, one after a pause, or some of a payment given back. */
const billedSchema = z.object({
  subscription: z.string().min(1),
  step: z.enum(['first-payment', 'renewal', 'restart', 'refund', 'chargeback']),
  /** Of which payment something is given back. */
  payment: z.string().default(''),
});
interface Payment {
  id: string;
  subscription: string;
  amount: string;
}
type Frame = (title: string, body: unknown) => unknown;

/** The back end that takes payments: it posts what became of each order to whoever is named. */
export function makeTill(store: Store, orders: () => PaidOrder[], plans: () => CarePlan[]) {
  const targets = store.rows<{ id: string; url: string }>('till target');
  const target = () => targets.get('target')?.url ?? '';
  const posted = store.rows<Posted>('till');
  const deliveries = makeDeliveries(posted, ({ body }) => postJson(target(), {}, body));
  const payments = store.rows<Payment>('care payments');
  const post = (said: object) =>
    deliveries.add({ id: randomUUID(), body: JSON.stringify({ id: randomUUID(), ...said, at: isoNow() }) });
  const button = (step: string, words: string) =>
    html`<button class="button" name="step" value="${step}">${words}</button> `;
  const billing = (plan: CarePlan) =>
    html`<form method="post" action="/till/care" aria-label="${plan.id}">
        <input type="hidden" name="subscription" value="${plan.id}" />
        ${plan.id}, £${monthOf(plan)} a month ${button('first-payment', 'First payment')}
        ${button('renewal', 'Renewal')} ${button('restart', 'Restart')}
      </form>
      ${payments
        .all()
        .filter(({ subscription }) => subscription === plan.id)
        .map(
          ({ id, amount }) =>
            html`<form method="post" action="/till/care" aria-label="${id}">
              <input type="hidden" name="subscription" value="${plan.id}" />
              <input type="hidden" name="payment" value="${id}" />
              ${id}, £${amount} ${button('refund', 'Refund')} ${button('chargeback', 'Chargeback')}
            </form>`,
        )}`;

  return {
    rest: deliveries.rest,
    /** Somebody signed up for the care plan. */
    started: ({ id, lead }: CarePlan) => post({ step: 'started', subscription: id, lead }),
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
                      ${button('refund', 'Refund')} ${button('chargeback', 'Chargeback')}
                    </form>`,
                )}
              <h2>Care plans</h2>
              ${plans().slice(-20).reverse().map(billing)}
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
        post({ step, order, ...(amount === '' ? {} : { amount, currency: 'GBP' }) });
        return c.redirect('/till', 303);
      });
      pages.post('/care', async (c) => {
        const given = billedSchema.safeParse(await c.req.parseBody());
        const plan = given.success && plans().find(({ id }) => id === given.data.subscription);
        if (!given.success || !plan) return c.text('No such plan', 422);
        const { step, payment } = given.data;
        const isBack = step === 'refund' || step === 'chargeback';
        const id = isBack ? payment : `PM-${8_001 + payments.all().length}`;
        const amount = monthOf(plan);
        if (!isBack) payments.put({ id, subscription: plan.id, amount });
        post({ step, subscription: plan.id, payment: id, amount, currency: 'GBP' });
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
