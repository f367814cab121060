import { expect, it } from 'vitest';
import type { TellingRule } from '../../src/core/outcomes/schema';
import { makeEditor, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, move, outside, place, qualify, rest, reportBackOf, takenBy, time } from './walks';

/* The ways in which a platform is told: by what it knows people by, as a test, or not at all, only worked out. */

let releases = 1;
/** Makes a release in which Quillsearch is told of FLT-QUAL in another way. */
async function tellBy(change: Partial<TellingRule>): Promise<void> {
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + 60_000);
  releases += 1;
  await place.services.releases.make(larkmoor.id, {
    name: `Way ${releases}`,
    note: '',
    content: {
      ...content,
      telling: content.telling.map((rule) => (rule.platform === 'quillsearch' ? { ...rule, ...change } : rule)),
    },
  });
  move(time + 60_000);
}
const usual = { secondKey: 'none', how: 'told', from: '' } as const;

/** A deal of somebody who enquired by no page: its record has no click. */
async function enquireElsewhere(mail: string): Promise<string> {
  const made = await crm('/api/deals', {
    person: { name: `Ida of ${mail || 'nowhere'}`, mail, telephone: '', company: `Tern ${mail}` },
    fields: {},
    amounts: { lease_profit: { amount: '540', currency: 'GBP' } },
  });
  const { id } = (await made.json()) as { id: string };
  await deliver();
  await rest();
  return id;
}
/** Somebody who is signed in at Quillsearch clicks on an ad of which no page keeps the click ID. */
const clickAs = (mail: string) =>
  outside.quillsearch.app.request('/click/uk-27q1-fleet-winterproof.hill-video', {
    headers: { cookie: `signed-in=${encodeURIComponent(mail)}` },
  });
async function onward(minutes = 70): Promise<void> {
  move(time + minutes * 60_000);
  await rest();
}
const reportBacks = () =>
  rowsOf<{ kind: string; key: string; state: string; reason: { code: string } | null }>(
    place.db,
    'SELECT key_kind AS kind, key_value AS `key`, state, reason FROM report_backs ORDER BY made_at, id',
  );

it('of whom no click was ever known a platform is told by the email address, which is kept nowhere', async () => {
  await tellBy({ secondKey: 'mail', delayMinutes: 60 });
  await clickAs('ida@tern.example');
  move(time + 60_000);
  const known = await enquireElsewhere('Ida@tern.example');
  const unknown = await enquireElsewhere('una@sloan.example');
  const nobody = await enquireElsewhere('');
  const { deal } = await ask();
  for (const one of [known, unknown, nobody, deal]) await qualify(one);
  await onward();
  const told = await reportBacks();
  expect(told.map(({ kind, state }) => `${kind} ${state}`).sort()).toEqual([
    'click_id confirmed',
    'mail_hash confirmed',
    'mail_hash refused',
  ]);
  expect(await takenBy()).toBe(2);
  expect(told.filter(({ kind }) => kind === 'mail_hash').map(({ key }) => key)).toEqual(['', '']);
  const kept = await rowsOf<{ text: string }>(place.db, 'SELECT CAST(sent AS CHAR) AS text FROM attempts');
  for (const { text } of kept) expect(text).not.toMatch(/[0-9a-f]{64}/);
  expect(kept.some(({ text }) => text.includes('hashed, not kept'))).toBe(true);
});

it('while the CRM is away nobody is told by email, and then they are', async () => {
  await clickAs('ada@tern.example');
  move(time + 60_000);
  const deal = await enquireElsewhere('ada@tern.example');
  await qualify(deal);
  const before = await takenBy();
  await outside.oakledger.app.request('/faults', {
    method: 'POST',
    body: new URLSearchParams({ kind: 'broken', seconds: '0' }),
  });
  await onward();
  const [last] = (await reportBacks()).slice(-1);
  expect(last).toMatchObject({ kind: 'mail_hash', state: 'waiting' });
  expect(await takenBy()).toBe(before);
  await outside.oakledger.app.request('/faults', {
    method: 'POST',
    body: new URLSearchParams({ kind: 'none', seconds: '0' }),
  });
  await onward();
  expect((await reportBacks()).slice(-1)[0]).toMatchObject({ state: 'confirmed' });
  expect(await takenBy()).toBe(before + 1);
});

it('a click that is known is told by itself alone, also where the CRM lost it', async () => {
  const { deal, qsid } = await ask({ form: 'call-back' });
  const before = await takenBy();
  await qualify(deal);
  await onward();
  expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'no_click_in_crm' } });
  expect(await takenBy()).toBe(before);
});

it('asked as a test, the platform answers row by row and counts nothing, and nobody is told later', async () => {
  await tellBy({ ...usual, how: 'tested' });
  const before = await takenBy();
  const good = await ask();
  const wrong = await ask({ clickId: 'QsNobodyHasThis00' });
  for (const { deal } of [good, wrong]) await qualify(deal);
  await onward();
  const tested = (answer: string) => ({
    state: 'withdrawn',
    reason: { code: 'tested', platform: 'Quillsearch', answer },
  });
  expect(await reportBackOf(good.qsid)).toMatchObject(tested('taken'));
  expect(await reportBackOf(wrong.qsid)).toMatchObject(tested('no such click'));
  expect(await takenBy()).toBe(before);
  await tellBy(usual);
  await qualify(good.deal, 'Offer');
  await onward();
  expect(await reportBackOf(good.qsid)).toMatchObject(tested('taken'));
  expect(await takenBy()).toBe(before);
});

it('only worked out, it is told to nobody; from the stated moment on it is told', async () => {
  await tellBy({ ...usual, how: 'worked out' });
  const before = await takenBy();
  const early = await ask();
  await qualify(early.deal);
  await onward();
  const workedOut = { state: 'withdrawn', reason: { code: 'worked_out' } };
  expect(await reportBackOf(early.qsid)).toMatchObject(workedOut);
  const from = time + 6 * 3_600_000;
  await tellBy({ ...usual, from: new Date(from).toISOString() });
  const between = await ask();
  await qualify(between.deal);
  await onward();
  expect(await reportBackOf(between.qsid)).toMatchObject(workedOut);
  move(from + 60_000);
  const late = await ask();
  await qualify(late.deal);
  await qualify(between.deal, 'Offer');
  await onward();
  expect(await reportBackOf(late.qsid)).toMatchObject({ state: 'confirmed' });
  expect(await reportBackOf(between.qsid)).toMatchObject(workedOut);
  expect(await takenBy()).toBe(before + 1);
});

it('what a platform counts without being told of it is named beside the outcomes', async () => {
  const { member } = await makeEditor(place.services, larkmoor.id);
  const { counters: none } = await place.services.outcomesStation.view(member);
  expect(none.map(({ words }) => words).filter((words) => words.includes('Quillsearch'))).toEqual([]);
  const account = (await place.services.accounts.byKey(larkmoor.id, 'quillsearch'))!;
  const row = { businessId: larkmoor.id, accountId: account.id, day: '2027-02-01', readAt: new Date(time) };
  await place.services.context.tables.outcomeReports.create({ ...row, outcome: 'their-own-tag', counted: 12 });
  const { counters } = await place.services.outcomesStation.view(member);
  expect(counters.map(({ words }) => words)).toContain(
    'Quillsearch, Larkmoor Cargo Bikes counted `their-own-tag` 12 times without being told of it by a rule.',
  );
});
