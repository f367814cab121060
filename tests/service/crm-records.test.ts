import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pollCrm, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, outside, place, move, qualify, rest, sealedBy, strandOf, time } from './walks';

/* People, companies and deals as the CRM has them: several deals of an enquiry, mergers, deletions, mailboxes of many. */

interface Person {
  name: string;
  mail: string;
  company: string;
  telephone?: string;
}

async function makeDeal(person: Person, fields: Record<string, string> = {}): Promise<string> {
  const amounts = { lease_profit: { amount: '540', currency: 'GBP' } };
  const made = await crm('/api/deals', { person: { telephone: '', ...person }, fields, amounts });
  const { id } = (await made.json()) as { id: string };
  return id;
}
const read = async () => {
  await deliver();
  await rest();
};
const remove = (deal: string) =>
  outside.oakledger.app.request(`/api/deals/${deal}`, {
    method: 'DELETE',
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });

interface Row {
  enquiry: string;
  lead: string;
  person: string;
  number: string;
  gone: number;
  into: string;
  strand: string;
  touch: string | null;
  stage: string | null;
  joined: string | null;
  crm_person: string;
}
const dealRows = () =>
  rowsOf<Row>(
    place.db,
    `SELECT d.number, d.enquiry_id AS enquiry, l.id AS lead, l.person_id AS person, l.crm_person, d.gone_at IS NOT NULL AS gone,
       d.merged_into AS \`into\`, e.strand_id AS strand, e.touch_id AS touch, e.stage, e.joined_by AS joined
     FROM deals d JOIN leads l ON l.id = d.lead_id JOIN enquiries e ON e.id = d.enquiry_id ORDER BY d.number`,
  );
const dealOf = async (number: string) => (await dealRows()).find((row) => row.number === number)!;
const qualifiedOf = async (enquiry: string) =>
  (
    await rowsOf<{ state: string; reason: { code: string } | null }>(
      place.db,
      "SELECT state, reason FROM hops WHERE subject_id = ? AND hop = 'qualified'",
      [enquiry],
    )
  )[0];

describe('an enquiry', () => {
  it('keeps both of two deals that name its lead token, and is as far as the one that is further', async () => {
    const { deal, qsid } = await ask();
    const { leadToken } = (
      await rowsOf<{ leadToken: string }>(
        place.db,
        'SELECT lead_token AS leadToken FROM enquiries WHERE id = (SELECT enquiry_id FROM deals WHERE number = ?)',
        [deal],
      )
    )[0]!;
    const person = { name: 'Cara Moss', mail: 'cara@moss.example', company: 'Moss & Son' };
    const second = await makeDeal(person, { avx_lead: leadToken });
    await read();
    expect((await dealOf(second)).enquiry).toBe((await dealOf(deal)).enquiry);
    await qualify(second, 'Spoken');
    expect((await dealOf(deal)).stage).toBe('Spoken');
    await qualify(deal);
    expect(await strandOf(qsid)).toMatchObject({ reached: 8, state: null });
  });

  it('gives its touch to a deal that sales makes by hand for the same person, even when it is read before', async () => {
    // Its form is the newest one.
    move(time + 60_000);
    const { deal, qsid } = await ask({ reaches: false });
    expect(deal).toBe('');
    const { token } = (
      await rowsOf<{ token: string }>(
        place.db,
        'SELECT lead_token AS token FROM enquiries WHERE hit_id IS NOT NULL ORDER BY sent_at DESC LIMIT 1',
      )
    ).at(0)!;
    move(time + 60_000);
    const person = { name: 'Dora Finch', mail: 'dora@finch.example', company: 'Finch' };
    const byHand = await makeDeal(person);
    await read();
    expect((await dealOf(byHand)).joined).toBe('nothing');
    const own = await makeDeal({ ...person, name: 'Dora' }, { avx_lead: token, click_id: qsid });
    await read();
    const [hand, form] = [await dealOf(byHand), await dealOf(own)];
    expect([hand.strand, hand.touch, hand.joined]).toEqual([form.strand, form.touch, 'person']);
    expect(hand.enquiry).not.toBe(form.enquiry);
  });
});

describe('a deal that names its lead token only later', () => {
  it('goes over to the enquiry of that form, with what was counted of it, once', async () => {
    move(time + 60_000);
    const { qsid } = await ask({ reaches: false });
    const [form] = await rowsOf<{ id: string; token: string }>(
      place.db,
      'SELECT id, lead_token AS token FROM enquiries WHERE hit_id IS NOT NULL ORDER BY sent_at DESC LIMIT 1',
    );
    const deal = await makeDeal({ name: 'Nell Frost', mail: 'nell@frost.example', company: 'Frost' });
    await read();
    const alone = (await dealOf(deal)).enquiry;
    await qualify(deal);
    const counted = await rowsOf<{ id: string }>(place.db, 'SELECT id FROM outcomes WHERE subject_id = ?', [alone]);
    expect(counted).toHaveLength(1);
    await crm(`/api/deals/${deal}/fields`, { fields: { avx_lead: form!.token, click_id: qsid } });
    await read();
    expect((await dealOf(deal)).enquiry).toBe(form!.id);
    expect(await rowsOf(place.db, 'SELECT id FROM outcomes WHERE subject_id = ?', [form!.id])).toEqual(counted);
    expect(await rowsOf(place.db, 'SELECT id FROM enquiries WHERE id = ?', [alone])).toEqual([]);
    expect(await rowsOf(place.db, 'SELECT strand_id FROM hops WHERE subject_id = ?', [alone])).toEqual([]);
    await qualify(deal, 'Offer');
    expect(await strandOf(qsid)).toMatchObject({ reached: 8, state: null });
    expect(await rowsOf(place.db, 'SELECT id FROM outcomes WHERE subject_id = ?', [form!.id])).toEqual(counted);
  });
});

describe('people', () => {
  it('are one by their mail address, and two where a mailbox is of two businesses', async () => {
    const one = await makeDeal({ name: 'Eve Hart', mail: 'eve@hart.example', company: 'Hart' });
    const other = await makeDeal({ name: 'Eve', mail: 'Eve@hart.example', company: 'Hart' });
    const first = await makeDeal({ name: 'Finn', mail: 'info@mill.example', company: 'Mill Bakery' });
    const second = await makeDeal({ name: 'Gwen', mail: 'info@mill.example', company: 'Mill Flowers' });
    await read();
    expect((await dealOf(one)).person).toBe((await dealOf(other)).person);
    expect((await dealOf(first)).person).not.toBe((await dealOf(second)).person);
  });

  it('that the CRM merges are one, with their deals; what each was known by stays with the one that stayed', async () => {
    const one = await makeDeal({ name: 'Hugo Lane', mail: 'hugo@lane.example', company: 'Lane' });
    const other = await makeDeal({ name: 'H. Lane', mail: 'office@lane.example', company: 'Lane Cycles' });
    await read();
    const [before, gone] = [await dealOf(one), await dealOf(other)];
    expect(before.person).not.toBe(gone.person);
    await crm(`/api/people/${gone.crm_person}/merge`, { into: before.crm_person });
    await read();
    expect([(await dealOf(other)).lead, (await dealOf(other)).person]).toEqual([
      before.lead,
      (await dealOf(one)).person,
    ]);
    const people = await rowsOf<{ person: string }>(
      place.db,
      'SELECT person_id AS person FROM leads WHERE crm_person IN (?, ?) GROUP BY person_id',
      [before.crm_person, gone.crm_person],
    );
    expect(people).toHaveLength(1);
  });
});

describe('a deal', () => {
  it('that the CRM merged into another stops there; what was counted of it is not counted again', async () => {
    const { deal } = await ask();
    const { deal: stays } = await ask();
    await qualify(deal);
    const counted = await rowsOf(place.db, 'SELECT id FROM outcomes');
    await crm(`/api/deals/${deal}/merge`, { into: stays });
    await read();
    expect(await dealOf(deal)).toMatchObject({ gone: 1, into: stays });
    await qualify(stays, 'Offer');
    expect(await rowsOf(place.db, 'SELECT id FROM outcomes')).toEqual(counted);
    expect(await qualifiedOf((await dealOf(stays)).enquiry)).toMatchObject({ state: 'made_it' });
  });

  it('that is merged before it came that far has left, and one that is deleted too', async () => {
    const { deal } = await ask();
    const { deal: stays } = await ask();
    const { deal: deleted } = await ask();
    await crm(`/api/deals/${deal}/merge`, { into: stays });
    await remove(deleted);
    await read();
    expect(await qualifiedOf((await dealOf(deal)).enquiry)).toMatchObject({
      state: 'left',
      reason: { code: 'deal_merged', deal, into: stays },
    });
    expect(await qualifiedOf((await dealOf(deleted)).enquiry)).toMatchObject({
      state: 'left',
      reason: { code: 'deal_deleted' },
    });
  });

  it('whose deletion no webhook told of is found by the poll', async () => {
    const { deal } = await ask();
    await remove(deal);
    await outside.oakledger.rest();
    outside.webhooks.length = 0;
    await poll();
    expect(await dealOf(deal)).toMatchObject({ gone: 1, into: '' });
  });
});

/** Asks the CRM what changed, as if its mark were at the beginning. */
async function poll(): Promise<void> {
  move(time + 10 * 60_000);
  const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
  await pollCrm(place.services, larkmoor.id, account.id);
  await rest();
}

type Step =
  | { do: 'make'; person: number; token: number; click: boolean }
  | { do: 'stage'; deal: number; stage: 'Spoken' | 'Not this time' }
  | { do: 'merge'; deal: number; into: number }
  | { do: 'merge people'; deal: number; into: number }
  | { do: 'delete'; deal: number }
  | { do: 'read'; keep: number[] };

/** What is always tried, and how much of what is left to chance beside it. */
const rounds = process.env.TEST_LONG ? { numRuns: 60 } : { numRuns: 12, seed: 1604 };

describe('whatever order webhooks and polls come in', () => {
  const people: Person[] = [
    { name: 'Ivy Rowe', mail: 'ivy@rowe.example', company: 'Rowe' },
    { name: 'Ivy', mail: 'ivy@rowe.example', company: 'Rowe', telephone: '01632 960200' },
    { name: 'Jack Rowe', mail: 'jack@rowe.example', company: 'Rowe', telephone: '01632 960200' },
    { name: 'Ivy Rowe', mail: 'ivy@private.example', company: '' },
    { name: 'Kit', mail: 'info@market.example', company: 'Market Bread' },
    { name: 'Lou', mail: 'info@market.example', company: 'Market Fish' },
  ];
  const place6 = fc.nat(5);
  const step: fc.Arbitrary<Step> = fc.oneof(
    {
      weight: 4,
      arbitrary: fc.record({ do: fc.constant('make' as const), person: place6, token: fc.nat(3), click: fc.boolean() }),
    },
    {
      weight: 2,
      arbitrary: fc.record({
        do: fc.constant('stage' as const),
        deal: place6,
        stage: fc.constantFrom('Spoken' as const, 'Not this time' as const),
      }),
    },
    fc.record({ do: fc.constant('merge' as const), deal: place6, into: place6 }),
    fc.record({ do: fc.constant('merge people' as const), deal: place6, into: place6 }),
    fc.record({ do: fc.constant('delete' as const), deal: place6 }),
    {
      weight: 3,
      arbitrary: fc.record({ do: fc.constant('read' as const), keep: fc.array(fc.nat(9), { maxLength: 6 }) }),
    },
  );

  it('the same people, deals and touches come of it', { timeout: 1_200_000 }, async () => {
    const clicks = [await ask({ reaches: false }), await ask({ reaches: false })];
    const tokens = await rowsOf<{ token: string }>(
      place.db,
      'SELECT lead_token AS token FROM enquiries WHERE hit_id IS NOT NULL ORDER BY sent_at DESC LIMIT 2',
    );
    const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
    let run = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 6, maxLength: 24 }), async (steps) => {
        await forget();
        run += 1;
        const from = time;
        const made: string[] = [];
        const deal = (n: number) => made[n % Math.max(1, made.length)] ?? 'D-none';
        const personOf = async (number: string) => {
          const asked = await outside.oakledger.app.request(`/api/deals/${number}`, {
            headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
          });
          return ((await asked.json()) as { person?: { id: string } }).person?.id ?? 'P-none';
        };
        for (const one of steps) {
          move(time + 1000);
          if (one.do === 'make') {
            const { mail, ...person } = people[one.person]!;
            const fields = {
              avx_lead: tokens[one.token]?.token ?? '',
              click_id: one.click ? clicks[one.person % 2]!.qsid : '',
            };
            made.push(await makeDeal({ ...person, mail: `${run}.${mail}` }, fields));
          } else if (one.do === 'stage') await crm(`/api/deals/${deal(one.deal)}/stage`, { stage: one.stage });
          else if (one.do === 'merge') await crm(`/api/deals/${deal(one.deal)}/merge`, { into: deal(one.into) });
          else if (one.do === 'merge people') {
            const [person, into] = [await personOf(deal(one.deal)), await personOf(deal(one.into))];
            await crm(`/api/people/${person}/merge`, { into });
          } else if (one.do === 'delete') await remove(deal(one.deal));
          else {
            await outside.oakledger.rest();
            const sent = outside.webhooks.splice(0);
            // Some in another order, some twice, the others never.
            for (const n of one.keep)
              if (sent[n])
                await place.services.crmEvents.take(account, sent[n].body, sealedBy(sent[n].sent, sent[n].seal));
            await rest();
          }
        }
        await outside.oakledger.rest();
        outside.webhooks.length = 0;
        await pollFrom(from);
        const heirs = await ofPeopleWithGone();
        const followed = await state(heirs);
        await forget();
        await pollFrom(from);
        expect(followed).toEqual(await state(heirs));
      }),
      rounds,
    );
  });

  async function pollFrom(from: number) {
    await place.db.query('UPDATE polls SET polled_to = ?', { replacements: [new Date(from)] });
    await poll();
  }

  /** Deals of people who had others that are gone: what those came by is known only if they were read in time. */
  async function ofPeopleWithGone() {
    const rows = await dealRows();
    const persons = new Set(rows.filter(({ gone }) => Number(gone) === 1).map(({ person }) => person));
    return new Set(rows.filter(({ person }) => persons.has(person)).map(({ number }) => number));
  }

  /** Who is one person, by the deals that the CRM still has, with what each came by. */
  async function state(heirs: Set<string>) {
    const rows = (await dealRows()).filter(({ gone }) => Number(gone) === 0);
    const persons = new Map<string, string[]>();
    for (const { person, number } of rows) persons.set(person, [...(persons.get(person) ?? []), number]);
    return {
      persons: [...persons.values()].sort(),
      deals: rows.map(({ number, enquiry, stage, strand, touch, joined }) =>
        heirs.has(number) ? { number, enquiry, stage } : { number, enquiry, stage, strand, touch, joined },
      ),
    };
  }

  /** Forgets what was read from the CRM; what the website told stays. */
  async function forget() {
    for (const table of ['deals', 'leads', 'identities', 'companies', 'crm_events', 'work', 'outcomes', 'report_backs'])
      await place.db.query(`DELETE FROM ${table}`);
    await place.db.query('DELETE FROM enquiries WHERE hit_id IS NULL');
    await place.db.query('UPDATE enquiries SET lead_id = NULL, deal_id = NULL, stage = NULL, joined_by = NULL');
  }
});
