import { createHmac } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrive, decideFills, nothingKept, type Hit } from '../../src/core/capture';
import { hiddenFields } from '../../src/core/capture/rules.fixture';
import { captureRules } from '../../src/core/releases';
import { setClock } from '../../src/server/clock';
import { day, idAt, makePlace, noon, rowsOf, setUpLarkmoor } from './place';
import { startOutside } from './outside';

let outside: Awaited<ReturnType<typeof startOutside>>;
let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let visitors = 0;
let time = noon;

beforeAll(async () => {
  outside = await startOutside();
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: outside.hosts });
  move(noon);
  larkmoor = await setUpLarkmoor(place.services, outside.places);
  await outside.quillsearch.app.request('/account/outcomes', {
    method: 'POST',
    body: new URLSearchParams({ code: 'FLT-QUAL' }),
  });
  move(noon + 4 * 3_600_000);
});
afterAll(async () => {
  await place.end();
  outside.end();
});

function move(to: number): void {
  time = to;
  setClock(to);
  outside.moveTo(to);
}
const rest = async () => {
  await place.services.spoolWriter.drain();
  await place.services.runner.runToRest();
};
const crm = (path: string, body: object) =>
  outside.oakledger.app.request(path, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });

/** Hands over what Oakledger has sent since, as the edge does. */
async function deliver(): Promise<void> {
  await outside.oakledger.rest();
  const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
  for (const { body, sent, seal } of outside.webhooks.splice(0))
    await place.services.crmEvents.take(account, body, sent, seal);
}

interface Walk {
  form?: 'test-ride' | 'call-back';
  clickId?: string;
  token?: boolean;
  /** False where the form's back end does not pass it on. */
  reaches?: boolean;
  /** What the page said of advertising. */
  advertising?: 'yes' | 'no';
}

/** An ad's click, a landing, a form and its deal in the CRM. */
async function ask({ form = 'test-ride', clickId, token = true, reaches = true, advertising }: Walk = {}) {
  const n = (visitors += 1);
  const { headers } = await outside.quillsearch.app.request('/click/uk-27q1-fleet-winterproof.hill-video');
  const landing = new URL(headers.get('location')!);
  const qsid = clickId ?? landing.searchParams.get('qsid')!;
  landing.searchParams.set('qsid', qsid);
  const rules = captureRules(await place.services.releases.live(larkmoor.id));
  const visitor = idAt(time, 5000 + n);
  const arrival = { at: time, address: landing.href, referrer: '', navigation: 'navigate' } as const;
  const { kept, decision } = arrive(nothingKept(), arrival, rules, { visitor, visit: visitor });
  const names = [form === 'test-ride' ? 'click_id' : 'click_ref', 'source'];
  const { fills, report } = decideFills({ name: form, page: '/fleet', fields: hiddenFields(names) }, kept, rules);
  const leadToken = idAt(time, 7000 + n);
  const common = {
    ...{ release: 1, visitor, visit: visitor, address: landing.href, referrer: '' },
    kept: { works: true, first: kept.first, last: kept.last, clicks: kept.clicks },
    ...(advertising ? { consent: { measurement: 'yes' as const, advertising } } : {}),
  };
  const hits: Hit[] = [
    { ...common, id: idAt(time, 2 * n), at: time, kind: 'arrived', navigation: 'navigate', why: decision.because },
    {
      ...{ ...common, id: idAt(time + 1, 2 * n + 1), at: time + 1, kind: 'form_sent', form, leadToken },
      ...{ fields: names, fills: report },
    },
  ];
  expect(await place.services.collect(larkmoor.known, JSON.stringify({ sentAt: time, hits }))).toEqual([]);
  await rest();
  if (!reaches) return { deal: '', qsid, visitor };
  const made = await crm('/api/deals', {
    person: { name: `Anna ${n}`, mail: `anna${n}@oriel.example`, telephone: '', company: `Bakery ${n}` },
    fields: {
      ...Object.fromEntries(fills.map(({ field, value }) => [names[field], value])),
      ...(token ? { avx_lead: leadToken } : {}),
    },
    amounts: { lease_profit: { amount: '540', currency: 'GBP' } },
  });
  const { id: deal } = (await made.json()) as { id: string };
  await deliver();
  await rest();
  return { deal, qsid, visitor };
}

async function qualify(deal: string, stage = 'Fleet assessed'): Promise<void> {
  await crm(`/api/deals/${deal}/stage`, { stage });
  await deliver();
  await rest();
}

const strandOf = async (clickId: string) =>
  (
    await rowsOf<{ reached: number; state: string | null; reason: string | null }>(
      place.db,
      'SELECT form_reached AS reached, form_state AS state, form_reason AS reason FROM strands WHERE click_id = ?',
      [clickId],
    )
  )[0];
const reportBackOf = async (clickId: string) =>
  (
    await rowsOf<{ id: string; state: string; reason: object | null }>(
      place.db,
      'SELECT id, state, reason FROM report_backs WHERE click_id = ?',
      [clickId],
    )
  )[0];
const countOf = async (table: string) =>
  Number((await rowsOf<{ n: number }>(place.db, `SELECT COUNT(*) AS n FROM ${table}`))[0]!.n);
const takenBy = async () => {
  const page = await outside.quillsearch.app.request('/api/report/outcomes?from=2026-01-01&to=2028-01-01', {
    headers: { authorization: `Bearer ${outside.around.key('quillsearch token')}` },
  });
  const { rows } = (await page.json()) as { rows: { counted: number }[] };
  return rows.reduce((sum, row) => sum + row.counted, 0);
};

describe('one click becomes one confirmed report-back', () => {
  it('hop by hop, with the worth of the deal times the win rate', async () => {
    const { deal, qsid } = await ask();
    expect(await strandOf(qsid)).toMatchObject({ reached: 5, state: 'waiting' });
    await qualify(deal);
    expect(await strandOf(qsid)).toMatchObject({ reached: 8, state: null });
    const [outcome] = await rowsOf<{ worth_minor: number; currency: string; win_rate: string }>(
      place.db,
      'SELECT worth_minor, currency, win_rate FROM outcomes',
    );
    expect({ ...outcome, worth_minor: Number(outcome!.worth_minor) }).toEqual({
      worth_minor: 13_500,
      currency: 'GBP',
      win_rate: '1 of 4',
    });
    expect(await takenBy()).toBe(1);
  });

  it('once, although the webhook came twice, the deal went back and forth, and a later stage followed', async () => {
    const { deal, qsid } = await ask();
    await qualify(deal);
    const taken = await takenBy();
    const outcomes = await countOf('outcomes');
    await crm(`/api/deals/${deal}/stage`, { stage: 'Spoken' });
    await outside.oakledger.rest();
    outside.webhooks.push(...outside.webhooks);
    await deliver();
    await rest();
    await qualify(deal);
    await qualify(deal, 'Offer');
    expect([await takenBy(), await countOf('outcomes')]).toEqual([taken, outcomes]);
    expect(await strandOf(qsid)).toMatchObject({ reached: 8 });
    expect(await rowsOf(place.db, 'SELECT crm_event FROM crm_events GROUP BY crm_event HAVING COUNT(*) > 1')).toEqual(
      [],
    );
  });

  it('also where its stage was passed over', async () => {
    const { deal, qsid } = await ask();
    await qualify(deal, 'Offer');
    expect(await strandOf(qsid)).toMatchObject({ reached: 8 });
  });
});

describe('where the value is lost', () => {
  it('by an address of one’s own is no customer’s only from the release on that says so', async () => {
    const { deal } = await ask();
    const n = visitors;
    const { content } = await place.services.releases.live(larkmoor.id);
    const noCustomer = { ...content.noCustomer, mailDomains: ['oriel.example'] };
    await place.services.releases.make(larkmoor.id, { name: 'Our own', note: '', content: { ...content, noCustomer } });
    await qualify(deal);
    // Both sides of the enquiry judge it alike, or they would call each other for ever.
    await place.services.runner.runToRest();
    const [row] = await rowsOf<{ marked: string }>(place.db, 'SELECT marked FROM enquiries WHERE crm_deal = ?', [deal]);
    expect([row, n]).toEqual([{ marked: '' }, visitors]);
    await place.services.releases.make(larkmoor.id, { name: 'As before', note: '', content });
  });

  it('of somebody who said no to advertising is held, and told to nobody', async () => {
    const { deal, qsid } = await ask({ advertising: 'no' });
    const before = await takenBy();
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'no_consent' } });
    expect(await takenBy()).toBe(before);
  });

  it('of somebody who took it back before it was told is held too', async () => {
    const { deal, qsid, visitor } = await ask({ advertising: 'yes' });
    const hit = {
      ...{ id: idAt(time + 5, 60_000), at: time + 5, release: 1, visitor, visit: visitor, referrer: '' },
      ...{ address: 'http://larkmoor.localhost/fleet', kept: { works: true, first: null, last: null, clicks: [] } },
      ...{ kind: 'consent', consent: { measurement: 'no', advertising: 'no' } },
    };
    expect(await place.services.collect(larkmoor.known, JSON.stringify({ sentAt: time, hits: [hit] }))).toEqual([]);
    await rest();
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'no_consent' } });
  });

  it('the call-back form’s field dies in the CRM, which is named, and its report-back is held', async () => {
    const { deal, qsid } = await ask({ form: 'call-back' });
    const lost = await strandOf(qsid);
    expect(lost).toMatchObject({ reached: 4, state: 'lost' });
    expect(JSON.parse(lost!.reason!)).toEqual({
      code: 'crm_field_differs',
      form: 'call-back',
      sent: 'click_ref',
      read: 'click_id',
    });
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'no_click_in_crm' } });
    expect(await strandOf(qsid)).toMatchObject({ reached: 4, state: 'lost' });
  });

  it('a click that the platform does not know is refused, and lost at Confirmed', async () => {
    const { deal, qsid } = await ask({ clickId: 'Qz-of-another-account' });
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'refused' });
    const strand = await strandOf(qsid);
    expect([strand!.reached, strand!.state, JSON.parse(strand!.reason!).answer]).toEqual([7, 'lost', 'no such click']);
  });

  it('a form that never reaches the CRM is lost after a day', async () => {
    const { qsid } = await ask({ reaches: false });
    expect(await strandOf(qsid)).toMatchObject({ reached: 4, state: 'waiting' });
    move(time + day + 1);
    await rest();
    const strand = await strandOf(qsid);
    expect([strand!.reached, strand!.state, JSON.parse(strand!.reason!).code]).toEqual([4, 'lost', 'crm_never']);
  });
});

describe('joining an enquiry to its visit', () => {
  it('goes by the click ID where the CRM has no lead token', async () => {
    const { deal } = await ask({ token: false });
    const [row] = await rowsOf<{ joined_by: string }>(place.db, 'SELECT joined_by FROM enquiries WHERE crm_deal = ?', [
      deal,
    ]);
    expect(row!.joined_by).toBe('click ID');
  });

  it('leaves a deal without any trace of a visit beside the line', async () => {
    const made = await crm('/api/deals', {
      person: { name: 'Teun', mail: 'teun@vetch.example', telephone: '', company: 'Vetch' },
      ...{ fields: {}, amounts: {} },
    });
    const { id } = (await made.json()) as { id: string };
    await deliver();
    await rest();
    const [row] = await rowsOf<{ kind: string }>(
      place.db,
      'SELECT s.kind FROM enquiries e JOIN strands s ON s.id = e.strand_id WHERE e.crm_deal = ?',
      [id],
    );
    expect(row!.kind).toBe('enquiry');
  });
});

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
      ...{ code: 'refused', platform: 'Quillsearch', answer: 'no such click' },
    });
  });
});

describe('a webhook', () => {
  const take = async (body: string, sent: string, seal: string) => {
    const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
    return place.services.crmEvents.take(account, body, sent, seal);
  };

  it('with a wrong seal, a changed body or an old time is refused', async () => {
    await crm('/api/deals', {
      person: { name: 'Lotte', mail: 'lotte@rook.example', telephone: '', company: 'Rook' },
      ...{ fields: {}, amounts: {} },
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
    await place.services.crmEvents.take(account, body, sent, seal);
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
        ...{ fields: {}, amounts: {} },
      });
    await ways('once');
    move(time + 6 * 60_000);
    await rest();
    expect(await countOf('enquiries')).toBe(before + 520);
  });
});
