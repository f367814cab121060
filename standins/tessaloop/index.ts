import { randomBytes } from 'node:crypto';
import { Hono } from 'hono';
import { z } from 'zod';
import { nowMs } from '../shared/clock';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { linkSchema, makeLeadForms, places, sentSchema } from './lead-forms';
import { makeNotes, noteSchema } from './notes';
import { openerScript } from './opener';
import { accountPage, feedPage, formPage, frame, sentPage } from './pages';
import { campaign, fillLink, posts } from './posts';

const daysSchema = z.object({ from: z.iso.date(), to: z.iso.date() });
const replayedLeadSchema = sentSchema.extend({ form: z.string() });

/** Tessaloop, a social feed: posts with links and forms, an opener for advertisers' pages, an intake of single events. */
export function makeTessaloop(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('tessaloop');
  const notes = makeNotes(store);
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('tessaloop key')]);
  const larkmoor = surroundings.originOf('larkmoor');
  const forms = makeLeadForms(store, larkmoor, (key, of) => notes.click(key, nowMs(), 'form', of));
  const app = new Hono();

  app.get('/', (c) => c.html(feedPage(posts)));
  app.get('/out/:id', (c) => {
    const post = posts.find(({ id }) => id === c.req.param('id'));
    if (!post) return c.notFound();
    const key = `tl-${randomBytes(9).toString('base64url')}`;
    notes.click(key, nowMs(), 'press', { campaign, ad: post.isPaid ? post.ad : '' });
    return c.redirect(fillLink(larkmoor, post, key), 302);
  });
  app.get('/form/:id', (c) => {
    const form = forms.get(c.req.param('id'));
    if (!form) return c.notFound();
    const place = places.find((one) => one === c.req.query('place')) ?? 'feed';
    return c.html(formPage(form, place, c.req.query('ad') ?? ''));
  });
  app.post('/form/:id', async (c) => {
    const form = forms.get(c.req.param('id'));
    if (!form) return c.notFound();
    const given = sentSchema.safeParse(await c.req.parseBody());
    if (!given.success) return c.text(wrong(given.error).join('\n'), 422);
    forms.send(form, given.data);
    return c.html(sentPage(form));
  });
  app.get('/account', (c) => c.html(accountPage(notes, forms, faults, keys)));
  app.post('/account/keys', (c) => c.html(frame('Key', keys.fresh(keys.make(), '/account'))));
  app.post('/account/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/account', 303);
  });

  app.get('/opener.js', (c) =>
    c.body(openerScript(surroundings.originOf('tessaloop')), 200, {
      'content-type': 'text/javascript; charset=utf-8',
      'cache-control': 'public, max-age=60',
    }),
  );
  /** What pages tell, from whatever website. */
  app.use('/seen', async (c, next) => {
    c.header('access-control-allow-origin', '*');
    await next();
  });
  app.use('/seen', faults.middleware);
  app.post('/seen', async (c) => {
    const given = noteSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json({ why: wrong(given.error) }, 400);
    return c.json({ word: notes.take(given.data, 'page') });
  });

  app.use('/intake', faults.middleware);
  app.post('/intake', async (c) => {
    const token = /^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1] ?? '';
    if (!keys.isKnown(token)) return c.json({ why: 'key not known' }, 401);
    const given = noteSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json({ why: wrong(given.error) }, 400);
    const word = faults.isChoosy(c) ? 'not today' : notes.take(given.data, 'server', c.req.query('try') === 'yes');
    return c.json({ word }, word.startsWith('noted') ? 200 : 409);
  });

  for (const path of ['/lead-forms', '/lead-forms/*', '/leads', '/report/*'])
    app.use(path, faults.middleware, async (c, next) => {
      const token = /^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1] ?? '';
      return keys.isKnown(token) ? next() : c.json({ why: 'key not known' }, 401);
    });
  app.get('/lead-forms', (c) =>
    c.json({ forms: forms.all().map(({ id, title, link }) => ({ form: id, title, link })) }),
  );
  app.post('/lead-forms/:id/link', async (c) => {
    const form = forms.get(c.req.param('id'));
    if (!form) return c.json({ why: 'form not known' }, 404);
    const given = linkSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json({ why: wrong(given.error) }, 400);
    forms.relink(form, given.data.link);
    return c.body(null, 204);
  });
  app.get('/leads', (c) => {
    const { leads, more } = forms.sentAfter(c.req.query('after') ?? '');
    return c.json({ leads: leads.map(({ id, ...lead }) => ({ lead: id, ...lead })), more });
  });

  app.get('/report/:about', (c) => {
    const about = c.req.param('about');
    if (about !== 'spent' && about !== 'noted') return c.notFound();
    const days = daysSchema.safeParse(c.req.query());
    if (!days.success) return c.json({ why: wrong(days.error) }, 400);
    const { from, to } = days.data;
    return c.json({
      days: 'UTC',
      money: 'GBP',
      rows: about === 'spent' ? notes.spent(from, to) : notes.noted(from, to),
    });
  });

  /** Takes what somebody sends with a form, now. */
  function replayLead(body: unknown) {
    const { form, ...sent } = replayedLeadSchema.parse(body);
    forms.send(forms.get(form)!, sent);
    return { taken: 1 };
  }

  return {
    name: 'tessaloop',
    words: 'Tessaloop, a social feed',
    app,
    rest: async () => undefined,
    replays: { 'platform-lead': replayLead },
  };
}

const wrong = ({ issues }: z.ZodError) => issues.map((i) => `${i.path.join('.') || 'body'}: ${i.message}`);
