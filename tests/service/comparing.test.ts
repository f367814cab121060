import { beforeAll, expect, it } from 'vitest';
import { sumsOf } from '../../src/core/reportbacks/compare';
import type { CompareQuery } from '../../src/core/reportbacks/compare-schema';
import { makeEditor } from './place';
import { ask, larkmoor, move, outside, place, qualify, reportBackOf, rest, takenBy, time } from './walks';

/* Another way tells Quillsearch still: Avrix works out what it would tell, both are compared, and it is switched over. */

const key = 'FLT-QUAL quillsearch';
const byFile: CompareQuery = { of: key, against: 'file', as: '' };
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
let editor: string;
const clicks: string[] = [];

beforeAll(async () => {
  ({ member, editor } = await makeEditor(place.services, larkmoor.id));
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + 60_000);
  await place.services.releases.make(larkmoor.id, {
    name: 'Only worked out',
    note: '',
    content: {
      ...content,
      telling: content.telling.map((rule) =>
        rule.platform === 'quillsearch' && rule.outcome === 'FLT-QUAL'
          ? { ...rule, how: 'worked out', delayMinutes: 0 }
          : rule,
      ),
    },
  });
  move(time + 60_000);
  for (let n = 0; n < 3; n += 1) {
    const { deal, qsid } = await ask();
    clicks.push(qsid);
    await qualify(deal);
    move(time + 60_000);
  }
  // One whose click ID the CRM lost: the other way knew it from elsewhere.
  const { deal, qsid } = await ask({ form: 'call-back' });
  clicks.push(qsid);
  await qualify(deal);
  move(time + 60_000);
  await rest();
});

async function bring(text: string): Promise<void> {
  const request = new Request('http://avrix.localhost/', { method: 'POST', body: text });
  const { filed } = place.services;
  const { id } = await filed.bring(member, 'Anna', { name: 'old-way.csv', compares: key }, request);
  const { how } = await filed.one(member, id);
  expect((await filed.tryOut(member, id, how)).wrong).toBe(0);
  await filed.take(member, id, how);
  move(time + 60_000);
  await rest();
}

it('what is only worked out is listed with what it would have told, and nothing was', async () => {
  const view = await place.services.comparing.view(member, { of: '', against: '', as: '' });
  expect(view.tellings).toMatchObject([{ key, from: '', fromInDraft: '' }]);
  expect(sumsOf(view.days)).toEqual({ ours: 3, old: 0, same: 0 });
  expect(await takenBy()).toBe(0);
});

it('a file of what the other way told is compared row by row, each difference with its reason', async () => {
  const at = new Date(time - 3 * 60_000).toISOString();
  const row = (click: string, worth: string) => `${click},${at},${worth},GBP`;
  await bring(
    [
      'click_id,happened_at,amount,currency',
      row(clicks[0]!, '135.00'),
      row(clicks[1]!, '540.00'),
      row(clicks[3]!, '135.00'),
      row('QsNobodyHasThis', '135.00'),
      row(clicks[0]!, '135.00'),
    ].join('\n'),
  );
  const view = await place.services.comparing.view(member, byFile);
  expect(view.files).toMatchObject([{ name: 'old-way.csv', rows: 4 }]);
  expect(sumsOf(view.days)).toEqual({ ours: 3, old: 4, same: 1 });
  const found = view.differences.map(({ kind, clickId, ours, old, why }) => [kind, clickId, ours, old, why]);
  expect(found).toHaveLength(4);
  expect(found).toEqual(
    expect.arrayContaining([
      ['worth', clicks[1], '£135', '£540', ''],
      ['only ours', clicks[2], '£135', '', ''],
      ['only old', clicks[3], '', '£135', 'No click ID in the CRM, known from the visit.'],
      ['only old', 'QsNobodyHasThis', '', '£135', 'No outcome is counted by this click.'],
    ]),
  );
  // Compared and counted nowhere: no conversion, no outcome.
  expect(await place.services.context.tables.conversions.count()).toBe(0);
});

it('a moment that has passed is no moment to switch over at', async () => {
  const past = '2027-01-01T00:00';
  await expect(place.services.comparing.switchOver(member, editor, key, past)).rejects.toMatchObject({
    code: 'AVX_FIELD_WRONG',
  });
});

it('switched over at a stated moment, Avrix tells what happens from then on, and nothing of what was before', async () => {
  const from = Math.ceil(time / 3_600_000) * 3_600_000 + 3_600_000;
  // The business is in London, in winter.
  const clock = new Date(from).toISOString().slice(0, 16);
  await place.services.comparing.switchOver(member, editor, key, clock);
  expect((await place.services.comparing.view(member, byFile)).tellings).toMatchObject([
    { from: '', fromInDraft: new Date(from).toISOString().replace('.000', '') },
  ]);
  const { changes } = await place.services.draft.view(member);
  await place.services.releasing.release(member, editor, {
    name: 'Switch over',
    seen: changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt })),
  });
  move(from + 60_000);
  await outside.quillsearch.app.request('/account/outcomes', {
    method: 'POST',
    body: new URLSearchParams({ code: 'FLT-QUAL' }),
  });
  const { deal, qsid } = await ask();
  await qualify(deal);
  move(time + 3_600_000);
  await rest();
  expect((await reportBackOf(qsid))?.state).toMatch(/told|confirmed/);
  for (const click of clicks.slice(0, 3))
    expect(await reportBackOf(click)).toMatchObject({ state: 'withdrawn', reason: { code: 'worked_out' } });
  expect(await takenBy()).toBe(1);
  const view = await place.services.comparing.view(member, { of: key, against: 'report', as: '' });
  expect(view.against).toBe('report');
  expect(view.sentence.under).toContain('Switched over on');
});
