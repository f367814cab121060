import { randomUUID } from 'node:crypto';
import { isoNow } from '../shared/clock';
import type { Rows, Store } from '../shared/store';

/** The pipeline, in order; the last one ends a deal. */
export const stages = ['Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed', 'Not this time'];

/** Custom fields with the characters each can hold; longer texts are cut. */
const customFields: Record<string, number> = {
  avx_lead: 40,
  click_id: 120,
  source: 40,
  medium: 40,
  campaign: 18,
  content: 60,
  first_referrer: 120,
  source_words: 80,
  lead_page: 160,
  first_campaign: 40,
  source_1: 40,
  source_2: 40,
  source_3: 40,
};
export const amountFields = ['lease_profit'];

export interface Person {
  id: string;
  name: string;
  mail: string;
  telephone: string;
  company: string;
  company_id: string | null;
  /** Numbers of the people that were merged into this one. */
  merged: string[];
}
interface Company {
  id: string;
  name: string;
}
/** Under a key of whoever wrote it, by which a repeat is known. */
export interface Note {
  key: string;
  text: string;
  at: string;
}
export interface Deal {
  id: string;
  person: string;
  stage: string;
  made_at: string;
  changed_at: string;
  fields: Record<string, string>;
  amounts: Record<string, { amount: string; currency: string }>;
  /** `by`: who moved it; '' for nobody that is known, such as a program. */
  moves: { stage: string; at: string; by?: string }[];
  /** Missing where it never had one. */
  notes?: Note[];
  /** Numbers of the deals that were merged into this one. */
  merged: string[];
}
/** A deal that is no longer there: deleted, or merged into another. */
export interface Gone {
  id: string;
  changed_at: string;
  merged_into: string | null;
}
export interface NewDeal {
  person: Pick<Person, 'name' | 'mail' | 'telephone' | 'company'>;
  fields: Record<string, string>;
  amounts: Deal['amounts'];
}
export type Deals = ReturnType<typeof makeDeals>;

/** People, companies and deals. `changed` is called with each deal that was made, changed, merged or deleted. */
export function makeDeals(store: Store, changed: (kind: string, deal: string) => void) {
  const people: Rows<Person> = store.rows('people');
  const companies: Rows<Company> = store.rows('companies');
  const deals: Rows<Deal> = store.rows('deals');
  const gone: Rows<Gone> = store.rows('gone deals');
  const deletedFields: Rows<{ id: string }> = store.rows('deleted fields');
  /** Custom fields that are not deleted, with the characters each can hold. */
  const fieldsNow = () => Object.fromEntries(Object.entries(customFields).filter(([name]) => !deletedFields.get(name)));
  /** The texts that fields can hold, and the names of those that there are none of. */
  const readFields = (given: Record<string, string>) => {
    const now = fieldsNow();
    const known = Object.entries(given).filter(([name]) => Object.hasOwn(now, name));
    return {
      held: Object.fromEntries(known.map(([name, value]) => [name, value.slice(0, now[name])])),
      ignored: Object.keys(given).filter((name) => !Object.hasOwn(now, name)),
    };
  };

  const companyOf = (name: string): Company | null => {
    if (name === '') return null;
    const known = companies.all().find((company) => company.name.toLowerCase() === name.toLowerCase());
    const company = known ?? { id: `C-${companies.made() + 301}`, name };
    if (!known) companies.put(company);
    return company;
  };
  const dealsOf = (person: string) => deals.all().filter((deal) => deal.person === person);
  const touch = (deal: Deal) => {
    deals.put({ ...deal, changed_at: isoNow() });
    changed('deal written', deal.id);
  };
  const takeOut = (kind: string, { id }: Deal, into: string | null) => {
    deals.remove(id);
    gone.put({ id, changed_at: isoNow(), merged_into: into });
    changed(kind, id);
  };

  return {
    all: () => deals.all(),
    person: (id: string) => people.get(id)!,
    get: (id: string) => deals.get(id),
    fields: fieldsNow,
    deletedFields: () => deletedFields.all().map(({ id }) => id),
    /** Deletes a custom field with what every deal holds in it, or makes it again, empty. Returns what is wrong, or ''. */
    setField(name: string, there: boolean): string {
      if (!Object.hasOwn(customFields, name)) return 'field: must be one of the custom fields';
      if (there) deletedFields.remove(name);
      else deletedFields.put({ id: name });
      for (const deal of there ? [] : deals.all()) {
        const fields = Object.entries(deal.fields).filter(([field]) => field !== name);
        deals.put({ ...deal, fields: Object.fromEntries(fields) });
      }
      return '';
    },
    gone: (id: string) => gone.get(id),

    /** Deals changed or gone from an instant on (RFC 3339 in UTC), the oldest change first. */
    changedSince: (since: string) =>
      [...deals.all(), ...gone.all()]
        .map(({ id, changed_at }) => ({ id, changed_at }))
        .filter((deal) => deal.changed_at >= since)
        .sort((a, b) => (a.changed_at < b.changed_at ? -1 : 1)),

    /** Makes a deal, and its person where nobody of that name has the mail address yet. Returns the names of fields it does not know. */
    make({ person, fields, amounts }: NewDeal): { id: string; ignored: string[] } {
      const plain = ({ name, mail }: Pick<Person, 'name' | 'mail'>) => `${name} ${mail}`.toLowerCase();
      const same = people.all().find((one) => plain(one) === plain(person));
      const owner: Person = {
        ...person,
        id: same?.id ?? `P-${people.made() + 1001}`,
        company_id: companyOf(person.company)?.id ?? null,
        merged: same?.merged ?? [],
      };
      people.put(owner);
      const { held, ignored } = readFields(fields);
      const at = isoNow();
      const deal: Deal = {
        id: `D-${deals.made() + 5001}`,
        person: owner.id,
        stage: stages[0]!,
        made_at: at,
        changed_at: at,
        fields: { ...Object.fromEntries(Object.keys(fieldsNow()).map((name) => [name, ''])), ...held },
        amounts,
        moves: [{ stage: stages[0]!, at }],
        merged: [],
      };
      deals.put(deal);
      changed('deal made', deal.id);
      return { id: deal.id, ignored };
    },

    /** Writes custom fields, each cut to its length. Returns the names of fields it does not know. */
    write(deal: Deal, fields: Record<string, string>): string[] {
      const { held, ignored } = readFields(fields);
      deals.put({ ...deal, changed_at: isoNow(), fields: { ...deal.fields, ...held } });
      changed('deal written', deal.id);
      return ignored;
    },

    /** Takes a deal out for good; its person stays. */
    remove: (deal: Deal): void => takeOut('deal deleted', deal, null),

    /** Makes one deal of two: what the one that stays has empty it takes from the other. Returns what is wrong, or ''. */
    merge(deal: Deal, into: string): string {
      const stays = deals.get(into);
      if (!stays || stays.id === deal.id) return 'into: must be the number of another deal';
      const fields = Object.entries(stays.fields).map(([name, value]) => [name, value || (deal.fields[name] ?? '')]);
      takeOut('deal merged', deal, stays.id);
      touch({
        ...stays,
        fields: Object.fromEntries(fields) as Record<string, string>,
        amounts: { ...deal.amounts, ...stays.amounts },
        merged: [...stays.merged, deal.id, ...deal.merged],
      });
      return '';
    },

    /** Makes one person of two: the deals of both are those of the one that stays. Returns what is wrong, or ''. */
    mergePeople(id: string, into: string): string {
      const [person, stays] = [people.get(id), people.get(into)];
      if (!person) return 'person: not known';
      if (!stays || stays.id === id) return 'into: must be the number of another person';
      people.put({ ...stays, merged: [...stays.merged, id, ...person.merged] });
      people.remove(id);
      const moved = dealsOf(id).map((deal) => ({ ...deal, person: into }));
      for (const deal of [...dealsOf(into), ...moved]) touch(deal);
      return '';
    },

    /** Adds a note, unless the deal has it already. */
    note(deal: Deal, key: string, text: string): void {
      const notes = deal.notes ?? [];
      if (notes.some((note) => note.key === key)) return;
      touch({ ...deal, notes: [...notes, { key, text, at: isoNow() }] });
    },

    /** Deals of a stage ('' for every one) whose number, person, company or mail holds a text. */
    find(text: string, stage: string): Deal[] {
      const needle = text.toLowerCase();
      return deals
        .all()
        .filter((deal) => stage === '' || deal.stage === stage)
        .filter((deal) => {
          const { name, company, mail } = people.get(deal.person)!;
          return `${deal.id} ${name} ${company} ${mail}`.toLowerCase().includes(needle);
        });
    },

    move(deal: Deal, stage: string, by = ''): void {
      if (deal.stage === stage) return;
      const at = isoNow();
      deals.put({ ...deal, stage, changed_at: at, moves: [...deal.moves, { stage, at, by }] });
      changed('deal moved', deal.id);
    },

    revalue(deal: Deal, field: string, amount: { amount: string; currency: string }): void {
      deals.put({ ...deal, changed_at: isoNow(), amounts: { ...deal.amounts, [field]: amount } });
      changed('deal revalued', deal.id);
    },
  };
}

export const newEventId = () => `E-${randomUUID()}`;
