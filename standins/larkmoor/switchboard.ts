import { randomUUID } from 'node:crypto';
import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { postJson } from '../shared/call';
import { isoNow } from '../shared/clock';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import type { Store } from '../shared/store';

/** The numbers that Larkmoor can be reached at. */
export const lines = { '01632 960018': 'everybody', '01632 960027': 'the flyer of the trade fair' } as const;

const callSchema = z.object({
  dialled: z.string().min(5).max(40),
  caller: z.string().max(40).default(''),
  seconds: z.coerce.number().int().min(0).max(36_000),
  code: z.string().max(20).default(''),
});

interface ToldCall extends Delivery {
  body: string;
}
type Frame = (title: string, body: unknown) => unknown;

/**
 * Larkmoor's telephones: each call that ends is told to whoever is named, with the number dialled, the caller, how long it
 * was, and the code that the person at the desk typed in.
 *
 * @param url where calls are told, '' for nowhere @param secret stands in the header `authorization`
 */
export function makeSwitchboard(store: Store, url: string, secret: string) {
  const targets = store.rows<{ id: string; url: string; secret: string }>('call target');
  const target = () => targets.get('target') ?? { url, secret };
  const told = store.rows<ToldCall>('calls');
  const deliveries = makeDeliveries(told, ({ body }) =>
    postJson(target().url, { authorization: `Bearer ${target().secret}` }, body),
  );

  return {
    rest: deliveries.rest,
    pages(frame: Frame): Hono {
      const pages = new Hono();
      pages.get('/', (c) =>
        c.html(
          frame(
            'Switchboard',
            html`<main class="words">
              <h1>The switchboard</h1>
              <form method="post" action="/switchboard">
                <label
                  >Number dialled
                  <select name="dialled">
                    ${Object.entries(lines).map(
                      ([number, words]) => html`<option value="${number}">${number}, ${words}</option>`,
                    )}
                  </select></label
                >
                <label>Caller <input name="caller" value="07700 900950" /></label>
                <label>Seconds, 0 where nobody answered <input name="seconds" value="140" inputmode="numeric" /></label>
                <label>Code that the caller read out <input name="code" /></label>
                <button class="button">End the call</button>
              </form>
              <h2>Told to</h2>
              <form method="post" action="/switchboard/target">
                <label>Address <input name="url" size="60" value="${target().url}" /></label>
                <label>Secret <input name="secret" size="40" autocomplete="off" /></label>
                <button class="button">Save</button>
              </form>
              <h2>Calls</h2>
              <ul>
                ${told
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
        const given = callSchema.safeParse(await c.req.parseBody());
        if (!given.success)
          return c.text(given.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('\n'), 422);
        const { dialled, caller, seconds, code } = given.data;
        const id = randomUUID();
        const began = new Date(Date.parse(isoNow()) - seconds * 1000).toISOString();
        const call = { id, to: dialled, from: caller, began, seconds, answered: seconds > 0, code };
        if (target().url) deliveries.add({ id, body: JSON.stringify({ call }) });
        return c.redirect('/switchboard', 303);
      });
      pages.post('/target', async (c) => {
        const given = await c.req.parseBody<{ url: string; secret: string }>();
        targets.put({ id: 'target', ...given });
        return c.redirect('/switchboard', 303);
      });
      return pages;
    },
  };
}
