import { beforeAll, describe, expect, it } from 'vitest';
import { usualReading } from '../../src/core/outcomes/notices';
import type { SenderGiven } from '../../src/core/outcomes/notices/schema';
import type { OutcomeRule, TellingRule } from '../../src/core/outcomes';
import type { Membership } from '../../src/server/people/people';
import { everything } from '../../src/core/strands/schema';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { larkmoor, move, outside, place, rest, time } from './walks';

/* A subscription: signed up for on the website, paid and renewed as postbacks say, told and corrected payment by payment. */

let member: Membership;
let secret = '';
let release = 1;
const says = (...steps: SenderGiven['steps']) => steps;
const sender: SenderGiven = {
  name: 'Care till',
  proof: 'address',
  header: 'x-signature',
  reading: usualReading,
  steps: says(
    { says: 'started', means: 'happens' },
    { says: 'first-payment', means: 'happens' },
    { says: 'renewal', means: 'happens' },
    { says: 'refund', means: 'refund' },
    { says: 'chargeback', means: 'chargeback' },
  ),
  refundSays: 'back',
  inMinor: false,
  currency: 'GBP',
};
const outcome = (code: string, step: string, part: Partial<OutcomeRule> = {}): OutcomeRule => ({
  code,
  version: 1,
  words: code,
  reachedBy: { kind: 'postback', sender: 'care-till', step },
  worth: { kind: 'realised', field: 'amount', less: [] },
  countedOnceFor: 'payment',
  kind: 'payment',
  clickDays: 80,
  ...part,
});
const outcomes = [
  outcome('CAR-START', 'started', { worth: { kind: 'none' }, countedOnceFor: 'subscription' }),
  outcome('CAR-PAY', 'first-payment', { countedOnceFor: 'subscription' }),
  outcome('CAR-RENEW', 'renewal'),
  outcome('CAR-BACK', 'refund'),
];

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const { id } = await place.services.senders.save(member, { id: '', ...sender });
  ({ secret } = await place.services.senders.makeSecret(member, id));
  const { content } = await place.services.releases.live(larkmoor.id);
  const [telling] = content.telling.filter((one) => one.outcome === 'SHP-PAID' && one.platform === 'quillsearch');
  const tells = (code: string, letsItBid: boolean): TellingRule => ({ ...telling!, outcome: code, letsItBid });
  move(time + 1000);
  release = await place.services.releases.make(larkmoor.id, {
    name: 'The care plan counts',
    note: '',
    content: {
      ...content,
      capture: {
        ...content.capture,
        forms: [...content.capture.forms, { name: 'care-start', words: 'Care plan', counts: 'sign_up' }],
      },
      outcomes: [...content.outcomes, ...outcomes],
      telling: [...content.telling, tells('CAR-PAY', true), tells('CAR-RENEW', false)],
      qualified: { ...content.qualified, subscription: 'CAR-PAY' },
    },
  });
  for (const code of ['CAR-PAY', 'CAR-RENEW'])
    await outside.quillsearch.app.request('/account/outcomes', { method: 'POST', body: new URLSearchParams({ code }) });
  // A new outcome takes hours there before rows count.
  move(time + 4 * 3_600_000);
});

let numbered = 0;
async function posts(...bodies: object[]) {
  for (const body of bodies)
    await place.services.takeNotices({ id: larkmoor.id, timeZone: 'Europe/London' }, 'care-till', {
      body: JSON.stringify({ id: `P-${(numbered += 1)}`, at: new Date(time).toISOString(), ...body }),
      secret,
      header: () => '',
    });
  await rest();
  move(time + 60_000);
  await rest();
}
const subscribed = { count: 5100 };
/** Somebody who came by a click, signed up, and whose sign-up was posted. */
async function subscribe({ isPosted = true } = {}) {
  const subscription = `CP-${(subscribed.count += 1)}`;
  const browser = makeBrowser();
  await browser.lands(await clickOn('quillsearch'));
  const lead = browser.signsUp('care-start', release);
  await browser.hands();
  if (isPosted) await posts({ step: 'started', subscription, lead });
  return { subscription, lead, browser };
}
const countedOf = (subscription: string) =>
  rowsOf<{ code: string; worth: number; now: number | null; how: string }>(
    place.db,
    `SELECT o.code, o.worth_minor AS worth, o.corrected_minor AS now, o.worth_change AS how FROM outcomes o
     JOIN subscriptions s ON s.id = o.subject_id WHERE s.number = ? ORDER BY FIELD(o.code, 'CAR-START', 'CAR-PAY', 'CAR-RENEW', 'CAR-BACK')`,
    [subscription],
  );
const toldOf = (subscription: string) =>
  rowsOf<{ code: string; correction: number; state: string; tells: number | null }>(
    place.db,
    `SELECT o.code, r.correction, r.state, r.tells_minor AS tells FROM report_backs r JOIN outcomes o ON o.id = r.outcome_id
     JOIN subscriptions s ON s.id = r.subject_id WHERE s.number = ? ORDER BY o.code, r.correction`,
    [subscription],
  );
const hopsOf = async (subscription: string) =>
  Object.fromEntries(
    (
      await rowsOf<{ hop: string; state: string }>(
        place.db,
        `SELECT h.hop, h.state FROM hops h JOIN subscriptions s ON s.id = h.subject_id WHERE s.number = ?`,
        [subscription],
      )
    ).map(({ hop, state }) => [hop, state]),
  );

describe('a subscription', () => {
  it('is counted for the click of its sign-up, whose lead token is posted, and told to its platform', async () => {
    const { subscription } = await subscribe();
    expect(await hopsOf(subscription)).toEqual({ paid: 'waiting' });
    expect(await countedOf(subscription)).toMatchObject([{ code: 'CAR-START', worth: 0 }]);
    await posts({ step: 'first-payment', subscription, payment: `${subscription}-1`, amount: '36.00' });
    expect(await countedOf(subscription)).toMatchObject([{ code: 'CAR-START' }, { code: 'CAR-PAY', worth: 3600 }]);
    expect(await toldOf(subscription)).toMatchObject([
      { code: 'CAR-PAY', correction: 0, state: expect.stringMatching(/told|confirmed/) },
    ]);
    expect(await hopsOf(subscription)).toMatchObject({ paid: 'made_it', told: 'made_it' });
  });

  it('is no enquiry, and its sign-up is read again without counting anything twice', async () => {
    const { subscription, lead, browser } = await subscribe();
    await posts({ step: 'first-payment', subscription, payment: `${subscription}-1`, amount: '18.00' });
    const before = await toldOf(subscription);
    await browser.lands('http://larkmoor.localhost/care');
    await browser.hands();
    expect(await toldOf(subscription)).toEqual(before);
    expect(await rowsOf(place.db, 'SELECT id FROM enquiries WHERE lead_token = ?', [lead])).toEqual([]);
  });

  it('whose payment is posted before its sign-up arrives gets its click then', async () => {
    const browser = makeBrowser();
    await browser.lands(await clickOn('quillsearch'));
    const lead = browser.signsUp('care-start', release);
    const subscription = 'CP-LATE';
    await posts({ step: 'first-payment', subscription, payment: 'PM-1', amount: '18.00', lead });
    expect(await countedOf(subscription)).toMatchObject([{ code: 'CAR-PAY', worth: 1800 }]);
    expect(await toldOf(subscription)).toEqual([]);
    const strands = 'SELECT kind FROM strands WHERE kind = ? AND marked = ?';
    expect(await rowsOf(place.db, strands, ['subscription', ''])).toHaveLength(1);
    await browser.hands();
    expect(await toldOf(subscription)).toMatchObject([{ code: 'CAR-PAY' }]);
    expect(await rowsOf(place.db, strands, ['subscription', ''])).toEqual([]);
  });

  it('has a refund of a renewal leave its first payment and sign-up alone', async () => {
    const { subscription } = await subscribe();
    const [first, second] = [`${subscription}-1`, `${subscription}-2`];
    await posts(
      { step: 'first-payment', subscription, payment: first, amount: '36.00' },
      { step: 'renewal', subscription, payment: second, amount: '36.00' },
    );
    await posts({ step: 'refund', subscription, payment: second, amount: '9.00' });
    expect(await countedOf(subscription)).toMatchObject([
      { code: 'CAR-START', how: '' },
      { code: 'CAR-PAY', worth: 3600, how: '' },
      { code: 'CAR-RENEW', worth: 3600, now: 2700, how: 'revalued' },
      { code: 'CAR-BACK', worth: 900, how: '' },
    ]);
    expect(await toldOf(subscription)).toMatchObject([
      { code: 'CAR-PAY', correction: 0 },
      { code: 'CAR-RENEW', correction: 0 },
      { code: 'CAR-RENEW', correction: 1, tells: 2700 },
    ]);
  });

  it('leaves all as it is where a refund names no payment and there are several', async () => {
    const { subscription } = await subscribe();
    await posts(
      { step: 'first-payment', subscription, payment: 'A', amount: '36.00' },
      { step: 'renewal', subscription, payment: 'B', amount: '36.00' },
      { step: 'refund', subscription, amount: '36.00' },
    );
    expect((await countedOf(subscription)).map(({ how }) => how)).toEqual(['', '', '', '']);
  });

  it('is on the line of its way in, found by its number, and traced', async () => {
    const { subscription } = await subscribe();
    await posts({ step: 'first-payment', subscription, payment: 'T', amount: '36.00' });
    const { business, role } = member;
    const line = await place.services.strands.line(business, role, {
      range: 'weeks4',
      way: 'subscription',
      ...everything,
    });
    expect(line.ways).toContain('subscription');
    expect(line.latest[0]).toMatchObject({ title: subscription, lastHop: expect.stringMatching(/Told|Confirmed/) });
    const { rows } = await place.services.find(member, subscription);
    expect(rows).toMatchObject([{ kind: 'subscription', title: `Subscription \`${subscription}\`` }]);
    const strand = /strands\/([^?]+)/.exec(rows[0]!.path)![1]!;
    const trace = await place.services.traces.ofStrand(business, role, strand, 'subscription');
    expect(trace.crumb).toBe(`subscription ${subscription}`);
    expect(trace.events.map(({ text }) => text)).toContain(`Signed up for a subscription, number \`${subscription}\``);
  });
});
