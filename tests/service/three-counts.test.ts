import { beforeAll, expect, it } from 'vitest';
import {
  threeCountsBehindSchema,
  threeCountsQuerySchema,
  type OpenedPart,
  type ThreeCountsView,
} from '../../src/core/results/three-counts-view';
import { makeReadReport } from '../../src/server/platforms/report';
import { makeEditor } from './place';
import { ask, deliver, larkmoor, move, outside, place, qualify, rest, takenBy, time } from './walks';

/* What Quillsearch, the website and Oakledger count of FLT-QUAL, and every step between. */

const hour = 3_600_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
/** A lead of each fate, by the number of its deal. */
const deals: Record<string, string> = {};

const parse = (given: Record<string, string>) => threeCountsQuerySchema.parse({ range: 'weeks13', ...given });
const view = (given: Record<string, string> = {}): Promise<ThreeCountsView> =>
  place.services.threeCounts.view(member, parse(given));
const behind = (of: OpenedPart, given: Record<string, string> = {}) =>
  place.services.threeCounts.behind(member, parse(given), threeCountsBehindSchema.parse({ of }));
const stepsOf = ({ steps }: ThreeCountsView) =>
  Object.fromEntries(steps.map(({ key, count }) => [key, count]).filter(([, count]) => count !== 0));
const readReport = async () => {
  const account = (await place.services.accounts.byKey(larkmoor.id, 'quillsearch'))!;
  await makeReadReport(
    place.services.context,
    place.services.accounts,
    place.services.releases,
  )(larkmoor.id, account.id);
  await rest();
};

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const qualified = async (name: string, ...given: Parameters<typeof ask>) => {
    const { deal } = await ask(...given);
    deals[name] = deal;
    move(time + hour);
    await qualify(deal);
  };
  await qualified('told');
  await qualified('told too');
  // The form that names the field otherwise: its click ID never reaches the CRM.
  await qualified('lost', { form: 'call-back' });
  await rest();
  move(time + 4 * hour);
  await readReport();
});

it('what the platform does not count is in the step that says why, down to the CRM', async () => {
  const shown = await view();
  expect(await takenBy()).toBe(2);
  expect([shown.start.words, shown.start.count]).toEqual(['Quillsearch counts', 2]);
  expect([shown.end.words, shown.end.count]).toEqual(['Oakledger holds', 3]);
  expect(stepsOf(shown)).toEqual({ lost_before_crm: 1 });
  expect(shown.steps.find(({ key }) => key === 'lost_before_crm')!.why).toContain('`click_ref`');
  expect(shown.sentence.title).toBe('Quillsearch counts 2, Oakledger holds 3; every step between is known.');
  const { rows } = await behind('lost_before_crm');
  expect(rows).toMatchObject([{ told: 'held', path: expect.stringMatching(/^\/leads\//) as string }]);
});

it('is the same from its other end, and on the way over the website', async () => {
  const back = await view({ start: 'crm', end: 'at:quillsearch' });
  expect([back.start.count, back.end.count, stepsOf(back)]).toEqual([3, 2, { lost_before_crm: -1 }]);
  expect(stepsOf(await view({ end: 'website' }))).toEqual({ lost_before_crm: 1 });
  expect(stepsOf(await view({ start: 'website', end: 'crm' }))).toEqual({});
});

it('all platforms’ claims come down to what the CRM knows, and what nobody claims is opened', async () => {
  const { claims } = await view();
  expect(claims).toMatchObject({ sum: 2, withoutUs: 0, again: 0, different: 2, elsewhere: 0, nobody: 1, known: 3 });
  expect((await behind('nobody')).rows).toHaveLength(1);
});

it('what a platform counts without us is said, and known of nobody', async () => {
  const { db } = place;
  const more = (by: number) =>
    db.query(`UPDATE outcome_reports SET counted = counted + ${by} WHERE outcome = 'FLT-QUAL' LIMIT 1`);
  await more(2);
  const shown = await view();
  expect([shown.start.count, stepsOf(shown)]).toEqual([4, { without_us: -2, lost_before_crm: 1 }]);
  expect(shown.claims).toMatchObject({ sum: 4, withoutUs: 2, different: 2 });
  expect(shown.steps.find(({ key }) => key === 'without_us')!.opens).toBe(false);
  await more(-3);
  const fewer = await view();
  expect(stepsOf(fewer)).toEqual({ lost_before_crm: 1, unexplained: 1 });
  expect(fewer.sentence.title).toContain('1 is unexplained');
  await more(1);
});

it('a deal that the CRM deleted, and one that was no enquiry after all, are steps of their own', async () => {
  await outside.oakledger.app.request(`/api/deals/${deals['told too']}`, {
    method: 'DELETE',
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });
  await deliver();
  await rest();
  expect(stepsOf(await view())).toEqual({ lost_before_crm: 1, gone: -1 });
  const [row] = (await behind('lost_before_crm')).rows;
  const id = row!.path!.split('/').at(-1)!;
  await place.db.query("UPDATE enquiries SET quality = 'no_enquiry' WHERE id = ?", { replacements: [id] });
  // The CRM holds it all the same.
  expect(stepsOf(await view())).toEqual({ no_customer: 1, gone: -1 });
  expect(stepsOf(await view({ end: 'website' }))).toEqual({});
});

it('its days are those of the account, ours those of the business', async () => {
  // At two in the morning in London it is the evening before in New York.
  const night = Date.parse('2027-02-18T02:00:00Z');
  move(night);
  const { deal } = await ask();
  move(night + hour);
  await qualify(deal);
  move(night + 5 * hour);
  await readReport();
  const on = (from: string, to: string, axis = 'click') => view({ range: 'own', from, to, axis, end: 'website' });
  const [before, after] = [await on('2027-02-17', '2027-02-17'), await on('2027-02-18', '2027-02-18')];
  expect([before.start.count, stepsOf(before), before.end.count]).toEqual([1, { its_days: -1 }, 0]);
  expect([after.start.count, stepsOf(after), after.end.count]).toEqual([0, { our_days: 1 }, 1]);
  // By the day that the platform counts it on, both agree.
  expect(stepsOf(await on('2027-02-17', '2027-02-17', 'reported'))).toEqual({});
});

it('a deal at the stage that nothing was counted of is a step of the days in which it came there, or was enquired about', async () => {
  const night = time;
  const { deal } = await ask();
  move(night + 40 * hour);
  await qualify(deal);
  const of = { replacements: [deal] };
  const counted = '(SELECT id FROM outcomes WHERE subject_id = (SELECT enquiry_id FROM deals WHERE number = ?))';
  await place.db.query(`DELETE FROM report_backs WHERE outcome_id IN ${counted}`, of);
  await place.db.query('DELETE FROM outcomes WHERE subject_id = (SELECT enquiry_id FROM deals WHERE number = ?)', of);
  const on = async (hours: number, axis: string) => {
    const day = new Date(night + hours * hour).toISOString().slice(0, 10);
    return stepsOf(await view({ range: 'own', from: day, to: day, axis, start: 'website', end: 'crm' }));
  };
  expect(await on(40, 'outcome')).toEqual({ not_counted: 1 });
  expect(await on(0, 'click')).toEqual({ not_counted: 1 });
  expect(await on(0, 'outcome')).toEqual({});
  // Where a CRM says nothing of stages before, it counts from when it was enquired about.
  await place.db.query(
    `UPDATE deals SET record = JSON_SET(record, '$.stageChanges', JSON_ARRAY()) WHERE number = ?`,
    of,
  );
  expect(await on(0, 'outcome')).toEqual({ not_counted: 1 });
  expect(await on(40, 'outcome')).toEqual({});
  await place.db.query(
    'UPDATE enquiries SET sent_at = sent_at - INTERVAL 90 DAY WHERE id = (SELECT enquiry_id FROM deals WHERE number = ?)',
    of,
  );
  expect(await on(0, 'outcome')).toEqual({});
});

it('a business that counts nothing yet is told what to do, and an address that asks for what is not there gets the usual', async () => {
  const odd = await view({ outcome: 'NOBODY', start: 'at:nobody', end: 'at:nobody' });
  expect(odd.asked).toMatchObject({ outcome: 'FLT-QUAL', start: 'at:quillsearch', end: 'crm' });
  const table = await place.services.threeCounts.table(member, parse({}));
  expect(table[0]).toEqual(['step', 'count', 'why']);
  expect(table).toHaveLength((await view()).steps.length + 3);
});
