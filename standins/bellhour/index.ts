import { randomUUID } from 'node:crypto';
import { Hono, type Context } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { postJson } from '../shared/call';
import { isoNow } from '../shared/clock';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import { page } from '../shared/page';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { styles } from './styles';

const slots = ['Tuesday, 10:00', 'Tuesday, 14:00', 'Thursday, 9:00'];

/** What Bellhour keeps of a booking: the slot, and the query that its page was opened with, which it passes on as it came. */
interface Booking extends Delivery {
  calendar: string;
  slot: string;
  passed: Record<string, string>;
  booked_at: string;
}

const sentSchema = z.object({ slot: z.enum(slots as [string]), mail: z.email('a mail address is needed') });

/**
 * Bellhour, an outside calendar with a framed form: whoever opens it by a query gets that query back, by the page people
 * are led to afterwards and in what its back end tells the calendar's owner.
 */
export function makeBellhour(surroundings: Surroundings): Standin {
  const rows = surroundings.storeOf('bellhour').rows<Booking>('bookings');
  const thanks = `${surroundings.originOf('larkmoor')}/thank-you`;
  const tells = makeDeliveries(rows, ({ passed, slot, booked_at, calendar }) =>
    surroundings.booked && calendar === 'fitting'
      ? postJson(surroundings.booked, {}, JSON.stringify({ ...passed, slot, booked_at }))
      : Promise.resolve({ status: 204 }),
  );
  const app = new Hono();

  const form = (calendar: string, title: string, problem = '') =>
    page(
      title,
      styles,
      html`<main>
        <h1>${title}</h1>
        ${problem ? html`<p role="alert">${problem}</p>` : ''}
        <form name="booking" method="post">
          <label
            >When
            <select name="slot">
              ${slots.map((slot) => html`<option>${slot}</option>`)}
            </select></label
          >
          <label>Email <input name="mail" type="email" required /></label>
          <button>${calendar === 'fitting' ? 'Send' : 'Book it'}</button>
        </form>
      </main>`,
    );

  async function book(c: Context, calendar: string, title: string) {
    const given = sentSchema.safeParse(await c.req.parseBody());
    if (!given.success) return c.html(form(calendar, title, given.error.issues[0]!.message), 422);
    const passed = c.req.query();
    tells.add({ id: randomUUID(), calendar, slot: given.data.slot, passed, booked_at: isoNow() });
    const query = new URLSearchParams(passed).toString();
    return calendar === 'fitting'
      ? c.html(page('Sent', styles, html`<main><h1>Thank you. We will write to you.</h1></main>`))
      : c.redirect(query ? `${thanks}?${query}` : thanks, 303);
  }

  app.get('/book/larkmoor', (c) => c.html(form('larkmoor', 'Twenty minutes with Larkmoor')));
  app.post('/book/larkmoor', (c) => book(c, 'larkmoor', 'Twenty minutes with Larkmoor'));
  app.get('/fitting', (c) => c.html(form('fitting', 'Ask for a fitting')));
  app.post('/fitting', (c) => book(c, 'fitting', 'Ask for a fitting'));
  app.get('/', (c) =>
    c.html(
      page(
        'Bellhour',
        styles,
        html`<main>
          <h1>Bookings</h1>
          <table>
            <tr>
              <th>Booked</th>
              <th>Calendar</th>
              <th>Slot</th>
              <th>Came with</th>
              <th>Told</th>
            </tr>
            ${rows.all().map(
              ({ booked_at, calendar, slot, passed, last_answer }) =>
                html`<tr>
                  <td>${booked_at}</td>
                  <td>${calendar}</td>
                  <td>${slot}</td>
                  <td><code>${new URLSearchParams(passed).toString() || 'nothing'}</code></td>
                  <td>${last_answer || 'not yet'}</td>
                </tr>`,
            )}
          </table>
        </main>`,
      ),
    ),
  );
  return { name: 'bellhour', words: 'Bellhour, an outside calendar', app, rest: tells.rest };
}
