import { createHmac } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { day, rowsOf } from './place';
import {
  outside,
  place,
  larkmoor,
  time,
  move,
  rest,
  crm,
  deliver,
  ask,
  qualify,
  strandOf,
  reportBackOf,
  countOf,
  takenBy,
  sealedBy,
} from './walks';

describe('a platform that does not answer', () => {
  it('is told again with growing waits under the same key; every attempt is kept, and one row is taken', async () => {
    const { deal, qsid } = await ask();
    const taken = await takenBy();
    await outside.fault('broken');
    await qualify(deal);
    const { id, state, reason } = (await reportBackOf(qsid))!;
    expect([state, reason]).toEqual(['waiting', { code: 'not_answered', status: '500' }]);
    await rest();
    const attempts = () =>
      rowsOf<{ status: string }>(place.db, 'SELECT status FROM attempts WHERE report_back_id = ? ORDER BY started_at', [
        id,
      ]);
    expect(await attempts()).toHaveLength(1);

    // Taken, but the answer never came: the same key is told again, and "told before" is our own row.
    await outside.fault('lost');
    move(time + 100_000);
    await rest();
    expect(await attempts()).toHaveLength(2);
    await outside.fault('none');
    move(time + 600_000);
    await rest();
    expect((await attempts()).map((a) => a.status)).toEqual(['500', 'no answer', '200']);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'confirmed' });
    expect(await takenBy()).toBe(taken + 1);
  });
});

describe('a report-back that is answered while its enquiry is followed', () => {
  it('stays as it was answered', async () => {
    const { deal, qsid } = await ask();
    await outside.fault('broken');
    await qualify(deal);
    await outside.fault('none');
    const { id } = (await reportBackOf(qsid))!;
    const answering = await place.db.transaction();
    const run = (sql: string) => place.db.query(sql, { replacements: [id], transaction: answering });
    await run("UPDATE report_backs SET state = 'confirmed', answered_at = due_at, confirmed_at = due_at WHERE id = ?");
    const crossing = (async () => {
      await crm(`/api/deals/${deal}/stage`, { stage: 'Offer' });
      await deliver();
      await place.services.runner.runToRest(['report_back']);
    })();
    // The following one waits for what is being answered.
    const waits = `SELECT COUNT(*) AS n FROM information_schema.PROCESSLIST
      WHERE info LIKE '%report_backs%' AND info NOT LIKE '%PROCESSLIST%' AND time_ms > 100`;
    await expect.poll(async () => Number((await rowsOf<{ n: number }>(place.db, waits))[0]!.n)).toBeGreaterThan(0);
    await answering.commit();
    await crossing;
    expect(await reportBackOf(qsid)).toMatchObject({ id, state: 'confirmed' });
    expect((await strandOf(qsid))!.reached).toBeGreaterThan(5);
  });
});

describe('a platform that forgets which rows it was told', () => {
  const repeats = (body: Record<string, string>) =>
    outside.quillsearch.app.request('/account/repeats', { method: 'POST', body: new URLSearchParams(body) });
  const fail = async (kind: string) => {
    const { deal, qsid } = await ask();
    await outside.fault(kind);
    await qualify(deal);
    await outside.fault('none');
    await repeats({ forgets: 'yes' });
    move(time + 100_000);
    await rest();
    return { qsid, id: (await reportBackOf(qsid))!.id };
  };
  const attempts = async (id: string) =>
    (
      await rowsOf<{ status: string }>(place.db, 'SELECT status FROM attempts WHERE report_back_id = ? ORDER BY id', [
        id,
      ])
    ).map((attempt) => attempt.status);

  it('is not told again what it took without answering; its own report confirms it', async () => {
    const taken = await takenBy();
    const { qsid, id } = await fail('lost');
    expect(await attempts(id)).toEqual(['no answer']);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'confirmed', reason: null });
    expect(await strandOf(qsid)).toMatchObject({ reached: 8 });
    expect(await takenBy()).toBe(taken + 1);
  });

  it('leaves a report-back unsure that its report does not hold, until a person says what stands there', async () => {
    const taken = await takenBy();
    const { qsid, id } = await fail('broken');
    move(time + 3_600_000);
    await rest();
    const reason = { code: 'maybe_taken', platform: 'Quillsearch' };
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'unsure', reason });
    expect(await strandOf(qsid)).toMatchObject({ reached: 6, state: 'waiting', reason: JSON.stringify(reason) });
    const { reportBacks } = place.services;
    await reportBacks.decide(larkmoor.id, id, 'not taken', 'Owner');
    await rest();
    expect(await attempts(id)).toEqual(['500', 'not taken', '200']);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'confirmed' });
    expect(await takenBy()).toBe(taken + 1);
    await expect(reportBacks.decide(larkmoor.id, id, 'taken', 'Owner')).rejects.toMatchObject({
      code: 'AVX_NOT_UNSURE',
    });
    await repeats({});
  });
});

describe('a platform that refuses some rows', () => {
  it('has the others told, and each refusal is named on its own row', async () => {
    const asked = [await ask(), await ask(), await ask()];
    await outside.fault('choosy');
    for (const { deal } of asked) await crm(`/api/deals/${deal}/stage`, { stage: 'Fleet assessed' });
    await deliver();
    await rest();
    await outside.fault('none');
    const states = await Promise.all(asked.map(async ({ qsid }) => (await reportBackOf(qsid))!));
    expect(states.map(({ state }) => state).sort()).toEqual(['confirmed', 'confirmed', 'refused']);
    expect(states.find(({ state }) => state === 'refused')!.reason).toEqual({
      code: 'refused',
      platform: 'Quillsearch',
      answer: 'no such click',
    });
  });
});

describe('a webhook', () => {
  const take = async (body: string, sent: string, seal: string) => {
    const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
    return place.services.crmEvents.take(account, body, sealedBy(sent, seal));
  };

  it('with a wrong seal, a changed body or an old time is refused', async () => {
    await crm('/api/deals', {
      person: { name: 'Lotte', mail: 'lotte@rook.example', telephone: '', company: 'Rook' },
      fields: {},
      amounts: {},
    });
    await outside.oakledger.rest();
    const { body, sent, seal } = outside.webhooks.splice(0)[0]!;
    await expect(take(body, sent, 'f'.repeat(64))).rejects.toMatchObject({ code: 'AVX_SEAL_WRONG' });
    await expect(take(body.replace('deal made', 'deal lost'), sent, seal)).rejects.toMatchObject({
      code: 'AVX_SEAL_WRONG',
    });
    move(time + 400_000);
    await expect(take(body, sent, seal)).rejects.toMatchObject({ code: 'AVX_SEAL_OLD' });
  });
});

describe('a webhook that goes missing', () => {
  it('is made up for by the poll, once; one that comes twice counts once', async () => {
    const ways = (way: string) =>
      outside.oakledger.app.request('/hooks', { method: 'POST', body: new URLSearchParams({ way }) });
    const { deal, qsid } = await ask();
    const outcomes = await countOf('outcomes');
    await ways('missing');
    await qualify(deal);
    expect(await countOf('outcomes')).toBe(outcomes);
    move(time + 6 * 60_000);
    await rest();
    expect(await countOf('outcomes')).toBe(outcomes + 1);
    expect(await strandOf(qsid)).toMatchObject({ reached: 8 });
    move(time + 6 * 60_000);
    await rest();
    const found = await rowsOf<{ n: number }>(
      place.db,
      "SELECT COUNT(*) AS n FROM crm_events WHERE kind = 'found by poll' AND deal = ?",
      [deal],
    );
    expect(Number(found[0]!.n)).toBe(1);

    await ways('twice');
    const second = await ask();
    await qualify(second.deal);
    expect(await countOf('outcomes')).toBe(outcomes + 2);
    await ways('once');
  });

  it('is made up for after a clock that ran days ahead is right again', async () => {
    const ways = (way: string) =>
      outside.oakledger.app.request('/hooks', { method: 'POST', body: new URLSearchParams({ way }) });
    const right = time;
    move(right + 3 * day);
    await rest();
    move(right + 10_000);
    await ways('missing');
    const { deal, qsid } = await ask();
    await qualify(deal);
    await ways('once');
    move(time + 6 * 60_000);
    await rest();
    expect(await strandOf(qsid)).toMatchObject({ reached: 8 });
    const [due] = await rowsOf<{ latest: Date }>(
      place.db,
      "SELECT MAX(due_at) AS latest FROM work WHERE kind IN ('crm_poll', 'platform_report')",
    );
    expect(due!.latest.getTime()).toBeLessThan(time + 8 * 3_600_000);
  });

  it('ends where the CRM knows the record no more, and is not asked for again', async () => {
    const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
    const body = JSON.stringify({
      event: 'gone-1',
      kind: 'deal changed',
      deal: 'D-gone',
      at: new Date(time).toISOString(),
    });
    const sent = String(time);
    const seal = createHmac('sha256', account.secrets.webhookSecret).update(`${sent}.${body}`).digest('hex');
    await place.services.crmEvents.take(account, body, sealedBy(sent, seal));
    await rest();
    const rows = (sql: string) => rowsOf<{ n: number }>(place.db, `SELECT COUNT(*) AS n FROM ${sql}`);
    expect(Number((await rows("crm_events WHERE deal = 'D-gone' AND read_at IS NOT NULL"))[0]!.n)).toBe(1);
    expect(Number((await rows("work WHERE kind = 'crm_event'"))[0]!.n)).toBe(0);
  });

  it('is made up for however many there were: more than one answer of the CRM holds', async () => {
    const ways = (way: string) =>
      outside.oakledger.app.request('/hooks', { method: 'POST', body: new URLSearchParams({ way }) });
    const before = await countOf('enquiries');
    await ways('missing');
    for (let n = 0; n < 520; n++)
      await crm('/api/deals', {
        person: { name: `Many ${n}`, mail: `many${n}@vetch.example`, telephone: '', company: '' },
        fields: {},
        amounts: {},
      });
    await ways('once');
    move(time + 6 * 60_000);
    await rest();
    expect(await countOf('enquiries')).toBe(before + 520);
  });
});
