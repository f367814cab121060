import { beforeAll, describe, expect, it } from 'vitest';
import type { Membership } from '../../src/server/people/people';
import { everything } from '../../src/core/strands/schema';
import { addUp, makeEditor, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/* What a platform has of an outcome follows what the outcome is worth (rule 17). */

const day = 86_400_000;
let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});

const revalue = async (deal: string, amount: string, currency = 'GBP') => {
  const answer = await outside.oakledger.app.request(`/deals/${deal}/amount`, {
    method: 'POST',
    body: new URLSearchParams({ amount, currency }),
  });
  expect(answer.status).toBe(303);
  // It tells nobody of an amount; whoever asks what changed since is told.
  await crm(`/api/deals/${deal}/fields`, { fields: {} });
  await deliver();
  await rest();
};
const fault = (kind: string, seconds = 0) =>
  outside.quillsearch.app.request('/account/faults', {
    method: 'POST',
    body: new URLSearchParams({ kind, seconds: String(seconds) }),
  });
/** What Quillsearch's own report says that all outcomes are worth, in pence. */
const reported = async () => {
  const page = await outside.quillsearch.app.request('/api/report/outcomes?from=2026-01-01&to=2028-01-01', {
    headers: { authorization: `Bearer ${outside.around.key('quillsearch token')}`, 'standin-fault': 'none' },
  });
  const { rows } = (await page.json()) as { rows: { worth: { GBP?: number } }[] };
  return Math.round(rows.reduce((sum, { worth }) => sum + (worth.GBP ?? 0), 0) * 100);
};
const tellings = (qsid: string) =>
  rowsOf<{ id: string; correction: number; state: string; reason: { code: string } | null; tells: number | null }>(
    place.db,
    `SELECT id, correction, state, reason, tells_minor AS tells FROM report_backs WHERE key_value = ? ORDER BY correction`,
    [qsid],
  );
const later = async (hours: number) => {
  move(time + hours * 3_600_000);
  await rest();
};
/** An enquiry whose FLT-QUAL, worth £135 of £540, Quillsearch has. */
async function told() {
  move(time + 1000);
  const before = await reported();
  const { qsid, deal } = await ask();
  await qualify(deal);
  expect((await reported()) - before).toBe(13_500);
  return { qsid, deal, before };
}

describe('a deal that is worth something else after its outcome was told', () => {
  it('is corrected at the platform to its new worth, once, and its report shows it', async () => {
    const { qsid, deal, before } = await told();
    await revalue(deal, '400');
    expect((await reported()) - before).toBe(10_000);
    expect(await tellings(qsid)).toMatchObject([
      { correction: 0, state: 'confirmed', tells: 13_500 },
      { correction: 1, state: 'confirmed', tells: 10_000 },
    ]);
    await revalue(deal, '400');
    expect(await tellings(qsid)).toHaveLength(2);
    await revalue(deal, '540');
    expect((await reported()) - before).toBe(13_500);
    const [outcome] = await rowsOf<object>(
      place.db,
      `SELECT o.worth_minor AS worth, o.corrected_minor AS corrected, o.worth_change AS how FROM outcomes o
       JOIN report_backs r ON r.outcome_id = o.id WHERE r.key_value = ? AND r.correction = 0`,
      [qsid],
    );
    expect(outcome).toEqual({ worth: 13_500, corrected: null, how: '' });
  });

  it('stands on the line as corrected, and its number opens it', async () => {
    await addUp(place, larkmoor.id);
    const range = { range: 'week', way: 'form', ...everything } as const;
    const line = await place.services.strands.line(larkmoor.known, member.role, range);
    expect(line.corrected).toBe(1);
    const listed = await place.services.strands.strands(larkmoor.known, member.role, range, {
      hop: 'confirmed',
      state: 'made_it',
      reason: '',
      mark: '',
      corrected: 'yes',
      sort: 'first_at',
      descending: 'yes',
      find: '',
      page: 1,
    });
    expect(listed.total).toBe(1);
    expect(listed.sentence.title).toBe('1 click came to Confirmed, and its platform was told another worth since.');
  });

  it('goes on from a lost answer: the newest worth is told, in order, and stands', async () => {
    const { qsid, deal, before } = await told();
    await fault('lost');
    await revalue(deal, '400');
    expect((await reported()) - before).toBe(10_000);
    expect((await tellings(qsid))[1]).toMatchObject({ state: 'waiting', reason: { code: 'not_answered' } });
    // What was perhaps taken is told once more, also where the worth is again what it was.
    await revalue(deal, '540');
    expect((await tellings(qsid))[1]).toMatchObject({ state: 'waiting', tells: 13_500 });
    await fault('none');
    await later(1);
    expect((await reported()) - before).toBe(13_500);
    expect(await tellings(qsid)).toMatchObject([{ state: 'confirmed' }, { state: 'confirmed', tells: 13_500 }]);
  });

  it('is not corrected before the platform has taken it: an unanswered telling is told as it was, then corrected', async () => {
    const before = await reported();
    const { qsid, deal } = await ask();
    await fault('lost');
    await qualify(deal);
    expect((await reported()) - before).toBe(13_500);
    await revalue(deal, '200');
    expect(await tellings(qsid)).toHaveLength(1);
    await fault('none');
    await later(1);
    expect((await reported()) - before).toBe(5000);
    const sent = await rowsOf<{ worth: number; correction: number }>(
      place.db,
      `SELECT a.worth_minor AS worth, r.correction FROM attempts a JOIN report_backs r ON r.id = a.report_back_id
       WHERE r.key_value = ? ORDER BY a.started_at`,
      [qsid],
    );
    expect(sent.at(-1)).toEqual({ worth: 5000, correction: 1 });
    for (const { worth, correction } of sent.slice(0, -1)) expect([worth, correction]).toEqual([13_500, 0]);
  });

  it('is held where the currency is another one, or the platform takes no correction that late, and nothing is told twice', async () => {
    const { qsid, deal, before } = await told();
    await revalue(deal, '400', 'EUR');
    expect((await tellings(qsid))[1]).toMatchObject({ state: 'held', reason: { code: 'other_currency' } });
    await revalue(deal, '540');
    expect((await tellings(qsid))[1]).toMatchObject({ state: 'withdrawn', reason: { code: 'changed_back' } });
    move(time + 61 * day);
    await revalue(deal, '400');
    expect((await tellings(qsid))[2]).toMatchObject({
      state: 'held',
      reason: { code: 'change_too_late', platform: 'Quillsearch', limit: 60 },
    });
    expect((await reported()) - before).toBe(13_500);
    // Somebody takes it out; it does not come back by itself for the same worth.
    const { id } = (await tellings(qsid))[2]!;
    await place.services.queue.act(member, 'Maud', { act: 'withdraw', ids: [id], list: null, isTried: false });
    await revalue(deal, '400');
    expect(await tellings(qsid)).toHaveLength(3);
  });

  it('is corrected by nothing that was refused until the worth is another one', async () => {
    move(time + 1000);
    const all = [await told(), await told(), await told()];
    await fault('choosy');
    for (const { deal } of all) {
      await outside.oakledger.app.request(`/deals/${deal}/amount`, {
        method: 'POST',
        body: new URLSearchParams({ amount: '400', currency: 'GBP' }),
      });
      await crm(`/api/deals/${deal}/fields`, { fields: {} });
    }
    await deliver();
    await rest();
    await fault('none');
    const rows = (await Promise.all(all.map(({ qsid }) => tellings(qsid)))).map((own) => own[1]!);
    const refused = rows.findIndex(({ state }) => state === 'refused');
    expect(refused).toBeGreaterThanOrEqual(0);
    await later(2);
    const { qsid, deal } = all[refused]!;
    expect(await tellings(qsid)).toHaveLength(2);
    await revalue(deal, '300');
    expect((await tellings(qsid))[2]).toMatchObject({ correction: 2, state: 'confirmed', tells: 7500 });
  });
});

it('an account that is told a part of the worth is corrected by that part too', async () => {
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + 1000);
  const number = await place.services.releases.make(larkmoor.id, {
    name: 'Half of it',
    note: '',
    content: { ...content, telling: content.telling.map((one) => ({ ...one, percent: 50 })) },
  });
  const before = await reported();
  const { qsid, deal } = await ask({ release: number });
  await qualify(deal);
  expect((await reported()) - before).toBe(6750);
  await revalue(deal, '200');
  expect((await reported()) - before).toBe(2500);
  expect((await tellings(qsid)).map(({ tells }) => tells)).toEqual([6750, 2500]);
});
