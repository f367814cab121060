import { z } from 'zod';
import type { AskedCrm } from '../contract';
import { oakledgerCampaigns } from './campaigns';
import { readDeal, time } from './deal';

const changesSchema = z.object({
  deals: z.array(z.object({ deal: z.string(), changed_at: time })),
  more: z.boolean(),
});
const fieldsSchema = z.object({
  fields: z.array(z.object({ name: z.string(), label: z.string(), length: z.number().int().positive() })),
});
const ignoredSchema = z.object({ ignored: z.array(z.string()) });
const stagesSchema = z.object({ stages: z.array(z.object({ name: z.string(), ends: z.boolean() })) });
const webhookSchema = z.object({
  event: z.string().max(60),
  kind: z.string().max(40),
  deal: z.string().max(60),
  at: time,
});

const at = (deal: string) => `/api/deals/${encodeURIComponent(deal)}`;

/** Oakledger's contract. Its changes come up to 500 at a time, its webhooks name a deal and nothing of it. */
export const oakledger: AskedCrm = {
  gives: 'numbers',
  kind: 'oakledger',
  words: 'Oakledger',
  authorised: 'bearer',
  callsPerMinute: 600,
  record: (deal) => ({ request: { method: 'GET', path: at(deal) }, read: readDeal }),
  changes: (since) => ({
    request: { method: 'GET', path: `/api/changes?since=${encodeURIComponent(new Date(since).toISOString())}` },
    read: (body) => {
      const { deals, more } = changesSchema.parse(body);
      return { changes: deals.map(({ deal, changed_at }) => ({ deal, changedAt: changed_at })), more };
    },
  }),
  fields: {
    request: { method: 'GET', path: '/api/deal-fields' },
    read: (body) => fieldsSchema.parse(body).fields.map(({ name, label, length }) => ({ name, words: label, length })),
  },
  stages: {
    request: { method: 'GET', path: '/api/stages' },
    read: (body) => {
      const { stages } = stagesSchema.parse(body);
      const named = (ends: boolean) => stages.filter((stage) => stage.ends === ends).map(({ name }) => name);
      return { inOrder: named(false), ended: named(true) };
    },
  },
  write: (deal, fields) => ({
    request: { method: 'POST', path: `${at(deal)}/fields`, body: { fields } },
    read: (body) => ignoredSchema.parse(body).ignored,
  }),
  move: (deal, stage) => ({ method: 'POST', path: `${at(deal)}/stage`, body: { stage } }),
  note: (deal, text, key) => ({ method: 'POST', path: `${at(deal)}/notes`, body: { key, text } }),
  make: ({ name, ...person }, fields) => ({
    // It wants everybody to have a name.
    request: {
      method: 'POST',
      path: '/api/deals',
      body: { person: { ...person, name: name || person.mail }, fields, amounts: {} },
    },
    read: (body) => z.object({ id: z.string() }).parse(body).id,
  }),
  remove: (deal) => ({ method: 'DELETE', path: at(deal) }),
  webhook: {
    sealHeader: 'oakledger-seal',
    sentHeader: 'oakledger-sent',
    sealed: (body, sent) => `${sent}.${body}`,
    body: webhookSchema,
  },
  campaigns: oakledgerCampaigns,
};
