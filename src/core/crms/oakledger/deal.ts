import { z } from 'zod';
import { readAmount, type Money } from '../../outcomes';
import type { MergedRecord, ReadRecord } from '../contract';

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
    company_id: z.string().nullable().default(null),
    telephone: z.string().default(''),
    merged: z.array(z.string().max(60)).default([]),
  }),
  merged: z.array(z.string().max(60)).default([]),
  fields: z.record(z.string(), z.string()),
  amounts: z.record(z.string(), z.object({ amount: z.string(), currency: z.string() })),
  moves: z.array(z.object({ stage: z.string(), at: time, by: z.string().max(80).default('') })),
});

const mergedSchema = z.object({ merged_into: z.string().max(60) });

/** A deal as Oakledger's API returns it, or which one it was merged into. An amount that is none is left out. */
export function readDeal(body: unknown): ReadRecord | MergedRecord {
  const gone = mergedSchema.safeParse(body);
  if (gone.success) return { mergedInto: gone.data.merged_into };
  const { id, stage, made_at, changed_at, person, fields, amounts, moves, merged } = dealSchema.parse(body);
  const money: Record<string, Money> = {};
  for (const [name, { amount, currency }] of Object.entries(amounts)) {
    const read = readAmount(amount, currency);
    if (read) money[name] = read;
  }
  return {
    mail: person.mail,
    telephone: person.telephone,
    companyNumber: person.company_id ?? '',
    merged: { people: person.merged, records: merged },
    record: {
      deal: id,
      person: person.id,
      personName: person.name,
      company: person.company,
      madeAt: made_at,
      changedAt: changed_at,
      stage,
      stageChanges: moves.map(({ by, ...move }) => (by === '' ? move : { ...move, by })),
      fields,
      amounts: money,
    },
  };
}
