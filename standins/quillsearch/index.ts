import { Hono } from 'hono';
import { getCookie, setCookie } from 'hono/cookie';
import { z } from 'zod';
import { nowMs } from '../shared/clock';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { account, callsPerMinute, fillLink, writtenAds } from './account';
import { makeClicks } from './clicks';
import { batchSchema, changesSchema, makeIntake } from './intake';
import { accountPage, keyPage, searchPage } from './pages';

/** Clicks of a replay, each with its own key and time (ms). */
const replayedSchema = z.object({
  clicks: z.array(z.object({ ad: z.string(), key: z.string(), at: z.number() })),
});
const daysSchema = z.object({ from: z.iso.date(), to: z.iso.date() });

const knownSchema = z.strictObject({ code: z.string().regex(/^[A-Za-z0-9_-]{2,40}$/) });

/** Quillsearch, search ads: a page of results with ads, an intake for outcomes, reports by click day. */
export function makeQuillsearch(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('quillsearch');
  const clicks = makeClicks(store);
  const intake = makeIntake(store, clicks);
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('quillsearch token')]);
  const larkmoor = surroundings.originOf('larkmoor');
  const ads = surroundings.season(writtenAds);
  const app = new Hono();

  app.get('/', (c) =>
    c.html(
      searchPage(
        ads,
        c.req.query('market') ?? 'uk',
        c.req.query('for') ?? '',
        larkmoor,
        getCookie(c, 'signed-in') ?? '',
      ),
    ),
  );
  app.get('/click/:ad', (c) => {
    const ad = ads.find(({ id }) => id === c.req.param('ad'));
    if (!ad) return c.notFound();
    return c.redirect(fillLink(larkmoor, ad, clicks.take(ad, undefined, getCookie(c, 'signed-in') ?? '').id), 302);
  });
  app.post('/sign-in', async (c) => {
    const { mail } = await c.req.parseBody<{ mail: string }>();
    const given = z.email().max(120).safeParse(mail);
    if (!given.success) return c.text('mail: must be a mail address', 422);
    setCookie(c, 'signed-in', given.data, { httpOnly: true, sameSite: 'Lax' });
    return c.redirect('/', 303);
  });
  app.get('/account', (c) => c.html(accountPage(clicks, intake, faults, keys, surroundings.replaying)));
  app.post('/account/keys', (c) => c.html(keyPage(keys)));
  app.post('/account/wait', async (c) => {
    const { hours } = await c.req.parseBody<{ hours: string }>();
    const given = z.coerce.number().int().min(0).max(72).safeParse(hours);
    if (!given.success) return c.text('hours: must be a whole number from 0 to 72', 422);
    intake.setWait(given.data);
    return c.redirect('/account', 303);
  });

  app.post('/account/outcomes', async (c) => {
    const { code } = await c.req.parseBody<{ code: string }>();
    if (!knownSchema.safeParse({ code }).success) return c.text('code: must have 2 to 40 letters, digits, - or _', 422);
    intake.makeOutcome(code);
    return c.redirect('/account', 303);
  });

  app.post('/account/repeats', async (c) => {
    const { forgets } = await c.req.parseBody<{ forgets?: string }>();
    intake.forgetRepeats(forgets === 'yes');
    return c.redirect('/account', 303);
  });

  app.post('/account/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/account', 303);
  });

  const api = new Hono();
  let calls: number[] = [];
  api.use('*', async (c, next) => {
    if (!keys.isKnown(/^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1] ?? ''))
      return c.json({ error: 'token: unknown' }, 401);
    calls = calls.filter((at) => at > nowMs() - 60_000 && at <= nowMs());
    if (!surroundings.replaying && calls.length >= callsPerMinute) {
      const seconds = Math.ceil((calls[0]! + 60_000 - nowMs()) / 1000);
      return c.json({ error: `at most ${callsPerMinute} calls a minute` }, 429, { 'retry-after': String(seconds) });
    }
    calls.push(nowMs());
    return next();
  });
  api.get('/account', (c) =>
    c.json({
      name: account.name,
      time_zone: account.timeZone,
      currency: account.currency,
      repeats: intake.forgetsRepeats() ? 'not recognised' : 'recognised by order',
    }),
  );
  api.use('*', faults.middleware);
  api.post('/outcomes', async (c) => {
    const batch = batchSchema.safeParse(await c.req.json().catch(() => null));
    if (batch.success)
      return c.json({ rows: intake.take(batch.data.rows, faults.isChoosy(c), c.req.query('try') === 'yes') });
    return c.json({ error: batch.error.issues.map((i) => `${i.path.join('.') || 'body'}: ${i.message}`) }, 400);
  });
  api.post('/outcomes/changes', async (c) => {
    const batch = changesSchema.safeParse(await c.req.json().catch(() => null));
    if (batch.success) return c.json({ rows: intake.change(batch.data.rows, faults.isChoosy(c)) });
    return c.json({ error: batch.error.issues.map((i) => `${i.path.join('.') || 'body'}: ${i.message}`) }, 400);
  });
  api.get('/known-outcomes', (c) =>
    c.json({ outcomes: intake.outcomes().map(({ id, made_at }) => ({ code: id, made_at })) }),
  );
  api.post('/known-outcomes', async (c) => {
    const given = knownSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json({ error: ['code: must have 2 to 40 letters, digits, - or _'] }, 400);
    intake.makeOutcome(given.data.code);
    return c.json({ code: given.data.code }, 201);
  });
  api.get('/report/:what', (c) => {
    const what = c.req.param('what');
    const days = daysSchema.safeParse(c.req.query());
    if (what !== 'clicks' && what !== 'spend' && what !== 'outcomes') return c.notFound();
    if (!days.success) return c.json({ error: 'from, to: must be days such as 2027-02-15' }, 400);
    const { from, to } = days.data;
    const rows =
      what === 'outcomes'
        ? intake.report(from, to, surroundings.replaying)
        : what === 'spend'
          ? clicks.spending(from, to)
          : clicks.report(from, to);
    return c.json({ time_zone: account.timeZone, currency: account.currency, rows });
  });
  app.route('/api', api);

  /** Takes many clicks as if each were made at its own time; answers with where each leads. */
  function replayClicks(body: unknown) {
    const { clicks: made } = replayedSchema.parse(body);
    return {
      leadsTo: made.map(({ ad: id, key, at }) => {
        const ad = ads.find((one) => one.id === id)!;
        return fillLink(larkmoor, ad, clicks.take(ad, { key, at }).id);
      }),
    };
  }

  return {
    name: 'quillsearch',
    words: 'Quillsearch, search ads',
    app,
    rest: async () => undefined,
    replays: { clicks: replayClicks },
  };
}
