import { createHmac } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { callCode } from '../../src/core/capture/call-code';
import { usualReading } from '../../src/server/leads/calls/settings';
import type { Membership } from '../../src/server/people/people';
import { everything } from '../../src/core/strands/schema';
import { makeEditor, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, move, place, qualify, rest, strandOf, time } from './walks';

/* Calls: told by the telephone system, from a file or by hand; found by the code that was said or the number dialled. */

const minute = 60_000;
const day = 86_400_000;
let member: Membership;
let secret = '';
let calls = 0;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  ({ secret } = await place.services.calls.makeSecret(member));
  const { settings } = await place.services.calls.setUp(member);
  await place.services.calls.setSettings(member, { ...settings, reading: usualReading });
});

interface Told {
  dialled?: string;
  caller?: string;
  seconds?: number;
  answered?: boolean;
  reference?: string;
  started_at?: string;
  id?: string;
}
const numberOf = (n: number) => `07700 900${String(100 + n)}`;
/** A call that ended now, as the telephone system tells of it. */
async function ring(told: Told = {}) {
  const n = (calls += 1);
  const seconds = told.seconds ?? 180;
  const call = {
    id: `call ${n}`,
    dialled: '+44 1632 960018',
    caller: numberOf(n),
    started_at: new Date(time - seconds * 1000).toISOString(),
    answered: seconds > 0,
    reference: '',
    ...told,
    seconds,
  };
  const answer = await send(JSON.stringify(call), { authorization: `Bearer ${secret}` });
  await rest();
  return { ...answer, call };
}
const send = (body: string, headers: Record<string, string>) =>
  place.services.takeCalls.webhook({ id: larkmoor.id, timeZone: 'Europe/London' }, body, (name) => headers[name] ?? '');
const callRow = async (id: string) =>
  (
    await rowsOf<{ became: string; found: string; enquiryId: string | null }>(
      place.db,
      'SELECT became, found, enquiry_id AS enquiryId FROM calls WHERE number = ?',
      [id],
    )
  )[0]!;
const enquiryOf = async (id: string) =>
  (
    await rowsOf<{ quality: string; answeredAt: Date | null; touch: string | null; form: string; sentAt: Date }>(
      place.db,
      `SELECT e.quality, e.answered_at AS answeredAt, t.source AS touch, e.form, e.sent_at AS sentAt FROM enquiries e
       LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id WHERE e.id = ?`,
      [id],
    )
  )[0]!;

/** Somebody who came by an ad and reads out the code on the page. */
async function visitByAd() {
  const { qsid, visitor } = await ask({ reaches: false });
  move(time + 5 * minute);
  return { qsid, code: callCode(visitor) };
}
/** Sales makes a record of a caller by hand. */
async function noteIn(caller: string, fields: Record<string, string> = {}): Promise<string> {
  const person = {
    name: 'Rhys Oriel',
    mail: `rhys${calls}@oriel.example`,
    telephone: caller,
    company: `Oriel ${calls}`,
  };
  const made = await crm('/api/deals', {
    person,
    fields,
    amounts: { lease_profit: { amount: '540', currency: 'GBP' } },
  });
  await deliver();
  await rest();
  return ((await made.json()) as { id: string }).id;
}

describe('a call', () => {
  it('finds its visit by the code, is an enquiry that was answered, and goes on to its platform', async () => {
    const { qsid, code } = await visitByAd();
    const { call } = await ring({ reference: code.toLowerCase().replace('-', ' ') });
    const row = await callRow(call.id);
    expect(row).toMatchObject({ became: 'enquiry', found: 'code' });
    expect(await enquiryOf(row.enquiryId!)).toMatchObject({
      quality: 'answering',
      answeredAt: new Date(call.started_at),
      touch: 'quillsearch',
      form: 'Fleet line',
    });
    const hops = await rowsOf<{ hop: string; state: string }>(
      place.db,
      "SELECT hop, state FROM hops WHERE subject_id = ? AND way_in = 'call'",
      [row.enquiryId!],
    );
    expect(hops).toEqual(expect.arrayContaining([{ hop: 'called', state: 'made_it' }]));
    const deal = await noteIn(call.caller, { click_id: qsid });
    expect((await callRow(call.id)).enquiryId).toBe(row.enquiryId);
    await qualify(deal);
    const told = await rowsOf<{ state: string }>(place.db, 'SELECT state FROM report_backs WHERE key_value = ?', [
      qsid,
    ]);
    expect(told).toEqual([{ state: 'confirmed' }]);
    // Whoever called is in the CRM now, and kept here no longer.
    expect(await rowsOf(place.db, 'SELECT id FROM calls WHERE number = ? AND caller IS NOT NULL', [call.id])).toEqual(
      [],
    );
  });

  it('whose record lacks the click is lost there, and repaired', async () => {
    const { qsid, code } = await visitByAd();
    const { call } = await ring({ reference: code });
    await noteIn(call.caller);
    const { enquiryId } = await callRow(call.id);
    const lost = () =>
      rowsOf<{ state: string; code: string }>(
        place.db,
        `SELECT state, JSON_VALUE(reason, '$.code') AS code FROM hops WHERE subject_id = ? AND hop = 'in_crm'`,
        [enquiryId!],
      );
    expect(await lost()).toEqual([{ state: 'lost', code: 'crm_value_empty' }]);
    await place.services.repair.repair(member, 'Maud');
    await rest();
    await deliver();
    await rest();
    expect(await lost()).toMatchObject([{ state: 'made_it' }]);
    expect(await strandOf(qsid)).toBeDefined();
  });

  it('to a number of one source comes from there, beside the line', async () => {
    const { call } = await ring({ dialled: '0044 1632 960027' });
    const { enquiryId, found } = await callRow(call.id);
    expect([found, (await enquiryOf(enquiryId!)).touch]).toEqual(['number', 'cargo-fair']);
    const line = await place.services.strands.line(member.business, member.role, {
      range: 'week',
      way: 'call',
      ...everything,
    });
    expect(line.way).toBe('call');
    expect(line.beside).toBeGreaterThanOrEqual(1);
  });

  it('is told twice, or as it goes on, and is one', async () => {
    const { call, taken } = await ring({ seconds: 0, answered: false, reference: '' });
    expect(taken).toBe(1);
    const again = await ring({ ...call, seconds: 200, answered: true });
    expect(again).toMatchObject({ taken: 0, known: 1 });
    const rows = await rowsOf<{ seconds: number }>(place.db, 'SELECT seconds FROM calls WHERE number = ?', [call.id]);
    expect(rows).toEqual([{ seconds: 200 }]);
    // What is told late of its beginning takes nothing back.
    await ring({ ...call });
    const { enquiryId } = await callRow(call.id);
    expect((await enquiryOf(enquiryId!)).quality).toBe('answering');
  });

  it('that nobody answered is unanswered until the caller is spoken with; both are one enquiry', async () => {
    const caller = '07700 900901';
    const missed = await ring({ caller, seconds: 0 });
    const { enquiryId } = await callRow(missed.call.id);
    expect((await enquiryOf(enquiryId!)).quality).toBe('unanswered');
    move(time + 2 * 3_600_000);
    const { code } = await visitByAd();
    const spoken = await ring({ caller: '+44 7700 900901', reference: code });
    expect(await callRow(spoken.call.id)).toMatchObject({ became: 'again', enquiryId });
    const enquiry = await enquiryOf(enquiryId!);
    expect([enquiry.quality, enquiry.touch, enquiry.sentAt]).toEqual([
      'answering',
      'quillsearch',
      new Date(missed.call.started_at),
    ]);
    move(time + 8 * day);
    const later = await ring({ caller });
    expect(await callRow(later.call.id)).toMatchObject({ became: 'enquiry' });
  });

  it('that is too short is listed and no enquiry; neither is a missed one where it is said so', async () => {
    const { call } = await ring({ seconds: 8 });
    expect(await callRow(call.id)).toMatchObject({ became: 'too short', enquiryId: null });
    const { settings } = await place.services.calls.setUp(member);
    await place.services.calls.setSettings(member, { ...settings, missedCount: false });
    const missed = await ring({ seconds: 0 });
    expect(await callRow(missed.call.id)).toMatchObject({ became: 'missed', enquiryId: null });
    await place.services.calls.setSettings(member, settings);
  });

  it('with a code that was misheard is named, and looked for again while its page may still tell', async () => {
    const { call } = await ring({ reference: 'ZZZ-ZZZZ' });
    expect(await callRow(call.id)).toMatchObject({ became: 'enquiry', found: 'unknown code' });
    const due = await rowsOf<{ n: number }>(place.db, "SELECT COUNT(*) AS n FROM work WHERE kind = 'call'");
    expect(Number(due[0]!.n)).toBe(1);
    move(time + 2 * day);
    await rest();
    expect(await rowsOf(place.db, "SELECT subject FROM work WHERE kind = 'call'")).toEqual([]);
  });
});

describe('what is sent', () => {
  it('is taken only with the secret, by the header or sealed', async () => {
    const body = JSON.stringify({ id: 'x', dialled: '01632 960018', started_at: new Date(time).toISOString() });
    await expect(send(body, { authorization: 'Bearer wrong' })).rejects.toThrow(/seal/i);
    await expect(send(body, {})).rejects.toThrow(/seal/i);
    const { settings } = await place.services.calls.setUp(member);
    await place.services.calls.setSettings(member, { ...settings, proof: 'hmac', header: 'x-seal' });
    const seal = createHmac('sha256', secret).update(body).digest('hex');
    expect(await send(body, { 'x-seal': `sha256=${seal}` })).toMatchObject({ taken: 1 });
    await expect(send(`${body} `, { 'x-seal': seal })).rejects.toThrow(/seal/i);
    await place.services.calls.setSettings(member, settings);
  });

  it('is read as a form or a list too; what cannot be read is named, and the rest is taken', async () => {
    const headers = { authorization: `Bearer ${secret}` };
    const form = new URLSearchParams({ id: 'f 1', dialled: '01632 960018', started_at: '2027-02-01 10:00' }).toString();
    expect(await send(form, { ...headers, 'content-type': 'application/x-www-form-urlencoded' })).toMatchObject({
      taken: 1,
    });
    const { settings } = await place.services.calls.setUp(member);
    const reading = { ...settings.reading, calls: '/calls' };
    await place.services.calls.setSettings(member, { ...settings, reading });
    const list = [
      { id: 'l 1', dialled: '01632 960018', started_at: 'soon' },
      { id: 'l 2', dialled: '01632 960018', started_at: '2027-02-01 10:05' },
    ];
    expect(await send(JSON.stringify({ calls: list }), headers)).toMatchObject({
      taken: 1,
      refused: [{ at: 0, was: '“soon” at /started_at is no time' }],
    });
    expect((await place.services.calls.setUp(member)).lastProblem).toContain('“soon” at /started_at is no time');
    await expect(send(JSON.stringify({ calls: [list[0]] }), headers)).rejects.toThrow('“soon”');
    await expect(send('{', headers)).rejects.toThrow(/JSON/);
    await place.services.calls.setSettings(member, settings);
  });
});

describe('a file', () => {
  const file = (text: string) => new Request('http://avrix.localhost/', { method: 'POST', body: text });
  it('is taken by what its columns are called, each row once, rows that cannot be read named', async () => {
    const csv = [
      'Call ID;Number dialled;Caller;Start;Duration;Answered',
      '1;01632 960018;07700 900801;15/01/2027 10:00;3:10;yes',
      '2;01632 960018;07700 900802;soon;3:10;yes',
      '3;01632 960018;;15/01/2027 11:00;0;no',
    ].join('\n');
    const renamed = csv.replace('Number dialled', 'Dialled number');
    expect(await place.services.calls.readFile(member, file(renamed))).toEqual({
      taken: 2,
      known: 0,
      refused: [{ row: 'row 3', was: '“soon” at /start is no time', fix: expect.any(String) as string }],
    });
    expect(await place.services.calls.readFile(member, file(renamed))).toMatchObject({ taken: 0, known: 2 });
    await rest();
    expect(await callRow('1')).toMatchObject({ became: 'enquiry' });
  });

  it('without the columns that are needed says which, and nothing of it is taken', async () => {
    await expect(place.services.calls.readFile(member, file('what,who\n1,2\n'))).rejects.toThrow(
      /no column holds the number dialled; there are/,
    );
  });
});

it('is added by hand by an editor, in the time of the business, and by nobody else', async () => {
  const given = {
    dialled: '01632 960018',
    caller: '',
    startedAt: '2027-01-20 09:30',
    minutes: 4,
    answered: true,
    reference: '',
  };
  const view = await place.services.calls.add(member, given);
  expect(view.calls.find(({ startedAt }) => startedAt === '2027-01-20T09:30:00.000Z')).toMatchObject({ seconds: 240 });
  await expect(place.services.calls.add(member, { ...given, startedAt: 'later' })).rejects.toThrow();
  const reader = { ...member, role: { ...member.role, role: 'reader' as const } };
  await expect(place.services.calls.add(reader, given)).rejects.toThrow();
  const blind = { ...member, role: { ...member.role, seesPeople: false } };
  const hidden = await place.services.calls.view(blind);
  expect(JSON.stringify(hidden)).not.toMatch(/07700/);
});

it('has no two numbers that are the same, and a retired one keeps what it brought', async () => {
  const again = {
    id: '',
    number: '+44 (0)1632 960027'.replace('(0)', ''),
    name: 'Other',
    source: '',
    medium: '',
    campaign: '',
    content: '',
  };
  await expect(place.services.calls.saveNumber(member, again)).rejects.toThrow(
    '“Cargo fair flyer” has this number already',
  );
  const flyer = (await place.services.calls.view(member)).numbers.find(({ name }) => name === 'Cargo fair flyer')!;
  const { numbers } = await place.services.calls.retireNumber(member, flyer.id, true);
  expect(numbers.find(({ id }) => id === flyer.id)).toMatchObject({ isRetired: true, calls: 1, enquiries: 1 });
});
