import { afterAll, beforeAll, expect } from 'vitest';
import { arrive, decideFills, nothingKept, type Hit } from '../../src/core/capture';
import { hiddenFields } from '../../src/core/capture/rules.fixture';
import { captureRules } from '../../src/core/releases';
import { setClock } from '../../src/server/clock';
import type { Membership } from '../../src/server/people/people';
import { idAt, makePlace, noon, rowsOf, setUpLarkmoor } from './place';
import { startOutside } from './outside';

/* Clicks that are followed to their end by hand, in a database and among stand-ins of this test file's own. */

export let outside: Awaited<ReturnType<typeof startOutside>>;
export let place: Awaited<ReturnType<typeof makePlace>>;
export let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
export let visitors = 0;
export let time = noon;

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

export function move(to: number): void {
  time = to;
  setClock(to);
  outside.moveTo(to);
}
export const rest = async () => {
  await place.services.spoolWriter.drain();
  await place.services.runner.runToRest();
};
export const crm = (path: string, body: object) =>
  outside.oakledger.app.request(path, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });

/** Connects Meterhall, as an editor does. */
export const connectMeterhall = (member: Membership, editor: string) =>
  place.services.connections.connect(member, editor, {
    kind: 'meterhall',
    name: 'Meterhall',
    endpoint: outside.around.originOf('meterhall'),
    timeZone: 'Europe/London',
    currency: 'GBP',
    token: outside.around.key('meterhall key'),
    webhookSecret: '',
    keepClickId: false,
  });

/** The headers of a webhook of Oakledger. */
export const sealedBy = (sent: string, seal: string) => (name: string) =>
  ({ 'oakledger-sent': sent, 'oakledger-seal': seal })[name] ?? '';

/** Hands over what Oakledger has sent since, as the edge does. */
export async function deliver(): Promise<void> {
  await outside.oakledger.rest();
  const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
  for (const { body, sent, seal } of outside.webhooks.splice(0))
    await place.services.crmEvents.take(account, body, sealedBy(sent, seal));
}

interface Walk {
  form?: 'test-ride' | 'call-back';
  clickId?: string;
  token?: boolean;
  /** False where the form's back end does not pass it on. */
  reaches?: boolean;
  /** What the page said of advertising. */
  advertising?: 'yes' | 'no';
  /** The release under which the pages ran. */
  release?: number;
  /** What the event of the form takes along. */
  reads?: Record<string, string>;
}

/** An ad's click, a landing, a form and its deal in the CRM. */
export async function ask({
  form = 'test-ride',
  clickId,
  token = true,
  reaches = true,
  advertising,
  release = 1,
  reads,
}: Walk = {}) {
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
    release,
    visitor,
    visit: visitor,
    address: landing.href,
    referrer: '',
    kept: { works: true, first: kept.first, last: kept.last, clicks: kept.clicks },
    ...(advertising ? { consent: { measurement: 'yes' as const, advertising } } : {}),
  };
  const hits: Hit[] = [
    { ...common, id: idAt(time, 2 * n), at: time, kind: 'arrived', navigation: 'navigate', why: decision.because },
    {
      ...common,
      id: idAt(time + 1, 2 * n + 1),
      at: time + 1,
      kind: 'form_sent',
      form,
      leadToken,
      fields: names,
      fills: report,
    },
  ];
  if (reads)
    hits.push({
      ...common,
      id: idAt(time + 2, 40_000 + n),
      at: time + 2,
      kind: 'event',
      event: 'enquiry_sent',
      key: leadToken,
      cue: 0,
      reads: Object.entries(reads).map(([reading, value]) => ({ reading, value })),
    });
  expect(await place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits }))).toEqual([]);
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

/** A browser opens a page. `n` tells hits of one moment apart. */
export const opened = (visitor: string, at: number, path: string, n: number) => ({
  ...{
    id: idAt(at, n),
    at,
    kind: 'arrived',
    visitor,
    visit: visitor,
    release: 1,
    referrer: '',
    navigation: 'navigate',
  },
  address: `http://larkmoor.localhost${path}`,
  why: path.includes('utm_source=') ? 'campaign_values' : 'no_referrer',
  kept: { works: true, first: null, last: null, clicks: [] },
});

/** Pages tell their hits, and all that follows of them is done. */
export async function tell(hits: object[]): Promise<void> {
  for (let from = 0; from < hits.length; from += 50) {
    const body = JSON.stringify({ clock: time, hits: hits.slice(from, from + 50) });
    expect(await place.services.collect(larkmoor.known, body)).toEqual([]);
  }
  await rest();
}

export async function qualify(deal: string, stage = 'Fleet assessed'): Promise<void> {
  await crm(`/api/deals/${deal}/stage`, { stage });
  await deliver();
  await rest();
}

export const strandOf = async (clickId: string) =>
  (
    await rowsOf<{ reached: number; state: string | null; reason: string | null }>(
      place.db,
      `SELECT COALESCE(w.reached, b.reached) AS reached, IF(w.strand_id IS NULL, b.state, w.state) AS state,
         IF(w.strand_id IS NULL, b.reason, w.reason) AS reason
       FROM strands s JOIN standings b ON b.strand_id = s.id AND b.way_in = 'none'
       LEFT JOIN standings w ON w.strand_id = s.id AND w.way_in = 'form' WHERE s.click_id = ?`,
      [clickId],
    )
  )[0];
export const reportBackOf = async (clickId: string) =>
  (
    await rowsOf<{ id: string; state: string; reason: object | null }>(
      place.db,
      'SELECT id, state, reason FROM report_backs WHERE key_value = ?',
      [clickId],
    )
  )[0];
export const countOf = async (table: string) =>
  Number((await rowsOf<{ n: number }>(place.db, `SELECT COUNT(*) AS n FROM ${table}`))[0]!.n);
export const takenBy = async () => {
  const page = await outside.quillsearch.app.request('/api/report/outcomes?from=2026-01-01&to=2028-01-01', {
    headers: { authorization: `Bearer ${outside.around.key('quillsearch token')}` },
  });
  const { rows } = (await page.json()) as { rows: { counted: number }[] };
  return rows.reduce((sum, row) => sum + row.counted, 0);
};
