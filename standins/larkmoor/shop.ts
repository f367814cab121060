import { html, raw } from 'hono/html';
import { Hono } from 'hono';
import { z } from 'zod';
import { isoNow } from '../shared/clock';
import type { Rows, Store } from '../shared/store';

interface Part {
  id: string;
  name: string;
  /** Pounds. */
  price: number;
  /** What it cost the shop. */
  cost: number;
}
const parts: Part[] = [
  { id: 'rain-cover', name: 'Rain cover for the long box', price: 89, cost: 41.5 },
  { id: 'second-lock', name: 'Second lock, keyed alike', price: 54, cost: 22.8 },
  { id: 'brake-pads', name: 'Brake pads, four of them', price: 31.5, cost: 12.1 },
];
const delivery = 6;

interface Order {
  /** The order number. */
  id: string;
  part: string;
  count: number;
  at: string;
}
const basketSchema = z.object({
  part: z.enum(parts.map(({ id }) => id) as [string, ...string[]], 'choose a part'),
  count: z.coerce.number().int().min(1, 'at least one').max(20, 'at most 20').default(1),
});
/** An order as the till knows it: `total` in pounds, as it is written. */
export interface PaidOrder {
  number: string;
  total: string;
}
type Frame = (title: string, body: unknown) => unknown;

const pounds = (amount: number): string => amount.toFixed(2);

/** What an order comes to: what is paid, and what of it is delivery, tax and cost of goods. */
function sumOf({ part: id, count }: Pick<Order, 'part' | 'count'>) {
  const part = parts.find((one) => one.id === id)!;
  const goods = part.price * count;
  const total = goods + delivery;
  return { part, total, tax: total - total / 1.2, cost: part.cost * count };
}

/** The shop: parts, a basket, and the page that thanks for an order and says it to whoever reads the page. */
export function makeShop(store: Store, frame: Frame): { app: Hono; paid: () => PaidOrder[] } {
  const orders: Rows<Order> = store.rows('orders');
  const app = new Hono();
  const page = (title: string, body: unknown) =>
    frame(
      title,
      html`<main class="words">
        <h1>${title}</h1>
        ${body}
      </main>`,
    ) as ReturnType<typeof html>;

  app.get('/basket', (c) => {
    const given = basketSchema.safeParse(c.req.query());
    if (!given.success)
      return c.html(page('Your basket', html`<p>Nothing is in it. <a href="/shop">Back to the shop</a></p>`));
    const { part, total } = sumOf(given.data);
    return c.html(
      page(
        'Your basket',
        html`<p>
            ${String(given.data.count)} × ${part.name}, £${pounds(part.price)} each; £${pounds(delivery)} delivery.
          </p>
          <form name="basket" method="post" action="/orders">
            <input type="hidden" name="part" value="${part.id}" />
            <input type="hidden" name="count" value="${String(given.data.count)}" />
            <button class="button">Pay £${pounds(total)}</button>
          </form>`,
      ),
    );
  });
  app.post('/orders', async (c) => {
    const given = basketSchema.safeParse(await c.req.parseBody());
    if (!given.success) return c.text(given.error.issues.map(({ message }) => message).join('\n'), 422);
    const id = `LK-${20_401 + orders.all().length}`;
    orders.put({ id, ...given.data, at: isoNow() });
    return c.redirect(`/order-received?order=${id}`, 303);
  });
  app.get('/order-received', (c) => {
    const order = orders.get(c.req.query('order') ?? '');
    if (!order) return c.html(page('No such order', html`<p><a href="/shop">Back to the shop</a></p>`), 404);
    const { total, tax, cost, part } = sumOf(order);
    const said = {
      order: {
        number: order.id,
        currency: 'GBP',
        total: pounds(total),
        delivery: pounds(delivery),
        tax: pounds(tax),
        cost: pounds(cost),
      },
    };
    return c.html(
      page(
        'Thank you, it is on its way',
        html`<p>Order ${order.id}: ${String(order.count)} × ${part.name}. Sent today from Penmarrow.</p>
          <script type="application/json" id="avrix-page">
            ${raw(JSON.stringify(said))}
          </script>`,
      ),
    );
  });
  return { app, paid: () => orders.all().map((order) => ({ number: order.id, total: pounds(sumOf(order).total) })) };
}

/** What the shop's page lists. */
export const shopList = html`<ul>
  ${parts.map(({ id, name, price }) => html`<li><a href="/basket?part=${id}">${name}</a>, £${pounds(price)}</li>`)}
</ul>`;
