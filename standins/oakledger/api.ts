import { Hono } from 'hono';
import { z } from 'zod';
import type { Keys } from '../shared/keys';
import { stages, type Deal, type Deals } from './deals';

const amountSchema = z.strictObject({
  amount: z.string().regex(/^\d{1,9}(\.\d{1,2})?$/, 'must be a decimal number such as "540.00"'),
  currency: z.enum(['GBP', 'EUR']),
});
const newDealSchema = z.strictObject({
  person: z.strictObject({
    name: z.string().min(1).max(80),
    mail: z.email().max(120),
    telephone: z.string().max(40),
    company: z.string().max(80),
  }),
  fields: z.record(z.string().max(60), z.string().max(4000)),
  amounts: z.strictObject({ lease_profit: amountSchema.optional() }).transform((given) => ({
    ...(given.lease_profit ? { lease_profit: given.lease_profit } : {}),
  })),
});
const mostChanges = 500;
const fieldsSchema = z.strictObject({ fields: z.record(z.string().max(60), z.string().max(4000)) });
const noteSchema = z.strictObject({ key: z.string().min(1).max(60), text: z.string().min(1).max(4000) });
const mergeSchema = z.strictObject({ into: z.string().min(1).max(60) });
const moveSchema = z.strictObject({ stage: z.enum(stages) });

/** The REST interface: JSON, a bearer token, errors that name the place. */
export function makeApi(deals: Deals, campaigns: Hono, keys: Keys) {
  const api = new Hono();

  const described = (deal: Deal) => ({ ...deal, person: deals.person(deal.person) });
  const wrong = (error: z.ZodError) => ({
    error: error.issues.map((issue) => `${issue.path.join('.') || 'body'}: ${issue.message}`),
  });

  api.use('*', async (c, next) => {
    const token = /^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1] ?? '';
    return keys.isKnown(token) ? next() : c.json({ error: ['token: unknown'] }, 401);
  });
  api.route('/', campaigns);
  api.post('/deals', async (c) => {
    const given = newDealSchema.safeParse(await c.req.json().catch(() => null));
    return given.success ? c.json(deals.make(given.data), 201) : c.json(wrong(given.error), 422);
  });
  api.get('/changes', (c) => {
    const since = z.iso.datetime().safeParse(c.req.query('since'));
    if (!since.success) return c.json({ error: ['since: must be a time such as 2027-02-15T12:00:00Z'] }, 400);
    const changed = deals.changedSince(new Date(since.data).toISOString());
    return c.json({
      deals: changed.slice(0, mostChanges).map(({ id, changed_at }) => ({ deal: id, changed_at })),
      more: changed.length > mostChanges,
    });
  });
  api.get('/deal-fields', (c) =>
    c.json({
      fields: Object.entries(deals.fields()).map(([name, length]) => ({
        name,
        label: name.replace(/_/g, ' '),
        length,
      })),
    }),
  );
  api.get('/stages', (c) =>
    c.json({ stages: stages.map((name, place) => ({ name, ends: place === stages.length - 1 })) }),
  );
  api.get('/deals', (c) => {
    const mail = c.req.query('mail')?.toLowerCase();
    if (!mail) return c.json({ error: ['mail: name the person’s mail address'] }, 400);
    const found = deals.all().filter((deal) => deals.person(deal.person).mail.toLowerCase() === mail);
    return c.json({ deals: found.map(described) });
  });
  api.get('/deals/:id', (c) => {
    const deal = deals.get(c.req.param('id'));
    if (deal) return c.json(described(deal));
    const into = deals.gone(c.req.param('id'))?.merged_into;
    return into ? c.json({ id: c.req.param('id'), merged_into: into }) : c.json({ error: ['deal: not known'] }, 404);
  });
  api.post('/deals/:id/merge', async (c) => {
    const deal = deals.get(c.req.param('id'));
    if (!deal) return c.json({ error: ['deal: not known'] }, 404);
    const given = mergeSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json(wrong(given.error), 422);
    const refused = deals.merge(deal, given.data.into);
    return refused ? c.json({ error: [refused] }, 422) : c.body(null, 204);
  });
  api.post('/people/:id/merge', async (c) => {
    const given = mergeSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json(wrong(given.error), 422);
    const refused = deals.mergePeople(c.req.param('id'), given.data.into);
    return refused ? c.json({ error: [refused] }, 422) : c.body(null, 204);
  });
  api.delete('/deals/:id', (c) => {
    const deal = deals.get(c.req.param('id'));
    if (!deal) return c.json({ error: ['deal: not known'] }, 404);
    deals.remove(deal);
    return c.body(null, 204);
  });
  api.post('/deals/:id/fields', async (c) => {
    const deal = deals.get(c.req.param('id'));
    if (!deal) return c.json({ error: ['deal: not known'] }, 404);
    const given = fieldsSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json(wrong(given.error), 422);
    return c.json({ ignored: deals.write(deal, given.data.fields) });
  });
  api.post('/deals/:id/notes', async (c) => {
    const deal = deals.get(c.req.param('id'));
    if (!deal) return c.json({ error: ['deal: not known'] }, 404);
    const given = noteSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json(wrong(given.error), 422);
    deals.note(deal, given.data.key, given.data.text);
    return c.body(null, 204);
  });
  api.post('/deals/:id/stage', async (c) => {
    const deal = deals.get(c.req.param('id'));
    if (!deal) return c.json({ error: ['deal: not known'] }, 404);
    const given = moveSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success) return c.json(wrong(given.error), 422);
    deals.move(deal, given.data.stage);
    return c.body(null, 204);
  });
  return api;
}
