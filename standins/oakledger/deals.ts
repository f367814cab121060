import { randomUUID } from 'node:crypto';
import { isoNow } from '../shared/clock';
import type { Rows, Store } from '../shared/store';

/** The pipeline, in order; the last one ends a deal. */
export const stages = ['Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed', 'Not this time'];

/** Custom fields with the characters each can hold; longer texts are cut. */
export const customFields: Record<string, number> = {
  avx_lead: 40,
  click_id: 120,
  source: 40,
  medium: 40,
  campaign: 18,
  content: 60,
  first_referrer: 120,
};
export const amountFields = ['lease_profit'];

export interface Person {
  id: string;
  name: string;
  mail: string;
  telephone: string;
  company: string;
}
export interface Deal {
  id: string;
  person: string;
  stage: string;
  made_at: string;
  changed_at: string;
  fields: Record<string, string>;
  amounts: Record<string, { amount: string; currency: string }>;
  moves: { stage: string; at: string }[];
}
export interface NewDeal {
  person: Omit<Person, 'id'>;
  fields: Record<string, string>;
  amounts: Deal['amounts'];
}
export type Deals = ReturnType<typeof makeDeals>;

/** People and their deals. `changed` is called with each deal that was made, moved or revalued. */
export function makeDeals(store: Store, changed: (kind: string, deal: string) => void) {
  const people: Rows<Person> = store.rows('people');
  const deals: Rows<Deal> = store.rows('deals');

  return {
    all: () => deals.all(),
    person: (id: string) => people.get(id)!,
    get: (id: string) => deals.get(id),

    /** Deals changed from an instant on (RFC 3339 in UTC), the oldest change first. */
    changedSince: (since: string) =>
      deals
        .all()
        .filter((deal) => deal.changed_at >= since)
        .sort((a, b) => (a.changed_at < b.changed_at ? -1 : 1)),

    /** Makes a deal, and its person where the mail address is new. Returns the names of fields it does not know. */
    make({ person, fields, amounts }: NewDeal): { id: string; ignored: string[] } {
      const same = people.all().find((p) => p.mail.toLowerCase() === person.mail.toLowerCase());
      const owner = { ...person, id: same?.id ?? `P-${people.all().length + 1001}` };
      people.put(owner);
      const known = Object.entries(fields).filter(([name]) => name in customFields);
      const at = isoNow();
      const deal: Deal = {
        id: `D-${deals.made() + 5001}`,
        person: owner.id,
        stage: stages[0]!,
        made_at: at,
        changed_at: at,
        fields: Object.fromEntries([
          ...Object.keys(customFields).map((name) => [name, '']),
          ...known.map(([name, value]) => [name, value.slice(0, customFields[name])]),
        ]) as Record<string, string>,
        amounts,
        moves: [{ stage: stages[0]!, at }],
      };
      deals.put(deal);
      changed('deal made', deal.id);
      return { id: deal.id, ignored: Object.keys(fields).filter((name) => !(name in customFields)) };
    },

    /** Writes custom fields, each cut to its length. Returns the names of fields it does not know. */
    write(deal: Deal, fields: Record<string, string>): string[] {
      const known = Object.entries(fields).filter(([name]) => name in customFields);
      const written = Object.fromEntries(known.map(([name, value]) => [name, value.slice(0, customFields[name])]));
      deals.put({ ...deal, changed_at: isoNow(), fields: { ...deal.fields, ...written } });
      changed('deal written', deal.id);
      return Object.keys(fields).filter((name) => !(name in customFields));
    },

    /** Takes a deal out for good; its person stays. Nobody is told. */
    remove: (deal: Deal): void => deals.remove(deal.id),

    move(deal: Deal, stage: string): void {
      if (deal.stage === stage) return;
      const at = isoNow();
      deals.put({ ...deal, stage, changed_at: at, moves: [...deal.moves, { stage, at }] });
      changed('deal moved', deal.id);
    },

    revalue(deal: Deal, field: string, amount: { amount: string; currency: string }): void {
      deals.put({ ...deal, changed_at: isoNow(), amounts: { ...deal.amounts, [field]: amount } });
      changed('deal revalued', deal.id);
    },
  };
}

export const newEventId = () => `E-${randomUUID()}`;
