import { beforeAll, describe, expect, it } from 'vitest';
import { queueListSchema } from '../../src/core/reportbacks/queue-schema';
import type { Membership } from '../../src/server/people/people';
import { idAt, makeEditor, rowsOf } from './place';
import {
  ask,
  crm,
  deliver,
  larkmoor,
  move,
  outside,
  place,
  qualify,
  reportBackOf,
  rest,
  strandOf,
  time,
} from './walks';

/* What is far outside of what is usual waits for a person, and so do the first of a new outcome. */

const day = 86_400_000;
let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  // Eight days on each of which two or three were told, as they would stand there.
  for (let back = 1; back <= 8; back++)
    for (let n = 0; n < (back % 2 === 0 ? 3 : 2); n++) {
      const [id, at] = [idAt(time - back * day, 300 + n), new Date(time - back * day)];
      await place.services.context.tables.outcomes.create({
        ...{
          businessId: larkmoor.id,
          id,
          code: 'FLT-QUAL',
          version: 1,
          dedupeKey: `enquiry ${id}`,
          subjectKind: 'enquiry',
        },
        ...{ subjectId: id, happenedAt: at, evidence: { kind: 'stage', stage: 'Fleet assessed', skipped: false } },
        ...{ amountMinor: '54000', worthMinor: '13500', currency: 'GBP', winRateWon: 1, winRateOf: 4, countedAt: at },
        ...{ correctedMinor: null, worthChange: '', changeCause: '', changedAt: null, releaseNumber: 1 },
      } as never);
      await place.services.context.tables.reportBacks.create({
        ...{ businessId: larkmoor.id, id, outcomeId: id, correction: 0, subjectKind: 'enquiry', subjectId: id },
        ...{ accountId: larkmoor.id, account: 'quillsearch', platform: 'quillsearch', toldAs: 'FLT-QUAL' },
        ...{ state: 'confirmed', reason: null, stoppedBy: '', keyKind: 'click_id', keyValue: `Q${back}${n}` },
        ...{
          tellsMinor: null,
          toldMinor: '13500',
          dueAt: null,
          answeredAt: at,
          bookedOn: null,
          confirmedAt: at,
          madeAt: at,
        },
      } as never);
    }
});

const telling = async (change: { delayMinutes?: number; firstLook?: boolean }) => {
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + 1000);
  await place.services.releases.make(larkmoor.id, {
    name: 'Told otherwise',
    note: '',
    content: { ...content, telling: content.telling.map((one) => ({ ...one, ...change })) },
  });
};
const askNow = async () => ask({ release: (await place.services.releases.live(larkmoor.id)).number });
const queue = () => place.services.queue.page(member, queueListSchema.parse({}));
const fromNow = async (minutes: number) => {
  move(time + minutes * 60_000);
  await rest();
};

describe('an afternoon in which one person moves many deals', () => {
  it('is held as one with their name, let go by somebody who looked, and then holds nothing more', async () => {
    await telling({ delayMinutes: 60 });
    const asked = [];
    for (let n = 0; n < 22; n++) {
      // Clicks of all ages, so that their average is no whole hour.
      move(time + 37 * 60_000);
      asked.push(await askNow());
    }
    for (const { deal } of asked)
      await outside.oakledger.app.request(`/deals/${deal}/stage`, {
        method: 'POST',
        body: new URLSearchParams({ stage: 'Fleet assessed', by: 'Tom Harker' }),
      });
    await deliver();
    await rest();
    const view = await queue();
    expect(view.sentence.title).toBe('22 report-backs of FLT-QUAL wait for a look.');
    expect(view.brakes).toMatchObject([
      {
        outcome: 'FLT-QUAL',
        account: 'quillsearch',
        because: 'count',
        count: 22,
        words: '22 came within a day, where usually at most 3 do.',
        causes: [{ words: 'by Tom Harker', count: 22 }],
      },
    ]);
    await fromNow(120);
    expect(await reportBackOf(asked[0]!.qsid)).toMatchObject({
      state: 'held',
      reason: { code: 'brake', because: 'count' },
    });
    expect(await strandOf(asked[0]!.qsid)).toMatchObject({ reached: 6, state: 'waiting' });
    // One that comes while it is held is held with it.
    const late = await askNow();
    await qualify(late.deal);
    expect((await queue()).brakes).toMatchObject([{ count: 23 }]);
    const [brake] = view.brakes;
    expect(await place.services.heldAsOne.end(member, 'Maud', { id: brake!.id, act: 'let_go' })).toEqual({ done: 23 });
    await rest();
    expect((await reportBackOf(asked[0]!.qsid))!.state).toBe('confirmed');
    expect((await queue()).brakes).toEqual([]);
    const next = await askNow();
    await qualify(next.deal);
    await fromNow(120);
    expect((await reportBackOf(next.qsid))!.state).toBe('confirmed');
    await expect(place.services.heldAsOne.end(member, 'Maud', { id: brake!.id, act: 'let_go' })).rejects.toMatchObject({
      code: 'AVX_NOT_FOUND',
    });
  });

  it('is no usual day for the one after it: a second such afternoon is held too', async () => {
    move(time + 3 * day);
    const asked = [];
    for (let n = 0; n < 21; n++) asked.push(await askNow());
    await crm(`/api/deals/${asked[0]!.deal}/fields`, { fields: {} });
    for (const { deal } of asked)
      await outside.oakledger.app.request(`/deals/${deal}/stage`, {
        method: 'POST',
        body: new URLSearchParams({ stage: 'Fleet assessed' }),
      });
    await deliver();
    await rest();
    const [brake] = (await queue()).brakes;
    expect(brake).toMatchObject({
      because: 'count',
      count: 21,
      words: '21 came within a day, where usually at most 3 do.',
      causes: [{ words: 'by the CRM, without a name', count: 21 }],
    });
    expect(await place.services.heldAsOne.unseen(larkmoor.id)).toBe(21);
    await place.services.heldAsOne.end(member, 'Maud', { id: brake!.id, act: 'withdraw' });
    await rest();
    expect(await reportBackOf(asked[0]!.qsid)).toMatchObject({ state: 'withdrawn' });
    expect(await place.services.heldAsOne.unseen(larkmoor.id)).toBe(0);
  });

  it('is seen by a reader without the money and the name, and ended by none of them', async () => {
    const role = { ...member.role, role: 'reader' as const, seesMoney: false, seesPeople: false };
    const reader = { ...member, role };
    await expect(
      place.services.heldAsOne.end(reader, 'Maud', { id: idAt(time, 1), act: 'let_go' }),
    ).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
    const view = await place.services.queue.page(reader, queueListSchema.parse({ state: 'withdrawn' }));
    expect(view.rows.every(({ worth }) => worth === '')).toBe(true);
    expect(view.mayChange).toBe(false);
  });

  it('is withdrawn as one where it was a mistake', async () => {
    move(time + 2 * day);
    await telling({ delayMinutes: 60 });
    const one = await askNow();
    await crm(`/api/deals/${one.deal}/fields`, { fields: {} });
    await outside.oakledger.app.request(`/deals/${one.deal}/amount`, {
      method: 'POST',
      body: new URLSearchParams({ amount: '9000000', currency: 'GBP' }),
    });
    await qualify(one.deal);
    const [brake] = (await queue()).brakes;
    expect(brake).toMatchObject({ because: 'worth', count: 1 });
    expect(brake!.words).toMatch(/^They are worth £2,250,000 together, where a day is usually worth at most £/);
    await place.services.heldAsOne.end(member, 'Maud', { id: brake!.id, act: 'withdraw' });
    await fromNow(120);
    expect(await reportBackOf(one.qsid)).toMatchObject({ state: 'withdrawn', reason: { code: 'withdrawn_by' } });
  });
});

describe('the first of a new outcome', () => {
  it('wait until somebody looked at them, then go, and those after them too', async () => {
    const { content } = await place.services.releases.live(larkmoor.id);
    move(time + day);
    const outcomes = content.outcomes.map((one) => (one.code === 'FLT-QUAL' ? { ...one, version: 2 } : one));
    await place.services.releases.make(larkmoor.id, {
      name: 'Another meaning',
      note: '',
      content: {
        ...content,
        outcomes,
        telling: content.telling.map((one) => ({ ...one, firstLook: true, delayMinutes: 0 })),
      },
    });
    const first = await askNow();
    await qualify(first.deal);
    const second = await askNow();
    await qualify(second.deal);
    const [brake] = (await queue()).brakes;
    expect(brake).toMatchObject({ because: 'new', count: 2 });
    expect(await reportBackOf(first.qsid)).toMatchObject({ state: 'held', reason: { code: 'brake', because: 'new' } });
    await place.services.heldAsOne.end(member, 'Maud', { id: brake!.id, act: 'let_go' });
    await rest();
    expect((await reportBackOf(second.qsid))!.state).toBe('confirmed');
    const third = await askNow();
    await qualify(third.deal);
    await rest();
    expect((await reportBackOf(third.qsid))!.state).toBe('confirmed');
    const [{ n }] = (await rowsOf<{ n: number }>(
      place.db,
      "SELECT COUNT(*) AS n FROM brakes WHERE because = 'new'",
    )) as [{ n: number }];
    expect(Number(n)).toBe(1);
  });
});
