import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrive, nothingKept, type Hit, type Kept, type ValueRule } from '../../src/core/capture';
import { captureRules } from '../../src/core/releases';
import { setClock } from '../../src/server/clock';
import type { Membership } from '../../src/server/people/people';
import { everything } from '../../src/core/strands/schema';
import { startOutside } from './outside';
import { day, idAt, makeEditor, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let outside: Awaited<ReturnType<typeof startOutside>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let member: Membership;
let editor: string;

const site = 'http://larkmoor.localhost:4310';
const tags = 'utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter';

beforeAll(async () => {
  outside = await startOutside();
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: outside.hosts });
  larkmoor = await setUpLarkmoor(place.services, outside.places);
  setClock(noon + day);
  ({ editor, member } = await makeEditor(place.services, larkmoor.id));
});
afterAll(async () => {
  setClock(null);
  await place.end();
  await outside.end();
});

let n = 0;
interface Visit {
  address?: string;
  ip?: string;
  hit?: Partial<Hit>;
  wait?: number;
}
/** One browser's arrivals, each by an address; returns the visitor with what it keeps in the end. */
async function visit(...steps: Visit[]): Promise<{ visitor: string; kept: Kept }> {
  n += 1;
  const release = await place.services.releases.live(larkmoor.id);
  const visitor = idAt(noon, 4000 + n);
  let kept = nothingKept();
  let at = noon + n * 1000;
  for (const [step, { address = `${site}/fleet?${tags}`, ip = '', hit = {}, wait = 0 }] of steps.entries()) {
    at += wait;
    const arrival = { at, address, referrer: '', navigation: 'navigate' } as const;
    const arrived = arrive(kept, arrival, captureRules(release), { visitor, visit: visitor });
    kept = arrived.kept;
    const { first, last, clicks, values } = kept;
    const sent = {
      id: idAt(at, 10 * n + step),
      at,
      release: release.number,
      visitor,
      visit: visitor,
      address,
      referrer: '',
      kind: 'arrived',
      navigation: 'navigate',
      why: arrived.decision.because,
      kept: { works: true, first, last, clicks, values },
      ...hit,
    };
    const body = JSON.stringify({ clock: at, hits: [sent] });
    expect(await place.services.collect(larkmoor.known, body, { address: ip }, at)).toEqual([]);
  }
  await rest();
  return { visitor, kept };
}
const rest = async () => {
  await place.services.spoolWriter.drain();
  await place.services.runner.runToRest();
};
const marksOf = (visitor: string) =>
  rowsOf<{ marked: string }>(place.db, 'SELECT marked FROM strands WHERE visitor_id = ?', [visitor]).then((rows) =>
    rows.map(({ marked }) => marked),
  );

describe('who is no customer', () => {
  it('is marked by network, and the address itself is stored nowhere', async () => {
    const { visitor } = await visit({ ip: '203.0.113.77' });
    expect(await marksOf(visitor)).toEqual(['network']);
    const tables = await rowsOf<{ t: string; c: string }>(
      place.db,
      `SELECT TABLE_NAME AS t, COLUMN_NAME AS c FROM information_schema.COLUMNS
       WHERE TABLE_SCHEMA = DATABASE() AND DATA_TYPE IN ('varchar', 'char', 'longtext') AND TABLE_NAME IN ('hits', 'visits', 'strands', 'touches')`,
    );
    for (const { t, c } of tables)
      expect(await rowsOf(place.db, `SELECT 1 FROM ${t} WHERE ${c} LIKE '%203.0.113.77%'`)).toEqual([]);
  });

  it('is marked by the link that marks a browser, from then on and back to its first page', async () => {
    const { visitor, kept } = await visit({}, { address: `${site}/?avx_no_customer=yes`, hit: { noCustomer: true } });
    expect(kept.visitor!.noCustomer).toBe(true);
    expect(await marksOf(visitor)).toEqual(['browser']);
  });

  it('is everybody on a host that only its makers open', async () => {
    const { visitor } = await visit({ address: `http://staging.larkmoor.localhost/fleet?${tags}` });
    expect(await marksOf(visitor)).toEqual(['host']);
  });

  it('stands apart, with its number, and not on the line', async () => {
    const { visitor } = await visit({});
    expect(await marksOf(visitor)).toEqual(['']);
    const view = await place.services.noCustomer.view(member);
    expect(view.marked.map(({ mark, strands }) => [mark, strands]).sort()).toEqual([
      ['browser', 1],
      ['host', 1],
      ['network', 1],
    ]);
    expect(view.sentence.title).toBe('3 clicks and 0 enquiries from staff or bots are not counted.');
    const line = await place.services.strands.line(member.business, member.role, {
      range: 'week',
      way: 'form',
      ...everything,
    });
    expect([line.columns[1]!.count, line.noCustomers]).toEqual([1, 3]);
  });

  it('looks back only after a preview that somebody confirms', async () => {
    const { visitor } = await visit({ address: `http://trial.larkmoor.localhost/fleet?${tags}` });
    const { rule } = await place.services.noCustomer.view(member);
    const value = { ...rule, hosts: [...rule.hosts, 'trial.larkmoor.localhost'] };
    await place.services.draft.change(member, editor, [{ kind: 'no_customer', id: '', value }]);
    const { changes } = await place.services.draft.view(member);
    await place.services.releasing.release(member, editor, {
      name: 'No trials',
      seen: changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt })),
    });
    await rest();
    expect(await marksOf(visitor)).toEqual(['']);
    expect(await place.services.noCustomer.preview(member)).toMatchObject({
      hosts: ['staging.larkmoor.localhost', 'trial.larkmoor.localhost'],
      visitors: 2,
    });
    await place.services.noCustomer.apply(member, editor);
    await rest();
    expect(await marksOf(visitor)).toEqual(['host']);
    expect(await place.services.noCustomer.preview(member)).toMatchObject({ hosts: [], visitors: 0 });
  });
});

describe('what somebody agreed to', () => {
  it('is stored with the hit that says so, also the one that takes it back', async () => {
    await visit({ hit: { consent: { measurement: 'yes', advertising: 'yes' } } });
    const at = noon + 500_000;
    const common = {
      id: idAt(at, 999),
      at,
      release: 1,
      visitor: idAt(noon, 4999),
      visit: idAt(noon, 4999),
      address: `${site}/fleet`,
      referrer: '',
      kept: { works: true, first: null, last: null, clicks: [] },
    };
    const hit = { ...common, kind: 'consent', consent: { measurement: 'no', advertising: 'no' } };
    expect(await place.services.collect(larkmoor.known, JSON.stringify({ clock: at, hits: [hit] }), {}, at)).toEqual(
      [],
    );
    await place.services.spoolWriter.drain();
    const said = await rowsOf<{ kind: string; advertising: string }>(
      place.db,
      "SELECT kind, JSON_VALUE(body, '$.consent.advertising') AS advertising FROM hits WHERE body LIKE '%\"consent\"%' ORDER BY kind",
    );
    expect(said).toContainEqual({ kind: 'arrived', advertising: 'yes' });
    expect(said).toContainEqual({ kind: 'consent', advertising: 'no' });
  });

  it('or did not is counted without anything by which anybody is known again, each landing once', async () => {
    const landing = { source: 'larkmoor-letter', medium: 'email', campaign: 'c1' };
    await place.services.countLanding(larkmoor.known, JSON.stringify(landing));
    await place.services.countLanding(larkmoor.known, JSON.stringify(landing));
    await rest();
    expect(await rowsOf(place.db, 'SELECT source, medium, campaign FROM counted_landings')).toEqual([landing, landing]);
    const line = await place.services.strands.line(member.business, member.role, {
      range: 'week',
      way: 'form',
      ...everything,
    });
    expect(line.counted).toBe(2);
    await expect(
      place.services.countLanding(larkmoor.known, JSON.stringify({ ...landing, visitor: 'me' })),
    ).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG', fields: [{ field: 'visitor' }] });
  });
});

describe('values for places outside', () => {
  const ask = async (place_: string, kept: Kept) =>
    place.services.carried.sign(larkmoor.known, JSON.stringify({ place: place_, page: `${site}/fleet`, kept }));
  const enquiriesOf = (form: string) =>
    rowsOf<{ strand: string | null; sent: Date }>(
      place.db,
      'SELECT strand_id AS strand, sent_at AS sent FROM enquiries WHERE form = ?',
      [form],
    );
  const withClick = () => visit({ address: `${site}/fleet?${tags}&qsid=Qs${n}elsewhere` });

  it('come back as they went, for half an hour', async () => {
    const { kept } = await withClick();
    const signed = await ask('Offers', kept);
    expect(await place.services.carried.open(larkmoor.known, signed)).toEqual({ place: 'Offers', kept });
    setClock(noon + day + 31 * 60_000);
    await expect(place.services.carried.open(larkmoor.known, signed)).rejects.toMatchObject({
      code: 'AVX_CARRIED_OLD',
    });
    setClock(noon + day);
  });

  it('are taken from nobody else, nor with one character changed', async () => {
    const { kept } = await withClick();
    const signed = await ask('Offers', kept);
    const [body, seal] = signed.split('.') as [string, string];
    const forged = Buffer.from(Buffer.from(body, 'base64url').toString().replace('Offers', 'Others')).toString(
      'base64url',
    );
    for (const wrong of [`${forged}.${seal}`, `${body}.${seal.slice(1)}x`, body, 'x', ''])
      await expect(place.services.carried.open(larkmoor.known, wrong)).rejects.toMatchObject({
        code: 'AVX_CARRIED_WRONG',
      });
    await expect(ask('Nowhere', kept)).rejects.toMatchObject({ code: 'AVX_PLACE_UNKNOWN' });
  });

  it('that come back by a thank-you page are an enquiry of the click that went, once', async () => {
    const { kept } = await withClick();
    const signed = await ask('Bellhour', kept);
    await place.services.carried.open(larkmoor.known, signed);
    await place.services.carried.open(larkmoor.known, signed);
    await rest();
    const enquiries = await enquiriesOf('Bellhour');
    expect(enquiries).toHaveLength(1);
    const [strand] = await rowsOf<{ click: string }>(place.db, 'SELECT click_id AS click FROM strands WHERE id = ?', [
      enquiries[0]!.strand,
    ]);
    expect(strand).toEqual({ click: kept.clicks[0]!.clickId });
    const view = await place.services.elsewhere.view(member);
    expect(view.counts.find(({ name }) => name === 'Bellhour')).toMatchObject({ returned: 1 });
  });

  it('that a back end tells later happened when it says', async () => {
    const { kept } = await withClick();
    const signed = await ask('Ask for a fitting', kept);
    const told = (happened_at?: string) =>
      place.services.carried.takeReturned(larkmoor.known, JSON.stringify({ avx_to: signed, slot: 'x', happened_at }));
    await expect(told('yesterday')).rejects.toMatchObject({ fields: [{ field: 'happened_at' }] });
    await expect(told('2027-01-01T00:00:00Z')).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
    await told('2027-02-02T13:00:00+00:00');
    await rest();
    expect((await enquiriesOf('Ask for a fitting')).map(({ sent }) => sent.toISOString())).toEqual([
      '2027-02-02T13:00:00.000Z',
    ]);
  });

  it('are read from a file, each row with its own answer', async () => {
    const { kept } = await withClick();
    const rows = [
      `${await ask('Ask for a fitting', kept)},`,
      'forged.row,',
      `${await ask('Ask for a fitting', kept)},later`,
    ];
    const request = new Request('http://x/', { method: 'POST', body: `avx_to,happened_at\n${rows.join('\n')}` });
    const read = await place.services.elsewhere.readFile(member, request);
    expect(read.taken).toBe(1);
    expect(read.refused.map(({ row, was }) => [row, was.slice(0, 24)])).toEqual([
      ['row 3', 'The value of avx_to was '],
      ['row 4', 'happened_at: must be a t'],
    ]);
  });
});

describe('the station', () => {
  it('opens the arrivals behind a fault’s number', async () => {
    await visit({ address: `${site}/fleet?${tags}&utm_content=~ad-name~` });
    const { rows } = await place.services.capture.faults(member);
    const fault = rows.find(({ found }) => found?.kind === 'placeholder')!;
    const asked = { ...fault.found!, find: '', sort: 'at', descending: 'yes', page: 1 } as const;
    const list = await place.services.foundArrivals.page(member, asked);
    expect(list).toMatchObject({
      total: fault.times,
      rows: [{ page: 'larkmoor.localhost/fleet', detail: '~ad-name~' }],
    });
    expect(list.sentence.title).toContain('~ad-name~');
    const none = await place.services.foundArrivals.page(member, { ...asked, find: 'nowhere' });
    expect([none.total, none.sentence.title]).toEqual([0, 'No arrival shows it any more, matching “nowhere”.']);
  });

  it('shows what a keep rule would have kept, while it is being written', async () => {
    for (const value of ['BW-1', 'BW-2', '<b>'])
      await visit({ address: `${site}/?lark_van=${encodeURIComponent(value)}` });
    const rule = {
      name: 'lark_van',
      cookie: '',
      days: 90,
      age: 'fixed',
      which: 'first',
      lowerCase: true,
      characters: 'words',
      longest: 20,
    } as ValueRule;
    expect(await place.services.keptTraffic(member, rule)).toEqual({
      since: null,
      arrivals: 3,
      kept: 2,
      odd: 1,
      last: [
        { value: '<b>', keeps: false },
        { value: 'bw-2', keeps: true },
        { value: 'bw-1', keeps: true },
      ],
    });
  });

  it('holds swap tables against the values that arrived', async () => {
    const { recorded, sentence } = await place.services.swaps(member);
    expect(recorded.last_source).toContainEqual({ value: 'larkmoor-letter', times: expect.any(Number) as number });
    expect(sentence.under).toBe('1 fill rule goes through one.');
  });

  it('names a page that tells of nothing and one with the line twice, from hits alone', async () => {
    await visit({ address: `${site}/fleet/lease`, hit: { lines: 2 } });
    await visit({ address: `${site}/fleet`, hit: { referrer: `${site}/guide` } }, {});
    const { rows } = await place.services.capture.faults(member);
    const faults = rows.filter(({ found }) => found?.kind === 'page_silent' || found?.kind === 'snippet_twice');
    expect(faults.map(({ pages }) => pages).sort()).toEqual([
      ['larkmoor.localhost/fleet/lease'],
      ['larkmoor.localhost/guide'],
    ]);
    const { pages } = await place.services.capture.install(member);
    expect(
      pages
        .slice(0, 2)
        .map(({ page, state }) => [page, state])
        .sort(),
    ).toEqual([
      ['larkmoor.localhost/fleet/lease', 'twice'],
      ['larkmoor.localhost/guide', 'missing'],
    ]);
  });
});
