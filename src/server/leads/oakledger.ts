import { z } from 'zod';
import type { CrmRecord } from '../../core/leads';
import { readAmount, type Money } from '../../core/outcomes';
import type { HttpClient } from '../http';
import type { Account } from '../platforms/accounts';
import { callAccount } from '../platforms/call';

const time = z.iso.datetime({ offset: true }).transform((text) => Date.parse(text));

const dealSchema = z.object({
  id: z.string(),
  stage: z.string(),
  made_at: time,
  changed_at: time,
  person: z.object({
    id: z.string(),
    name: z.string(),
    mail: z.string(),
    company: z.string(),
    telephone: z.string().default(''),
  }),
  fields: z.record(z.string(), z.string()),
  amounts: z.record(z.string(), z.object({ amount: z.string(), currency: z.string() })),
  moves: z.array(z.object({ stage: z.string(), at: time })),
});

/** A deal as Oakledger's API returns it, with the person's mail address and telephone apart, since they are stored only hashed. */
export async function readDeal(
  http: HttpClient,
  account: Account,
  deal: string,
): Promise<{ record: CrmRecord; mail: string; telephone: string }> {
  const body = await callAccount(http, account, `/api/deals/${encodeURIComponent(deal)}`);
  const { id, stage, made_at, changed_at, person, fields, amounts, moves } = dealSchema.parse(body);
  const money: Record<string, Money> = {};
  for (const [name, { amount, currency }] of Object.entries(amounts)) {
    const read = readAmount(amount, currency);
    if (read) money[name] = read;
  }
  return {
    mail: person.mail,
    telephone: person.telephone,
    record: {
      deal: id,
      person: person.id,
      personName: person.name,
      company: person.company,
      madeAt: made_at,
      changedAt: changed_at,
      stage,
      stageChanges: moves,
      fields,
      amounts: money,
    },
  };
}

const changesSchema = z.object({
  deals: z.array(z.object({ deal: z.string(), changed_at: time })),
  more: z.boolean(),
});

/** Deals that Oakledger changed from `since` (ms) on, the oldest change first, up to 500; `more` where there are others. */
export async function readChanges(http: HttpClient, account: Account, since: number) {
  const at = encodeURIComponent(new Date(since).toISOString());
  return changesSchema.parse(await callAccount(http, account, `/api/changes?since=${at}`));
}

/** What a webhook of Oakledger says: that something happened to a deal. The record itself is read back. */
export const webhookSchema = z.object({
  event: z.string().max(60),
  kind: z.string().max(40),
  deal: z.string().max(60),
  at: time,
});
