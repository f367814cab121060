import { beforeAll, describe, expect, it } from 'vitest';
import type { CrmWriteRule } from '../../src/core/leads/schema';
import type { Membership } from '../../src/server/people/people';
import { idAt, makeEditor, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, move, outside, place, qualify, rest, strandOf, time } from './walks';

/* What is written into the CRM's records: by rules, and put back where a record lacks what its visit knows. */

const rule = (given: Partial<CrmWriteRule>): CrmWriteRule => ({
  id: 'write 1',
  part: 'words',
  reading: '',
  touch: 'enquiry',
  swap: '',
  fields: ['source_words'],
  when: 'empty',
  ...given,
});
async function makeLive(...crmWrites: CrmWriteRule[]): Promise<void> {
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + 1000);
  await place.services.releases.make(larkmoor.id, { name: 'Written', note: '', content: { ...content, crmWrites } });
}
let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  await place.services.context.tables.campaigns.create({
    businessId: larkmoor.id,
    id: idAt(time, 1),
    name: 'uk-27q1-fleet-winterproof',
    friendly: 'Winterproof',
    ...{
      stage: 'enquiries',
      currency: 'GBP',
      owner: '',
      note: '',
      crmId: null,
      crmType: '',
      changedAt: new Date(time),
      madeAt: new Date(time),
    },
  } as never);
});
/** A form that is sent under the live release, as its record is made. */
const askNow = async (reads?: Record<string, string>) =>
  ask({ release: (await place.services.releases.live(larkmoor.id)).number, ...(reads ? { reads } : {}) });
const fieldsOf = async (deal: string) => {
  const answer = await outside.oakledger.app.request(`/api/deals/${deal}`, {
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });
  return ((await answer.json()) as { fields: Record<string, string> }).fields;
};
const writtenTo = (deal: string) =>
  rowsOf<{ state: string; answer: string; fields: { field: string; was: string; becomes: string }[] }>(
    place.db,
    'SELECT state, answer, fields FROM crm_writes WHERE number = ? ORDER BY id',
    [deal],
  );
const fault = (kind: string, seconds: number) =>
  outside.oakledger.app.request('/faults', {
    method: 'POST',
    body: new URLSearchParams({ kind, seconds: String(seconds) }),
  });
const readBack = async () => {
  await deliver();
  await rest();
};

describe('a record that lacks what its visit knows', () => {
  it('is repaired in one action, by each cause; what was held for it is told and confirmed', async () => {
    const first = await ask({ form: 'call-back' });
    const second = await ask({ form: 'call-back' });
    await qualify(first.deal);
    expect(await strandOf(first.qsid)).toMatchObject({ reached: 4, state: 'lost' });
    const before = await place.services.repair.view(member);
    expect(before).toMatchObject({ records: 2, causes: [{ records: 2, goesOn: true }] });
    expect(before.causes[0]!.text).toContain('sends `click_ref`, the CRM reads `click_id`');
    expect(await place.services.repair.repair(member, 'Maud')).toEqual({ records: 2 });
    await rest();
    await readBack();
    expect([(await fieldsOf(first.deal)).click_id, (await fieldsOf(second.deal)).click_id]).toEqual([
      first.qsid,
      second.qsid,
    ]);
    expect(await strandOf(first.qsid)).toMatchObject({ reached: 8, state: null });
    const after = await place.services.repair.view(member);
    expect([after.records, after.log.map(({ by, state }) => [by, state])]).toEqual([
      0,
      [
        ['Maud', 'written'],
        ['Maud', 'written'],
      ],
    ]);
    expect(await place.services.repair.repair(member, 'Maud')).toEqual({ records: 0 });
  });
});

describe('a rule', () => {
  it('writes words in place of codes once an enquiry has its record, and nothing twice', async () => {
    await makeLive(rule({}));
    const { deal } = await askNow();
    await readBack();
    expect((await fieldsOf(deal)).source_words).toBe('Paid search on Quillsearch, Winterproof, hill video');
    await qualify(deal, 'Spoken');
    await readBack();
    expect(await writtenTo(deal)).toHaveLength(1);
  });

  it('writes into earlier records only when somebody says so, and never over what sales typed', async () => {
    await makeLive();
    const { deal } = await askNow();
    const { deal: typed } = await askNow();
    await crm(`/api/deals/${typed}/fields`, { fields: { source_words: 'Met at the fair' } });
    await readBack();
    await makeLive(rule({ id: 'write 2' }));
    await qualify(deal, 'Spoken');
    expect((await fieldsOf(deal)).source_words).toBe('');
    const dry = await place.services.writes.dryRun(member, [rule({ id: 'write 2' })]);
    expect(dry.left).toContainEqual({ because: 'not empty', fields: 1 });
    expect(dry.examples.some(({ field, was }) => field === 'source_words' && was === '')).toBe(true);
    await place.services.writes.writeNow(member, 'Maud');
    await rest();
    await readBack();
    expect([(await fieldsOf(deal)).source_words, (await fieldsOf(typed)).source_words]).toEqual([
      'Paid search on Quillsearch, Winterproof, hill video',
      'Met at the fair',
    ]);
    // A rule that keeps its own up to date leaves it too; one that writes always does not.
    const over = async (when: CrmWriteRule['when']) =>
      (await place.services.writes.dryRun(member, [rule({ id: 'write 2', when })])).written;
    expect([await over('own'), await over('always')]).toEqual([0, 1]);
  });

  it('fills the next slot with each new source, and overwrites none', async () => {
    await makeLive(rule({ id: 'slots', part: 'source', touch: 'each', fields: ['source_1', 'source_2', 'source_3'] }));
    const { deal, visitor } = await askNow();
    await readBack();
    expect(await fieldsOf(deal)).toMatchObject({ source_1: 'quillsearch', source_2: '' });
    move(time + 3_600_000);
    await arriveBy(visitor, 'larkmoor-letter', 'email', 1);
    await arriveBy(visitor, 'quillsearch', 'paid-search', 2);
    await arriveBy(visitor, 'wrenwick', 'partner', 3);
    await readBack();
    expect(await fieldsOf(deal)).toMatchObject({
      source_1: 'quillsearch',
      source_2: 'larkmoor-letter',
      source_3: 'wrenwick',
    });
    // Segments by the first and last touch rest on these.
    const ends = await rowsOf<{ source: string; isFirst: number; isLast: number }>(
      place.db,
      'SELECT source, is_first AS isFirst, is_last AS isLast FROM touches WHERE visitor_id = ? ORDER BY at',
      [visitor],
    );
    expect(ends.map(({ source, isFirst, isLast }) => [source, isFirst, isLast])).toEqual([
      ['quillsearch', 1, 0],
      ['larkmoor-letter', 0, 0],
      ['quillsearch', 0, 0],
      ['wrenwick', 0, 1],
    ]);
  });

  it('says what a field would cut, and what the CRM made of it is not written again', async () => {
    await makeLive(rule({ id: 'cut', fields: ['campaign'], part: 'campaign', when: 'always' }));
    const { deal } = await askNow();
    await readBack();
    const { campaign } = await fieldsOf(deal);
    expect(campaign).toHaveLength(18);
    await qualify(deal, 'Spoken');
    await readBack();
    expect((await writtenTo(deal)).length).toBeLessThanOrEqual(1);
    const dry = await place.services.writes.dryRun(member, [rule({ fields: ['source'], part: 'words' })]);
    expect(dry.cut).toBe(0);
    const first = await place.services.writes.dryRun(member, [rule({ fields: ['first_campaign'], part: 'words' })]);
    expect(first.examples[0]!.cut).toHaveLength(40);
  });

  it('writes what the form’s event took along, and not what somebody else’s did', async () => {
    await makeLive(rule({ part: 'reading', reading: 'bikes' }));
    const four = await askNow({ bikes: '4' });
    const none = await askNow();
    await readBack();
    expect([(await fieldsOf(four.deal)).source_words, (await fieldsOf(none.deal)).source_words]).toEqual(['4', '']);
    const tried = await place.services.writes.dryRun(member, [
      rule({ part: 'reading', reading: 'bikes', when: 'always' }),
    ]);
    expect(tried.left).toContainEqual({ because: 'same', fields: 1 });
  });
});

describe('a CRM', () => {
  it('that is away for an hour is written to once it is back, in order, nothing twice', async () => {
    await makeLive(rule({ id: 'away' }));
    const { deal } = await askNow();
    await rest();
    await readBack();
    expect(await writtenTo(deal)).toMatchObject([{ state: 'written' }]);
    await fault('broken', 5);
    await makeLive(rule({ id: 'away' }), rule({ id: 'first', part: 'campaign_words', fields: ['first_campaign'] }));
    await place.services.writes.writeNow(member, 'Maud');
    await rest();
    expect((await writtenTo(deal)).at(-1)).toMatchObject({ state: 'waiting' });
    await fault('none', 0);
    move(time + 2 * 3_600_000);
    await rest();
    expect((await writtenTo(deal)).map(({ state }) => state)).toEqual(['written', 'written']);
    expect((await fieldsOf(deal)).first_campaign).toBe('Winterproof');
  });

  it('that allows no more calls this minute is asked again once it does, nothing lost and nothing twice', async () => {
    await makeLive(rule({ id: 'many' }));
    const { deal } = await ask();
    await readBack();
    await fault('busy', 50);
    await place.services.writes.writeNow(member, 'Maud');
    await rest();
    expect(await writtenTo(deal)).toMatchObject([{ state: 'waiting' }]);
    await fault('none', 0);
    move(time + 2 * 60_000);
    await rest();
    expect(await writtenTo(deal)).toMatchObject([{ state: 'written' }]);
  });

  it('that has a field no more is said to; what else is written goes on, and the field’s once it is there again', async () => {
    await makeLive(rule({ id: 'gone', fields: ['source_2'] }), rule({ id: 'kept', part: 'campaign_words' }));
    const field = (given: { deleted?: string; made?: string }) =>
      outside.oakledger.app.request('/programs/fields', { method: 'POST', body: new URLSearchParams(given) });
    await place.services.writes.dryRun(member, [rule({ fields: ['source_2'] })]);
    await field({ deleted: 'source_2' });
    // Nobody has looked since: the CRM itself says it.
    const { deal } = await askNow();
    await readBack();
    expect(await writtenTo(deal)).toMatchObject([
      { state: 'written', fields: [{ field: 'source_words' }] },
      { state: 'refused', answer: 'Oakledger has no field `source_2`.', fields: [{ field: 'source_2' }] },
    ]);
    const { left } = await place.services.writes.dryRun(member, [rule({ fields: ['source_2'] })]);
    expect(left.map(({ because }) => because)).toEqual(['no field']);
    // It is not tried again and again.
    await qualify(deal, 'Spoken');
    await readBack();
    expect(await writtenTo(deal)).toHaveLength(2);
    await field({ made: 'source_2' });
    await place.services.writes.writeNow(member, 'Maud');
    await rest();
    await readBack();
    expect((await fieldsOf(deal)).source_2).toBe('Paid search on Quillsearch, Winterproof,');
  });

  it('that took what was written and whose answer never came has it once, and it counts as written', async () => {
    await makeLive(rule({ id: 'lost' }));
    await fault('none', 0);
    const { deal } = await askNow();
    const [row] = await writtenTo(deal);
    expect(row).toMatchObject({ state: 'written' });
    // As if the answer had not come: it is tried again.
    await place.db.query("UPDATE crm_writes SET state = 'waiting', written_at = NULL WHERE number = ?", {
      replacements: [deal],
    });
    await qualify(deal, 'Spoken');
    expect(await writtenTo(deal)).toMatchObject([{ state: 'written', answer: '' }]);
  });

  it('whose record is deleted, or changed by somebody, before it is written keeps what it has', async () => {
    await makeLive();
    const { deal: deleted } = await askNow();
    const { deal: changed } = await askNow();
    await makeLive(rule({ id: 'late' }));
    await place.services.writes.writeNow(member, 'Maud');
    await crm(`/api/deals/${changed}/fields`, { fields: { source_words: 'typed meanwhile' } });
    await deliver();
    await outside.oakledger.app.request(`/api/deals/${deleted}`, {
      method: 'DELETE',
      headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
    });
    await rest();
    await readBack();
    expect((await fieldsOf(changed)).source_words).toBe('typed meanwhile');
    const states = [...(await writtenTo(changed)), ...(await writtenTo(deleted))].map(({ state }) => state);
    expect(states.filter((state) => !['dropped', 'refused'].includes(state))).toEqual([]);
  });
});

/** The same browser comes again, by tags. */
async function arriveBy(visitor: string, source: string, medium: string, n: number): Promise<void> {
  move(time + 3_600_000);
  const address = `http://larkmoor.localhost/fleet?utm_source=${source}&utm_medium=${medium}&utm_campaign=again-${n}`;
  const hit = {
    release: 1,
    visitor,
    visit: idAt(time, 600 + n),
    id: idAt(time, 700 + n),
    at: time,
    address,
    referrer: '',
    ...{
      kind: 'arrived',
      navigation: 'navigate',
      why: 'campaign_values',
      kept: { works: true, first: null, last: null, clicks: [] },
    },
  };
  expect(await place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits: [hit] }))).toEqual([]);
  await rest();
  await readBack();
}
