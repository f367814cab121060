import { beforeAll, expect, it } from 'vitest';
import type { CrmWriteRule } from '../../src/core/leads/schema';
import { inTransaction, markWork } from '../../src/server/db';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/* A lead's page: the card for sales, copied, written into the CRM as a note or by a rule, and the way back from there. */

let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});

interface OakledgerDeal {
  fields: Record<string, string>;
  notes?: { key: string; text: string }[];
}
const dealOf = async (deal: string) => {
  const answer = await outside.oakledger.app.request(`/api/deals/${deal}`, {
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });
  return (await answer.json()) as OakledgerDeal;
};
const enquiryOf = async (deal: string) =>
  (await rowsOf<{ id: string }>(place.db, 'SELECT enquiry_id AS id FROM deals WHERE number = ?', [deal]))[0]!.id;
const pageOf = (id: string) => place.services.traces.ofEnquiry(member.business, member.role, id);
const settle = async () => {
  await rest();
  await deliver();
  await rest();
};

it('has its card written into the record as a note, once', async () => {
  const { deal } = await ask();
  const id = await enquiryOf(deal);
  expect((await pageOf(id)).note).toMatchObject({ last: null });
  await place.services.traces.writeNote(member, 'Maud', id);
  expect((await pageOf(id)).note!.last).toMatchObject({ state: 'waiting', isSame: true });
  await expect(place.services.traces.writeNote(member, 'Maud', id)).rejects.toThrow('has this note already');
  await settle();
  const [note, ...others] = (await dealOf(deal)).notes!;
  expect(others).toEqual([]);
  expect(note!.text.split('\n')).toEqual([
    'Came from: Paid search on Quillsearch, uk-27q1-fleet-winterproof, hill video',
    expect.stringMatching(/^Enquired: .+, the form “Ask for a test ride”, on visit 1$/),
    `${place.services.config.origin}/b/${member.business.key}/leads/${id}`,
  ]);
  const { note: after, events } = await pageOf(id);
  expect(after!.last).toMatchObject({ state: 'written', isSame: true });
  expect(events).toContainEqual(expect.objectContaining({ text: 'Wrote a note in the CRM', seenBy: 'Maud' }));
});

it('adds no second note where the answer to the first was lost', async () => {
  const { deal } = await ask();
  const id = await enquiryOf(deal);
  await place.services.traces.writeNote(member, 'Maud', id);
  await settle();
  await place.db.query("UPDATE crm_writes SET state = 'waiting', written_at = NULL WHERE number = ?", {
    replacements: [deal],
  });
  const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
  await inTransaction(place.services.context.db, (transaction) =>
    markWork(place.services.context.db, 'crm_write', larkmoor.id, [id], new Date(time), transaction, account.id),
  );
  await settle();
  expect((await dealOf(deal)).notes).toHaveLength(1);
  expect((await pageOf(id)).note!.last).toMatchObject({ state: 'written' });
});

it('shows on its page what sales typed over, what was put back and who said what of it', async () => {
  const { deal } = await ask({ form: 'call-back' });
  const id = await enquiryOf(deal);
  await place.services.repair.repair(member, 'Maud');
  await place.services.answers.setQuality(member, 'Maud', { ids: [id], quality: 'disqualified', reason: 'too small' });
  await settle();
  const { events, answered } = await pageOf(id);
  expect(events.map(({ text }) => text)).toEqual(
    expect.arrayContaining([
      'Put `click_id`, `medium`, `campaign` and `content` back in the CRM',
      'Said to be disqualified: too small',
    ]),
  );
  expect(answered).toMatchObject({ quality: 'disqualified', reason: 'too small', mayChange: true });
});

it('lists what the same person asked before, and shows it in one timeline', async () => {
  const [, first] = await personTwice();
  const { others, events, card } = await pageOf(await enquiryOf(first));
  expect(others).toHaveLength(1);
  expect(events.filter(({ of }) => of === others[0]!.id).map(({ text }) => text)).toEqual([
    'Sent the form “Ask for a test ride”',
    expect.stringMatching(/^Deal `D-\d+` made in the CRM/),
  ]);
  expect(card.rows.find(({ name }) => name === 'Before')!.value).toMatch(/^1 enquiry, the last on /);
});

it('is led to from the record by a link that a rule writes, and carries the card as text', async () => {
  const write = (id: string, part: CrmWriteRule['part'], field: string): CrmWriteRule => ({
    ...{ id, part, reading: '', touch: 'enquiry', swap: '', fields: [field], when: 'empty' },
  });
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + 1000);
  const crmWrites = [write('a', 'link', 'lead_page'), write('b', 'card', 'source_words')];
  await place.services.releases.make(larkmoor.id, { name: 'Link', note: '', content: { ...content, crmWrites } });
  const { number } = await place.services.releases.live(larkmoor.id);
  const { deal } = await ask({ release: number });
  await settle();
  const id = await enquiryOf(deal);
  const { fields } = await dealOf(deal);
  expect(fields.lead_page).toBe(`${place.services.config.origin}/b/${member.business.key}/leads/${id}`);
  expect(fields.source_words).toMatch(/^Came from: Paid search on Quillsearch, /);
  await qualify(deal, 'Spoken');
  const [{ n }] = (await rowsOf<{ n: number }>(
    place.db,
    "SELECT COUNT(*) AS n FROM crm_writes WHERE number = ? AND cause = 'rule'",
    [deal],
  )) as [{ n: number }];
  expect(Number(n)).toBe(1);
});

it('is not written to by a reader, nor where the record is gone', async () => {
  const { deal } = await ask();
  const id = await enquiryOf(deal);
  const reader = { ...member, role: { ...member.role, role: 'reader' as const } };
  await expect(place.services.traces.writeNote(reader, 'Ines', id)).rejects.toThrow();
  await outside.oakledger.app.request(`/api/deals/${deal}`, {
    method: 'DELETE',
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });
  await deliver();
  await rest();
  await expect(place.services.traces.writeNote(member, 'Maud', id)).rejects.toThrow('takes no notes');
});

/** Two enquiries of one person, by the same address; the numbers of their records. */
async function personTwice(): Promise<[string, string]> {
  const one = await ask();
  move(time + 3_600_000);
  const other = await ask();
  const both = await Promise.all([dealOf(one.deal), dealOf(other.deal)]);
  const [first, second] = both.map((deal) => (deal as unknown as { person: { id: string } }).person.id);
  await crm(`/api/people/${first}/merge`, { into: second! });
  await settle();
  return [one.deal, other.deal];
}

it('gives all that is stored of its person as a file, to nobody who may not see people', async () => {
  const [deal] = await personTwice();
  const id = await enquiryOf(deal);
  const answer = await place.services.personExport.ofEnquiry(member, id);
  expect(answer.headers.get('content-disposition')).toMatch(/^attachment; filename="person-[0-9a-f-]+\.json"$/);
  const all = (await answer.json()) as Record<string, { visitorId: string; id: string }[]>;
  expect(all.cut).toEqual([]);
  expect([all.records!.length, all.enquiries!.length, all.deals!.length]).toEqual([2, 2, 2]);
  const visitors = all.enquiries!.map(({ visitorId }) => visitorId).sort();
  for (const rows of ['visits', 'touches', 'hits'] as const)
    expect([...new Set(all[rows]!.map(({ visitorId }) => visitorId))].sort()).toEqual(visitors);
  const stored = await rowsOf<{ n: number }>(place.db, 'SELECT COUNT(*) AS n FROM hits WHERE visitor_id IN (?)', [
    visitors,
  ]);
  expect(all.hits).toHaveLength(Number(stored[0]!.n));
  expect(JSON.stringify(all)).not.toContain(larkmoor.id);
  const blind = { ...member, role: { ...member.role, seesPeople: false } };
  await expect(place.services.personExport.ofEnquiry(blind, id)).rejects.toThrow('see people');
});
