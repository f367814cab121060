import { Hono } from 'hono';
import { html } from 'hono/html';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { makeApi } from './api';
import { makeCampaigns } from './campaigns';
import { makeDeals, stages } from './deals';
import { hookWays, makeHooks, type HookWay } from './hooks';
import { dealPage, dealsPage } from './pages';
import { keyPage, programsPage } from './programs';

/** Oakledger, a CRM: people, deals with stages and custom fields, REST with a token, signed webhooks. */
export function makeOakledger(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('oakledger');
  const hooks = makeHooks(store, surroundings.hook, surroundings.key('oakledger webhook secret'));
  const deals = makeDeals(store, hooks.owe);
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('oakledger website token'), surroundings.key('oakledger token')]);
  const campaigns = makeCampaigns(store, surroundings);
  const app = new Hono();

  app.use('/api/*', faults.middleware);
  app.post('/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/', 303);
  });
  app.post('/hooks', async (c) => {
    const { way } = await c.req.parseBody<{ way: string }>();
    if (!Object.hasOwn(hookWays, way)) return c.text('way: must be once, twice or missing', 422);
    hooks.setWay(way as HookWay);
    return c.redirect('/', 303);
  });
  app.get('/programs', (c) => c.html(programsPage(keys, hooks, deals)));
  app.post('/programs/keys', (c) => c.html(keyPage(keys)));
  app.post('/programs/hook', async (c) => {
    const { url, secret } = await c.req.parseBody<{ url: string; secret: string }>();
    if (url && !URL.canParse(url)) return c.text('url: must be an address', 422);
    hooks.setTarget(url.trim(), secret.trim());
    return c.redirect('/programs', 303);
  });
  app.post('/programs/fields', async (c) => {
    const { deleted = '', made = '' } = await c.req.parseBody<{ deleted?: string; made?: string }>();
    const wrong = deals.setField(made || deleted, made !== '');
    return wrong ? c.text(wrong, 422) : c.redirect('/programs', 303);
  });
  app.post('/move-many', async (c) => {
    const { find = '', stage = '', to = '', by = '' } = await c.req.parseBody<Record<string, string>>();
    if (!stages.includes(to)) return c.text('to: must be a stage', 422);
    for (const deal of deals.find(find, stage)) deals.move(deal, to, by);
    return c.redirect('/', 303);
  });
  app.route('/campaigns', campaigns.pages);
  app.route('/api', makeApi(deals, campaigns.api, keys));
  app.get('/', (c) =>
    c.html(
      dealsPage(deals, html`${faults.form('/faults')} ${hooks.form()}`, {
        find: c.req.query('find') ?? '',
        stage: c.req.query('stage') ?? '',
        page: Number(c.req.query('page')) || 1,
      }),
    ),
  );
  app.get('/deals/:id', (c) => {
    const deal = deals.get(c.req.param('id'));
    return deal ? c.html(dealPage(deal, deals, hooks.ofDeal(deal.id))) : c.notFound();
  });
  app.post('/deals/:id/stage', async (c) => {
    const deal = deals.get(c.req.param('id'));
    const { stage, by = '' } = await c.req.parseBody<{ stage: string; by?: string }>();
    if (!deal || !stages.includes(stage)) return c.notFound();
    deals.move(deal, stage, by);
    return c.redirect(`/deals/${deal.id}`, 303);
  });
  app.post('/deals/:id/amount', async (c) => {
    const deal = deals.get(c.req.param('id'));
    const { amount, currency } = await c.req.parseBody<{ amount: string; currency: string }>();
    if (!deal || !/^\d{1,9}(\.\d{1,2})?$/.test(amount) || !['GBP', 'EUR'].includes(currency))
      return c.text('amount: must be a decimal number such as 540.00, in GBP or EUR', 422);
    deals.revalue(deal, 'lease_profit', { amount, currency });
    return c.redirect(`/deals/${deal.id}`, 303);
  });
  app.post('/deals/:id/merge', async (c) => {
    const deal = deals.get(c.req.param('id'));
    const { into } = await c.req.parseBody<{ into: string }>();
    if (!deal) return c.notFound();
    const wrong = deals.merge(deal, into.trim());
    return wrong ? c.text(wrong, 422) : c.redirect(`/deals/${into.trim()}`, 303);
  });
  app.post('/deals/:id/person', async (c) => {
    const deal = deals.get(c.req.param('id'));
    const { into } = await c.req.parseBody<{ into: string }>();
    if (!deal) return c.notFound();
    const wrong = deals.mergePeople(deal.person, into.trim());
    return wrong ? c.text(wrong, 422) : c.redirect(`/deals/${deal.id}`, 303);
  });
  app.post('/deals/:id/delete', (c) => {
    const deal = deals.get(c.req.param('id'));
    if (!deal) return c.notFound();
    deals.remove(deal);
    return c.redirect('/', 303);
  });
  return { name: 'oakledger', words: 'Oakledger, the CRM', app, rest: hooks.rest };
}
