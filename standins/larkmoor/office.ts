import { Hono } from 'hono';
import { html, raw } from 'hono/html';
import type { Store } from '../shared/store';

const crms = { oakledger: 'Oakledger', 'plain-crm': 'Plain CRM' } as const;
export type CrmName = keyof typeof crms;
type Frame = (title: string, body: unknown) => unknown;

/** What the website's developer can change: what is in the head of every page, and which CRM forms are handed to. */
export function makeOffice(store: Store, script: string) {
  const settings = store.rows<{ id: string; value: string }>('office');
  const setting = (id: string) => settings.get(id)?.value;
  const usual = script ? `<script src="${script}" async></script>` : '';
  const head = (): string => setting('head') ?? usual;
  const crm = (): CrmName => (setting('crm') as CrmName | undefined) ?? 'oakledger';

  return {
    crm,
    head: (lines: number) => raw(Array.from({ length: lines }, head).join('')),
    pages(frame: Frame): Hono {
      const office = new Hono();
      office.get('/', (c) =>
        c.html(
          frame(
            'Office',
            html`<main class="words">
              <h1>The website’s office</h1>
              <form method="post" action="/office">
                <label
                  >In the head of every page
                  <textarea name="head" rows="4" cols="70" spellcheck="false">${head()}</textarea>
                </label>
                <label
                  >Forms are handed to
                  <select name="crm">
                    ${Object.entries(crms).map(
                      ([name, words]) =>
                        html`<option value="${name}" ${name === crm() ? 'selected' : ''}>${words}</option>`,
                    )}
                  </select></label
                >
                <button class="button">Save</button>
              </form>
            </main>`,
          ) as string,
        ),
      );
      office.post('/', async (c) => {
        const given = await c.req.parseBody<{ head: string; crm: string }>();
        if (!Object.hasOwn(crms, given.crm)) return c.text('crm: must be one of the list', 422);
        settings.put({ id: 'head', value: given.head });
        settings.put({ id: 'crm', value: given.crm });
        return c.redirect('/office', 303);
      });
      return office;
    },
  };
}
