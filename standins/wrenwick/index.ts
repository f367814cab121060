import { Hono } from 'hono';
import { z } from 'zod';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { accountPage, keyPage, partnerPage, partnersPage } from './pages';
import { fillLink, partners } from './partners';
import { makeSteps, stepSchema } from './steps';

const replayedSchema = z.object({
  partnerClicks: z.array(z.object({ partner: z.string(), key: z.string(), at: z.number() })),
});

/** Wrenwick, a partner network: partners' pages with links, and an address that takes steps one at a time. */
export function makeWrenwick(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('wrenwick');
  const steps = makeSteps(store);
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('wrenwick token')]);
  const larkmoor = surroundings.originOf('larkmoor');
  const links = surroundings.season(partners);
  const app = new Hono();
  const partnerOf = (id: string) => links.find((partner) => partner.id === id);

  app.get('/', (c) => c.html(partnersPage(links)));
  app.get('/partner/:id', (c) => {
    const partner = partnerOf(c.req.param('id'));
    return partner ? c.html(partnerPage(partner)) : c.notFound();
  });
  app.get('/out/:id', (c) => {
    const partner = partnerOf(c.req.param('id'));
    if (!partner) return c.notFound();
    return c.redirect(fillLink(larkmoor, partner, steps.click(partner)), 302);
  });
  app.get('/account', (c) => c.html(accountPage(steps, faults, keys)));
  app.post('/account/keys', (c) => c.html(keyPage(keys)));
  app.post('/account/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/account', 303);
  });

  app.use('/steps/*', faults.middleware);
  app.get('/steps/:advertiser', (c) => {
    if (!keys.isKnown(c.req.param('advertiser'))) return c.json({ said: 'no such advertiser' }, 401);
    const step = stepSchema.safeParse(c.req.query());
    if (!step.success)
      return c.json(
        { said: step.error.issues.map((i) => `${i.path.join('.') || 'names'}: ${i.message}`).join('; ') },
        400,
      );
    const said = faults.isChoosy(c) ? 'not today' : steps.take(step.data);
    return c.json({ said }, said === 'counted' ? 200 : 409);
  });

  /** Takes many clicks as if each were made at its own time; answers with where each leads. */
  function replayClicks(body: unknown) {
    return {
      leadsTo: replayedSchema.parse(body).partnerClicks.map(({ partner: id, key, at }) => {
        const partner = partnerOf(id)!;
        steps.replay(partner.id, key, at);
        return fillLink(larkmoor, partner, key);
      }),
    };
  }

  return {
    name: 'wrenwick',
    words: 'Wrenwick, a partner network',
    app,
    rest: async () => undefined,
    replays: { 'partner-clicks': replayClicks },
  };
}
