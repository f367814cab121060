import { createHmac } from 'node:crypto';
import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { postJson } from '../shared/call';
import { isoNow } from '../shared/clock';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import { page } from '../shared/page';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';

const stages = ['New', 'Talking', 'Measured', 'Signed', 'Closed without'];
const perPage = 50;

const newRecordSchema = z.object({
  contact: z.object({ name: z.string().max(120), email: z.string().max(200), phone: z.string().max(60).default('') }),
  firm: z.string().max(120).default(''),
  value: z.number().min(0).default(0),
  extra: z.record(z.string().max(60), z.string().max(2000)).default({}),
});
interface PlainRecord extends z.infer<typeof newRecordSchema> {
  id: string;
  no: number;
  stage: string;
  updated: string;
}
interface Sent extends Delivery {
  body: string;
}

const styles = `body{font:16px/1.5 system-ui;margin:2rem;max-width:60rem}table{border-collapse:collapse}td,th{border-bottom:1px solid #ccc;padding:.3rem .8rem;text-align:left}`;

/** A plain CRM: records with a stage, a list of what changed, records sent as they change; it speaks JSON and nothing else. */
export function makePlainCrm(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('plain-crm');
  const rows = store.rows<PlainRecord>('records');
  const settings = store.rows<{ id: string; value: string }>('settings');
  const setting = (id: string) => settings.get(id)?.value ?? '';
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('plain-crm key')]);
  const sent = makeDeliveries(store.rows<Sent>('sent'), ({ body }) =>
    postJson(
      setting('hook'),
      { 'plain-signature': createHmac('sha256', setting('secret')).update(body).digest('hex') },
      body,
    ),
  );
  const described = ({ id: _, no, ...record }: PlainRecord) => ({ number: no, ...record });

  function put(record: PlainRecord): void {
    rows.put(record);
    if (setting('hook'))
      sent.add({
        id: `${record.id} ${record.updated} ${record.stage}`,
        body: JSON.stringify({ record: described(record) }),
      });
  }

  const app = new Hono();
  const frame = (body: unknown) => page('Plain CRM', styles, body);
  app.get('/', (c) =>
    c.html(
      frame(
        html`<h1>${rows.all().length} records</h1>
          <table>
            <tbody>
              ${rows
                .all()
                .toReversed()
                .slice(0, 50)
                .map(
                  (record) =>
                    html`<tr>
                      <td>${String(record.no)}</td>
                      <td>${record.firm || record.contact.name}</td>
                      <td>
                        <form method="post" action="/records/${record.id}/stage">
                          <select name="stage" aria-label="Stage of ${record.firm || record.contact.name}">
                            ${stages.map(
                              (stage) => html`<option ${stage === record.stage ? 'selected' : ''}>${stage}</option>`,
                            )}
                          </select>
                          <button>Move</button>
                        </form>
                      </td>
                    </tr>`,
                )}
            </tbody>
          </table>
          <h2>Programs</h2>
          ${keys.form('/keys')}
          <form method="post" action="/hook">
            <label>Send records to <input name="hook" size="60" value="${setting('hook')}" /></label>
            <label>Secret <input name="secret" value="${setting('secret')}" /></label>
            <button>Save</button>
          </form>
          ${faults.form('/faults')}`,
      ),
    ),
  );
  app.post('/records/:id/stage', async (c) => {
    const record = rows.get(c.req.param('id'));
    const { stage } = await c.req.parseBody<{ stage: string }>();
    if (!record || !stages.includes(stage)) return c.notFound();
    put({ ...record, stage, updated: isoNow() });
    return c.redirect('/', 303);
  });
  app.post('/keys', (c) => c.html(frame(keys.fresh(keys.make(), '/'))));
  app.post('/hook', async (c) => {
    const { hook, secret } = await c.req.parseBody<{ hook: string; secret: string }>();
    if (hook && !URL.canParse(hook)) return c.text('hook: must be an address', 422);
    settings.put({ id: 'hook', value: hook.trim() });
    settings.put({ id: 'secret', value: secret.trim() });
    return c.redirect('/', 303);
  });
  app.post('/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/', 303);
  });

  const api = new Hono();
  api.use('*', async (c, next) =>
    keys.isKnown(c.req.header('x-plain-key') ?? '') ? next() : c.json({ message: 'key not known' }, 401),
  );
  api.post('/records', async (c) => {
    const given = newRecordSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json({ message: given.error.issues.map(({ message }) => message) }, 422);
    const no = 1000 + rows.all().length + 1;
    const record: PlainRecord = { id: String(no), no, stage: stages[0]!, updated: isoNow(), ...given.data };
    put(record);
    return c.json({ number: no }, 201);
  });
  api.use('*', faults.middleware);
  api.get('/records', (c) => {
    const since = c.req.query('updated_since') ?? '';
    const from = Number(c.req.query('from')) || 0;
    if (since !== '' && Number.isNaN(Date.parse(since)))
      return c.json({ message: 'updated_since: must be a time' }, 400);
    const found = rows
      .all()
      .filter(({ updated }) => since === '' || Date.parse(updated) >= Date.parse(since))
      .sort((a, b) => (a.updated < b.updated ? -1 : 1));
    const next =
      from + perPage < found.length
        ? `/api/records?updated_since=${encodeURIComponent(since)}&from=${from + perPage}`
        : null;
    return c.json({ records: found.slice(from, from + perPage).map(described), next });
  });
  api.patch('/records/:id', async (c) => {
    const record = rows.get(c.req.param('id'));
    const given = z.object({ extra: z.record(z.string(), z.string()) }).safeParse(await c.req.json().catch(() => null));
    if (!record) return c.json({ message: 'no such record' }, 404);
    if (!given.success) return c.json({ message: 'extra: must name texts' }, 422);
    put({ ...record, extra: { ...record.extra, ...given.data.extra }, updated: isoNow() });
    return c.json(described(rows.get(record.id)!));
  });
  app.route('/api', api);

  return { name: 'plain-crm', words: 'Plain CRM, a CRM without any ways of its own', app, rest: sent.rest };
}
