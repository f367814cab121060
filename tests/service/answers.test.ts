import { beforeAll, describe, expect, it } from 'vitest';
import type { Quality } from '../../src/core/leads';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, move, place, qualify, rest, strandOf, time } from './walks';

/* How far enquiries were answered: by hand, by the CRM, and what became of what was no enquiry. */

const hour = 3_600_000;
let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});

interface Row {
  id: string;
  quality: Quality;
  reason: string;
  by: string;
  answered: Date | null;
}
const enquiryOf = async (deal: string): Promise<Row> =>
  (
    await rowsOf<Row>(
      place.db,
      `SELECT e.id, e.quality, e.quality_reason AS reason, e.answered_by AS \`by\`, e.answered_at AS answered
       FROM enquiries e JOIN deals d ON d.enquiry_id = e.id WHERE d.number = ?`,
      [deal],
    )
  )[0]!;
const say = (id: string, quality: 'answering' | 'disqualified' | 'no_enquiry' | '', reason = '') =>
  place.services.answers.setQuality(member, 'Priya', { ids: [id], quality, reason });
const listed = (quality: Quality | '' = '') =>
  place.services.leads.page(member.business, member.role, {
    find: '',
    sort: 'sentAt',
    descending: 'yes',
    page: 1,
    quality,
    segment: '',
  });

describe('an enquiry', () => {
  it('is unanswered, being answered once sales moves its record, and qualified by its outcome', async () => {
    const { deal } = await ask();
    expect(await enquiryOf(deal)).toMatchObject({ quality: 'unanswered', answered: null });
    move(time + hour);
    await qualify(deal, 'Spoken');
    const spoken = await enquiryOf(deal);
    expect(spoken).toMatchObject({ quality: 'answering', by: '' });
    expect(Math.round(spoken.answered!.getTime() / 1000)).toBe(Math.round(time / 1000));
    await qualify(deal);
    expect(await enquiryOf(deal)).toMatchObject({ quality: 'qualified', answered: spoken.answered });
  });

  it('that somebody answers keeps who did first and when, whatever is said later', async () => {
    const { deal } = await ask();
    const { id } = await enquiryOf(deal);
    move(time + hour);
    await say(id, 'answering');
    const first = await enquiryOf(deal);
    expect(first).toMatchObject({ quality: 'answering', by: 'Priya' });
    move(time + hour);
    await say(id, 'disqualified', 'too small');
    expect(await enquiryOf(deal)).toMatchObject({
      quality: 'disqualified',
      reason: 'too small',
      by: 'Priya',
      answered: first.answered,
    });
    await say(id, '');
    expect(await enquiryOf(deal)).toMatchObject({ quality: 'unanswered', reason: '', by: '', answered: null });
  });

  it('whose deal was ended in the CRM is disqualified by that stage', async () => {
    const { deal } = await ask();
    move(time + hour);
    await qualify(deal, 'Not this time');
    expect(await enquiryOf(deal)).toMatchObject({ quality: 'disqualified', reason: 'Not this time' });
  });

  it('that was none leaves the counts and is not counted later; taken back it is followed again', async () => {
    const { deal, qsid } = await ask();
    const { id } = await enquiryOf(deal);
    const before = (await listed()).total;
    await say(id, 'no_enquiry', 'a seller');
    expect((await listed()).total).toBe(before - 1);
    expect((await listed('no_enquiry')).rows.map((row) => row.id)).toEqual([id]);
    expect(await strandOf(qsid)).toMatchObject({ reached: 4, state: 'left' });
    await crm(`/api/deals/${deal}/stage`, { stage: 'Fleet assessed' });
    await deliver();
    await rest();
    expect(await rowsOf(place.db, 'SELECT id FROM outcomes WHERE subject_id = ?', [id])).toEqual([]);
    await say(id, '');
    await rest();
    expect(await enquiryOf(deal)).toMatchObject({ quality: 'qualified' });
    expect(await strandOf(qsid)).toMatchObject({ reached: 8, state: null });
  });
});

describe('the page of answers', () => {
  it('says who waits and how long people waited, in working time, by source, person and hour', async () => {
    const view = await place.services.answers.view(member, { weeks: 4, segment: '' });
    expect(view.bySource.map(({ key, enquiries }) => [key, enquiries])).toEqual([['Paid search on Quillsearch', 4]]);
    expect(view.bySource[0]).toMatchObject({ answered: 3, waiting: 1 });
    expect(view.byPerson).toMatchObject([{ key: 'moved in the CRM', enquiries: 3 }]);
    expect(view.byCampaign).toMatchObject([
      {
        campaign: 'uk-27q1-fleet-winterproof',
        enquiries: 4,
        of: { qualified: 2, disqualified: 1, unanswered: 1, no_enquiry: 0 },
      },
    ]);
    expect(view.byHour.reduce((sum, { enquiries }) => sum + enquiries, 0)).toBe(4);
  });

  it('counts in other hours once they are changed, by who may', async () => {
    const hours = { days: [1, 2, 3, 4, 5, 6, 7], from: '00:00', to: '24:00' };
    const reader: Membership = { ...member, role: { ...member.role, role: 'reader' } };
    await expect(place.services.answers.setHours(reader, hours)).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
    await place.services.answers.setHours(member, hours);
    const view = await place.services.answers.view(member, { weeks: 4, segment: '' });
    expect(view.hours).toEqual(hours);
    // By the clock on the wall each waited an hour.
    expect(view.bySource[0]!.median).toBeGreaterThanOrEqual(59);
  });

  it('takes no word of readers, and none of an enquiry of another business', async () => {
    const reader: Membership = { ...member, role: { ...member.role, role: 'reader' } };
    const given = { ids: [larkmoor.id], quality: 'answering' as const, reason: '' };
    await expect(place.services.answers.setQuality(reader, 'R', given)).rejects.toMatchObject({
      code: 'AVX_ROLE_TOO_SMALL',
    });
    await expect(place.services.answers.setQuality(member, 'P', given)).rejects.toMatchObject({
      code: 'AVX_NOT_FOUND',
    });
  });
});
