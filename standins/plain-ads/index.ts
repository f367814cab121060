import { randomBytes } from 'node:crypto';
import { parse } from 'csv-parse/sync';
import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { isoNow, nowMs } from '../shared/clock';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import { page } from '../shared/page';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';

const day = 86_400_000;
/** Oldest click that is taken, in days. */
const clickDays = 30;
const mostRows = 100;

const ads = [
  { id: 'a1', campaign: 'spring', words: 'A bike that carries the morning’s bread' },
  { id: 'a2', campaign: 'spring', words: 'Two boxes, one rider, no parking fine' },
];
/** Links as the advertiser wrote them; what is between angle brackets is filled in at the click. */
const linkTemplate = '?utm_source=plain-ads&utm_medium=display&utm_campaign=<campaign>&utm_content=<ad>&pcid=<click>';

const conversionSchema = z.strictObject({
  click: z.strictObject({ id: z.string().min(1).max(80) }),
  event: z.string().min(1).max(60),
  event_id: z.string().min(1).max(60),
  time: z.iso.datetime(),
  value: z.number().min(0),
  currency: z.string().regex(/^[A-Z]{3}$/),
  change: z.enum(['new', 'revalued', 'taken-back']).default('new'),
});
type Conversion = z.infer<typeof conversionSchema>;
const batchSchema = z.strictObject({ conversions: z.array(conversionSchema).min(1).max(mostRows) });
const fileRowSchema = z.strictObject({
  click_id: z.string().min(1).max(80),
  outcome: z.string().min(1).max(60),
  happened_at: z.iso.datetime(),
  amount: z.coerce.number().min(0),
  currency: z.string().regex(/^[A-Z]{3}$/),
  order_id: z.string().min(1).max(60),
  change: z.enum(['new', 'revalued', 'taken-back']),
});

interface Click {
  id: string;
  ad: string;
  at: string;
}
interface Taken {
  id: string;
  at: string;
  click: string;
  event: string;
  value: number;
  currency: string;
}

const styles = `body{font:16px/1.5 system-ui;margin:2rem;max-width:60rem}table{border-collapse:collapse}td,th{border-bottom:1px solid #ccc;padding:.3rem .8rem;text-align:left}`;

/** A plain ad network: two ads, an intake that takes JSON, a page that shows what it counted. */
export function makePlainAds(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('plain-ads');
  const clicks = store.rows<Click>('clicks');
  const conversions = store.rows<Taken>('conversions');
  const files = store.rows<{ id: string; at: string; rows: number }>('files');
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('plain-ads key')]);
  const larkmoor = surroundings.originOf('larkmoor');
  const app = new Hono();
  const frame = (body: unknown) => page('Plain Ads', styles, body);

  app.get('/', (c) =>
    c.html(
      frame(
        html`<h1>Plain Ads</h1>
          <ul>
            ${ads.map(({ id, words }) => html`<li><a href="/out/${id}">${words}</a></li>`)}
          </ul>
          <p><a href="/account">Advertiser’s account</a></p>`,
      ),
    ),
  );
  app.get('/out/:id', (c) => {
    const ad = ads.find(({ id }) => id === c.req.param('id'));
    if (!ad) return c.notFound();
    const click = { id: `p${randomBytes(8).toString('hex')}`, ad: ad.id, at: isoNow() };
    clicks.put(click);
    const filled = linkTemplate.replace('<campaign>', ad.campaign).replace('<ad>', ad.id).replace('<click>', click.id);
    return c.redirect(`${larkmoor}/fleet${filled}`, 302);
  });
  const worth = () => conversions.all().reduce((sum, one) => sum + one.value, 0);
  app.get('/account', (c) =>
    c.html(
      frame(
        html`<h1>${conversions.all().length} conversions of ${clicks.all().length} clicks</h1>
          <p>
            Links are written as <code>${linkTemplate}</code>. Clicks up to ${clickDays} days old are taken. Send
            <code>POST /v1/conversions</code> with the key in <code>x-plain-key</code>, up to ${mostRows} at a time;
            with <code>change</code> as <code>revalued</code> or <code>taken-back</code> what is counted gets a new
            value. Or by <code>GET /heard?visit=…&amp;what=…&amp;no=…&amp;when=…&amp;sum=…&amp;cur=…&amp;key=…</code>,
            or as files by <code>PUT /files/…</code>, of which there were ${files.all().length}.
            <code>POST /v1/tests</code> answers the same and counts nothing. All are worth
            <b id="worth">GBP ${worth().toFixed(2)}</b>.
          </p>
          <table>
            <tbody>
              ${conversions
                .all()
                .toReversed()
                .slice(0, 40)
                .map(
                  (one) =>
                    html`<tr>
                      <td>${one.at.slice(0, 16).replace('T', ' ')}</td>
                      <td><code>${one.event}</code></td>
                      <td>${one.currency} ${one.value.toFixed(2)}</td>
                      <td><code>${one.click}</code></td>
                    </tr>`,
                )}
            </tbody>
          </table>
          ${keys.form('/account/keys')} ${faults.form('/account/faults')}`,
      ),
    ),
  );
  app.post('/account/keys', (c) => c.html(frame(keys.fresh(keys.make(), '/account'))));
  app.post('/account/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/account', 303);
  });

  /** What is said of one conversion; of a test nothing is kept. */
  function take({ click, event, event_id, time, value, currency, change }: Conversion, isTest: boolean): string {
    const before = conversions.get(event_id);
    if (change !== 'new') {
      if (!before) return 'unknown event';
      if (!isTest) conversions.put({ ...before, value });
      return 'ok';
    }
    if (before) return 'duplicate';
    const known = clicks.get(click.id);
    if (!known) return 'unknown click';
    if (Date.parse(time) < Date.parse(known.at)) return 'before its click';
    if (nowMs() - Date.parse(known.at) > clickDays * day) return 'click too old';
    if (!isTest) conversions.put({ id: event_id, at: isoNow(), click: click.id, event, value, currency });
    return 'ok';
  }

  app.use('/v1/*', faults.middleware);
  for (const [path, isTest] of [
    ['/v1/conversions', false],
    ['/v1/tests', true],
  ] as const)
    app.post(path, async (c) => {
      if (!keys.isKnown(c.req.header('x-plain-key') ?? '')) return c.json({ message: 'key not known' }, 401);
      const batch = batchSchema.safeParse(await c.req.json().catch(() => null));
      if (!batch.success)
        return c.json({ message: batch.error.issues.map((i) => `${i.path.join('.') || 'body'}: ${i.message}`) }, 400);
      const choosy = faults.isChoosy(c);
      return c.json({
        results: batch.data.conversions.map((one, at) => ({
          id: one.event_id,
          result: choosy && at % 3 === 2 ? 'not today' : take(one, isTest),
        })),
      });
    });

  /** The same by postback, which it answers with one word. */
  app.use('/heard', faults.middleware);
  app.get('/heard', (c) => {
    const { key = '', visit = '', what = '', no = '', when = '', sum = '', cur = '' } = c.req.query();
    if (!keys.isKnown(key)) return c.text('WHO ARE YOU', 401);
    const one = conversionSchema.safeParse({
      click: { id: visit },
      event: what,
      event_id: no,
      time: when,
      value: Number(sum),
      currency: cur,
    });
    if (!one.success) return c.text('NOT UNDERSTOOD', 400);
    const said = take(one.data, false);
    return c.text(said === 'ok' ? 'HEARD' : said.toUpperCase());
  });

  /** The same by a file, with the usual columns of offline conversions; one bad row refuses all of it. */
  app.use('/files/*', faults.middleware);
  app.put('/files/:name', async (c) => {
    if (!keys.isKnown(c.req.header('x-plain-key') ?? '')) return c.json({ message: 'key not known' }, 401);
    const name = c.req.param('name');
    const rows = z.array(fileRowSchema).safeParse(parse(await c.req.text(), { columns: true, bom: true }));
    if (!rows.success)
      return c.json({ message: rows.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`) }, 400);
    for (const { click_id, outcome, order_id, happened_at, amount, currency, change } of rows.data) {
      const what = { event: outcome, event_id: order_id, time: happened_at, value: amount, currency, change };
      take({ ...what, click: { id: click_id } }, false);
    }
    files.put({ id: name, at: isoNow(), rows: rows.data.length });
    return c.json({ name, rows: rows.data.length }, 201);
  });

  return {
    name: 'plain-ads',
    words: 'Plain Ads, an ad network without any ways of its own',
    app,
    rest: async () => undefined,
  };
}
