import { createHmac } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { usualReading } from '../../src/core/outcomes/notices';
import { noticeListSchema, type SenderGiven } from '../../src/core/outcomes/notices/schema';

import type { OutcomeRule } from '../../src/core/outcomes';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { larkmoor, move, outside, place, rest, time } from './walks';

/* What outside programs post of orders: taken once, and what platforms have corrected by it (rule 17). */

let member: Membership;
let secret = '';
let senderId = '';
const sender: SenderGiven = {
  name: 'Larkmoor’s till',
  proof: 'address',
  header: 'x-signature',
  reading: usualReading,
  steps: [
    { says: 'refund', means: 'refund' },
    { says: 'chargeback', means: 'chargeback' },
  ],
  refundSays: 'back',
  inMinor: false,
  currency: 'GBP',
};
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  ({ id: senderId } = await place.services.senders.save(member, { id: '', ...sender }));
  ({ secret } = await place.services.senders.makeSecret(member, senderId));
  await outside.quillsearch.app.request('/account/outcomes', {
    method: 'POST',
    body: new URLSearchParams({ code: 'SHP-PAID' }),
  });
});

const business = () => ({ id: larkmoor.id, timeZone: 'Europe/London' });
const post = (body: object | string, given: { secret?: string; header?: Record<string, string>; key?: string } = {}) =>
  place.services.takeNotices(business(), given.key ?? 'larkmoor-s-till', {
    body: typeof body === 'string' ? body : JSON.stringify(body),
    secret: given.secret ?? secret,
    header: (name) => given.header?.[name] ?? '',
  });
async function posts(body: object) {
  const taken = await post(body);
  await rest();
  return taken;
}
let orders = 100;
/** An order of £129, worth £60 without delivery, tax and goods, after clicks of both platforms. */
async function order(isHeld = false) {
  const number = `LK-${(orders += 1)}`;
  const browser = makeBrowser();
  await browser.lands(await clickOn('quillsearch'));
  await browser.lands(await clickOn('wrenwick'));
  browser.says(number);
  if (!isHeld) await browser.hands();
  return { number, browser };
}
const tellings = (number: string) =>
  rowsOf<{ account: string; correction: number; state: string; code: string | null; tells: number | null }>(
    place.db,
    `SELECT r.account, r.correction, r.state, JSON_VALUE(r.reason, '$.code') AS code, r.tells_minor AS tells
     FROM report_backs r JOIN outcomes o ON o.id = r.outcome_id WHERE o.dedupe_key = ? ORDER BY r.account, r.correction`,
    [`order ${number}`],
  );
const outcomeOf = async (number: string) =>
  (
    await rowsOf<{ worth: number; now: number | null; how: string; cause: string }>(
      place.db,
      `SELECT worth_minor AS worth, corrected_minor AS now, worth_change AS how, change_cause AS cause
       FROM outcomes WHERE dedupe_key = ?`,
      [`order ${number}`],
    )
  )[0];

describe('a refund that is posted', () => {
  it('corrects what each platform has, in the words of each, once however often it comes', async () => {
    const { number } = await order();
    expect(await tellings(number)).toMatchObject([
      { account: 'quillsearch', state: expect.stringMatching(/told|confirmed/) },
      { account: 'wrenwick', state: 'confirmed' },
    ]);
    const refund = {
      id: `R-${number}`,
      step: 'refund',
      order: number,
      amount: '64.50',
      at: new Date(time).toISOString(),
    };
    expect(await posts(refund)).toEqual({ taken: 1, known: 0, refused: [] });
    expect(await outcomeOf(number)).toEqual({ worth: 6000, now: 3000, how: 'revalued', cause: 'refund' });
    const corrected = await tellings(number);
    expect(corrected.filter(({ correction }) => correction === 1)).toMatchObject([
      { account: 'quillsearch', state: 'confirmed', tells: 3000 },
      { account: 'wrenwick', state: 'confirmed', tells: 3000 },
    ]);
    const partner = await (await outside.wrenwick.app.request('/account')).text();
    expect(partner).toMatch(/<td>returned<\/td>\s*<td class="number">GBP 30\.00<\/td>/);
    expect(partner).toContain('GBP 60.00, now 30.00');
    expect(await posts(refund)).toEqual({ taken: 0, known: 1, refused: [] });
    move(time + 3_600_000);
    await rest();
    expect(await tellings(number)).toEqual(corrected);
  });

  it('before the platform was told leaves nothing to be told', async () => {
    const { number, browser } = await order(true);
    // The refund overtakes the page.
    await posts({ id: `C-${number}`, step: 'chargeback', order: number });
    const view = await place.services.notices.page(member, noticeListSchema.parse({ find: number }));
    expect(view.rows).toMatchObject([{ about: `order ${number}`, stands: 'not known yet', step: 'chargeback' }]);
    await browser.hands();
    expect(await outcomeOf(number)).toMatchObject({ worth: 6000, now: 0, how: 'taken_back', cause: 'chargeback' });
    expect(await tellings(number)).toMatchObject([
      { account: 'quillsearch', correction: 0, state: 'held', code: 'taken_back' },
      { account: 'wrenwick', correction: 0, state: 'held', code: 'taken_back' },
    ]);
    const after = await place.services.notices.page(member, noticeListSchema.parse({ find: number }));
    expect(after.rows).toMatchObject([{ stands: 'taken back' }]);
  });

  it('counts by when it happened, whatever came first', async () => {
    const { number } = await order();
    const at = (minutes: number) => new Date(time - minutes * 60_000).toISOString();
    await posts({ id: `B-${number}`, step: 'refund', order: number, amount: '129', at: at(1) });
    await posts({ id: `A-${number}`, step: 'refund', order: number, amount: '29', at: at(5) });
    expect(await outcomeOf(number)).toMatchObject({ now: 0, how: 'taken_back' });
  });

  it('of a test, or by a step that nobody explained, changes nothing until somebody says what it means', async () => {
    const { number } = await order();
    await posts({ id: `T-${number}`, step: 'refund', order: number, test: true });
    await posts({ id: `S-${number}`, step: 'sent back', order: number });
    expect(await outcomeOf(number)).toMatchObject({ now: null, how: '' });
    const view = await place.services.notices.page(member, noticeListSchema.parse({ find: number }));
    expect(view.rows.map(({ stands }) => stands).sort()).toEqual(['step not known', 'test']);
    expect(view.sentence.title).toContain('posted `sent back` 1 time, and nobody said what it means');
    const steps = [...sender.steps, { says: 'sent back', means: 'refund' as const }];
    await place.services.senders.save(member, { id: senderId, ...sender, steps });
    await rest();
    expect(await outcomeOf(number)).toMatchObject({ now: 0, how: 'taken_back', cause: 'refund' });
  });
});

describe('an outcome that a postback reaches', () => {
  it('is counted of the order that it is about, with the amount that is posted, and told to its platform', async () => {
    const steps = [...sender.steps, { says: 'delivered', means: 'happens' as const }];
    await place.services.senders.save(member, { id: senderId, ...sender, steps });
    const { content } = await place.services.releases.live(larkmoor.id);
    const [paid] = content.outcomes.filter(({ code }) => code === 'SHP-PAID');
    const [telling] = content.telling.filter(({ outcome }) => outcome === 'SHP-PAID');
    move(time + 1000);
    const delivered: OutcomeRule = {
      ...paid!,
      code: 'SHP-DONE',
      words: 'Delivered',
      reachedBy: { kind: 'postback', sender: 'larkmoor-s-till', step: 'delivered' },
      worth: { kind: 'realised', field: 'amount', less: [] },
    };
    await place.services.releases.make(larkmoor.id, {
      name: 'Delivered counts',
      note: '',
      content: {
        ...content,
        outcomes: [...content.outcomes, delivered],
        telling: [...content.telling, { ...telling!, outcome: 'SHP-DONE' }],
      },
    });
    await outside.quillsearch.app.request('/account/outcomes', {
      method: 'POST',
      body: new URLSearchParams({ code: 'SHP-DONE' }),
    });
    const { number } = await order();
    move(time + 60_000);
    const said = { id: `D-${number}`, step: 'delivered', order: number, amount: '100' };
    await posts(said);
    await posts({ ...said, id: `E-${number}` });
    const counted = await rowsOf<{ code: string; worth: number; kind: string }>(
      place.db,
      `SELECT code, worth_minor AS worth, JSON_VALUE(evidence, '$.kind') AS kind FROM outcomes WHERE dedupe_key = ? ORDER BY code`,
      [`order ${number}`],
    );
    expect(counted).toEqual([
      { code: 'SHP-DONE', worth: 10_000, kind: 'postback' },
      { code: 'SHP-PAID', worth: 6000, kind: 'order' },
    ]);
    expect(await tellings(number)).toContainEqual(
      expect.objectContaining({
        account: telling!.account,
        state: expect.stringMatching(/told|confirmed/),
        tells: 10_000,
      }),
    );
    const view = await place.services.notices.page(member, noticeListSchema.parse({ find: number }));
    expect(view.rows.map(({ stands }) => stands)).toEqual(['counted', 'counted']);
    const effect = await place.services.outcomeEffect(member, delivered);
    expect([effect.written, effect.worth]).toEqual([1, ['£100']]);
    const { beside } = await place.services.outcomesStation.view(member);
    expect(beside.senders).toContainEqual({
      key: 'larkmoor-s-till',
      name: sender.name,
      steps: ['refund', 'chargeback', 'delivered'],
    });
  });
});

describe('a sender', () => {
  it('that does not prove itself is refused, and so is one that is retired or has no secret', async () => {
    const body = { step: 'refund', order: 'LK-1' };
    await expect(post(body, { secret: 'another' })).rejects.toMatchObject({ code: 'AVX_SEAL_WRONG' });
    await expect(post(body, { key: 'nobody' })).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
    const { id } = await place.services.senders.save(member, { id: '', ...sender, name: 'Without' });
    await expect(post(body, { key: 'without' })).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
    await place.services.senders.makeSecret(member, id);
    await place.services.senders.retire(member, id, true);
    await expect(post(body, { key: 'without' })).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
  });

  it('has a name of its own', async () => {
    await expect(
      place.services.senders.save(member, { id: '', ...sender, name: sender.name.toUpperCase() }),
    ).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
    await place.services.senders.save(member, { id: senderId, ...sender });
  });

  it('proves itself by a signature of the body where it says so', async () => {
    const given = { ...sender, name: 'Signed', proof: 'hmac' as const };
    const { id } = await place.services.senders.save(member, { id: '', ...given });
    const { secret: own } = await place.services.senders.makeSecret(member, id);
    const body = JSON.stringify({ step: 'refund', order: 'LK-9' });
    const signed = {
      key: 'signed',
      secret: '',
      header: { 'x-signature': createHmac('sha256', own).update(body).digest('hex') },
    };
    expect(await post(body, signed)).toMatchObject({ taken: 1 });
    await expect(post(`${body} `, signed)).rejects.toMatchObject({ code: 'AVX_SEAL_WRONG' });
  });

  it('posts a list of which one cannot be read: the others are taken, that one is named', async () => {
    const list = [
      { step: 'refund', order: 'LK-11', amount: '1' },
      { step: 'refund', order: 'LK-12', amount: 'some' },
    ];
    expect(await post(JSON.stringify(list))).toEqual({
      taken: 1,
      known: 0,
      refused: [
        {
          at: 1,
          field: 'amount',
          was: '“some” is no amount in GBP',
          fix: 'Post a decimal number, such as 54.00.',
        },
      ],
    });
    await expect(post('hello')).rejects.toMatchObject({ code: 'AVX_POSTBACK_UNREAD' });
    await expect(post({ step: 'refund' })).rejects.toMatchObject({ code: 'AVX_RECORD_UNREAD' });
  });

  it('posts by an address with its query too, and an example says part by part what it is', async () => {
    expect(await post('?step=refund&order=LK-13&amount=5')).toMatchObject({ taken: 1 });
    const tried = place.services.senders.tryOut(member, sender, 'step=refund&order=LK-13&amount=5&colour=red');
    expect(tried).toMatchObject({
      isRead: true,
      says: '`refund`, a refund of order `LK-13`, £5 given back.',
      parts: [
        { at: '/step', value: 'refund', part: 'step' },
        { at: '/order', part: 'order' },
        { at: '/amount', part: 'amount' },
        { at: '/colour', part: null },
      ],
    });
    expect(place.services.senders.tryOut(member, sender, '{"a":1}')).toMatchObject({ isRead: false });
  });
});
