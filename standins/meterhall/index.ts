import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { dayIn, isoNow, nowMs } from '../shared/clock';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import { page } from '../shared/page';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';

const hour = 3_600_000;
/** Oldest event that is taken, in hours. */
const oldest = 72;
const step = '[a-z0-9-]{1,40}';

const intakeSchema = z.strictObject({
  events: z
    .array(
      z.strictObject({
        id: z.string().min(1).max(120),
        path: z.string().regex(new RegExp(`^${step}(?:/${step}){0,4}$`), 'must be a path of up to five steps'),
        moment: z.iso.datetime(),
        with: z.record(z.string().regex(/^[a-z][a-z0-9_]{0,29}$/), z.string().max(200)),
      }),
    )
    .min(1)
    .max(100),
});
const daysSchema = z.object({
  from: z.iso.date(),
  to: z.iso.date(),
  zone: z.string().refine((name) => Intl.supportedValuesOf('timeZone').includes(name) || name === 'UTC'),
});
type Event = z.infer<typeof intakeSchema>['events'][number];

interface Counted {
  id: string;
  path: string;
  moment: string;
  with: Record<string, string>;
  at: string;
}

const styles = `body{font:15px/1.55 Georgia,serif;margin:0;background:#fbf7ef;color:#2b2118}main{max-width:64rem;margin:2.5rem auto;padding:0 1.5rem}h1{font-weight:400;font-size:2rem}table{border-collapse:collapse;width:100%}td,th{border-bottom:1px dotted #b9a88f;padding:.35rem .8rem .35rem 0;text-align:left;vertical-align:top}code{font-size:.85em}`;

/** Meterhall, an analytics intake: events named by one path, with fields beside them, and a page of what it counted. */
export function makeMeterhall(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('meterhall');
  const counted = store.rows<Counted>('counted');
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('meterhall key')]);
  const app = new Hono();
  const frame = (body: unknown) => page('Meterhall', styles, html`<main>${body}</main>`);

  app.get('/', (c) => c.redirect('/account', 302));
  app.get('/account', (c) => {
    const all = counted.all();
    const sums = new Map<string, number>();
    for (const { path } of all) sums.set(path, (sums.get(path) ?? 0) + 1);
    return c.html(
      frame(
        html`<h1>${all.length} events counted</h1>
          <table id="paths">
            ${[...sums].sort().map(
              ([path, count]) =>
                html`<tr>
                  <td><code>${path}</code></td>
                  <td>${count}</td>
                </tr>`,
            )}
          </table>
          <h2>The newest</h2>
          <table id="newest">
            ${all
              .toReversed()
              .slice(0, 30)
              .map(
                (one) =>
                  html`<tr>
                    <td>${one.moment.slice(0, 16).replace('T', ' ')}</td>
                    <td><code>${one.path}</code></td>
                    <td>${Object.entries(one.with).map(([name, value]) => html`<code>${name}=${value}</code> `)}</td>
                  </tr>`,
              )}
          </table>
          ${keys.form('/account/keys')} ${faults.form('/account/faults')}`,
      ),
    );
  });
  app.post('/account/keys', (c) => c.html(frame(keys.fresh(keys.make(), '/account'))));
  app.post('/account/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/account', 303);
  });

  /** What is said of one event. */
  function take(event: Event): string {
    if (counted.get(event.id)) return 'counted before';
    const age = nowMs() - Date.parse(event.moment);
    if (age > oldest * hour) return 'too late';
    if (age < -hour) return 'not yet';
    counted.put({ ...event, at: isoNow() });
    return 'counted';
  }

  app.use('/intake/*', faults.middleware);
  app.use('/intake/*', async (c, next) => {
    const token = /^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1] ?? '';
    return keys.isKnown(token) ? next() : c.json({ why: 'key not known' }, 401);
  });
  /** How often each path was counted, by day in a time zone. */
  app.get('/intake/counts', (c) => {
    const asked = daysSchema.safeParse(c.req.query());
    if (!asked.success) return c.json({ why: 'from, to: days such as 2027-02-15; zone: such as Europe/London' }, 400);
    const { from, to, zone } = asked.data;
    const counts = new Map<string, { day: string; path: string; times: number }>();
    for (const { path, moment } of counted.all()) {
      const day = dayIn(zone, Date.parse(moment));
      if (day < from || day > to) continue;
      const key = `${day} ${path}`;
      const known = counts.get(key);
      counts.set(key, { day, path, times: (known?.times ?? 0) + 1 });
    }
    return c.json({ counts: [...counts.values()] });
  });
  app.post('/intake', async (c) => {
    const given = intakeSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success)
      return c.json({ why: given.error.issues.map((i) => `${i.path.join('.') || 'body'}: ${i.message}`) }, 400);
    const choosy = faults.isChoosy(c);
    return c.json({
      said: given.data.events.map((one, at) => ({
        id: one.id,
        word: choosy && at % 3 === 2 ? 'not today' : take(one),
      })),
    });
  });

  return { name: 'meterhall', words: 'Meterhall, an analytics intake', app, rest: async () => undefined };
}
