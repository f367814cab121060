import { z } from 'zod';
import { readAmount, type Money } from '../../outcomes';
import type { ReadRecord } from '../contract';

export const time = z.iso.datetime({ offset: true }).transform((text) => Date.parse(text));

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

/** A deal as Oakledger's API returns it. An amount that is none is left out. */
export function readDeal(body: unknown): ReadRecord {
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
