import { createServer } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrive, decideFills, nothingKept, type Hit, type Kept } from '../../src/core/capture';
import { hiddenFields } from '../../src/core/capture/rules.fixture';
import { captureRules } from '../../src/core/releases';
import type { RuleChange } from '../../src/core/rules';
import { setClock } from '../../src/server/clock';
import type { Membership } from '../../src/server/people/people';
import { freePorts } from '../../scripts/lib/ports.mjs';
import { startOutside } from './outside';
import { day, idAt, makeEditor, makePlace, noon, setUpLarkmoor } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let outside: Awaited<ReturnType<typeof startOutside>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let member: Membership;
let editor: string;
let pages: URL;

const site = 'http://larkmoor.localhost:4310';
const paid = 'utm_source=quillsearch&utm_medium=paid-search&utm_campaign=uk-27q1-fleet-winterproof';

beforeAll(async () => {
  outside = await startOutside();
  pages = new URL(`http://pages.localhost:${await freePorts(6000 + 100 * Number(process.env.VITEST_POOL_ID ?? 0), 1)}`);
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: `${outside.hosts},${pages.host}` });
  larkmoor = await setUpLarkmoor(place.services, outside.places);
  setClock(noon + 2 * day);
  ({ editor, member } = await makeEditor(place.services, larkmoor.id));
});
afterAll(async () => {
  setClock(null);
  await place.end();
  await outside.end();
});

let n = 0;
/** A visitor who arrives, and with `returns` (ms later) comes back to send a form. */
async function visit(query: string, form?: { name: string; fields: string[]; returns: number }): Promise<void> {
  n += 1;
  const rules = captureRules(await place.services.releases.live(larkmoor.id));
  const visitor = idAt(noon, 3000 + n);
  let kept: Kept = nothingKept();
  const hits: Hit[] = [];
  const arriveAt = (at: number, address: string) => {
    const arrived = arrive(kept, { at, address, referrer: '', navigation: 'navigate' }, rules, {
      visitor,
      visit: visitor,
    });
    kept = arrived.kept;
    const { first, last, clicks } = kept;
    const common = {
      at,
      release: 1,
      visitor,
      visit: visitor,
      address,
      referrer: '',
      kept: { works: true, first, last, clicks },
    };
    hits.push({ ...common, id: idAt(at, n), kind: 'arrived', navigation: 'navigate', why: arrived.decision.because });
    return common;
  };
  arriveAt(noon + n, `${site}/fleet${query}`);
  if (form) {
    const at = noon + n + form.returns;
    const common = arriveAt(at, `${site}/fleet`);
    const { report } = decideFills({ name: form.name, page: '/fleet', fields: hiddenFields(form.fields) }, kept, rules);
    const { name, fields } = form;
    hits.push({
      ...common,
      id: idAt(at + 1, 500 + n),
      at: at + 1,
      kind: 'form_sent',
      form: name,
      leadToken: idAt(at, 900 + n),
      fields,
      fills: report,
    });
    hits.push({
      ...common,
      id: idAt(at + 2, 700 + n),
      kind: 'forms_seen',
      forms: [{ form: name, fields: fields.map((field) => ({ name: field, hidden: true })), fills: [] }],
    });
  }
  expect(await place.services.collect(larkmoor.known, JSON.stringify({ clock: noon, hits }), {}, noon)).toEqual([]);
  await place.services.spoolWriter.drain();
  await place.services.runner.runToRest();
}

describe('the station Capture', () => {
  it('of a business without traffic says that no page has told of itself, and finds nothing', async () => {
    const { sentence, rows } = await place.services.capture.faults(member);
    expect([sentence.title, rows]).toEqual(['No page has reported yet.', []]);
    expect((await place.services.capture.forms(member)).sentence.title).toBe('No form was seen yet.');
    expect((await place.services.capture.install(member)).sentence.title).toMatch(
      /^Paste the snippet into every page of /,
    );
    const effect = await place.services.captureEffect(member, []);
    expect(effect).toMatchObject({ enquiries: 0, recordedSince: null, fill: null });
  });

  it('names what arrivals and forms show, with counts', async () => {
    const fields = ['source', 'medium', 'campaign', 'content', 'first_referrer', 'avx_lead'];
    await visit(`?${paid}&qsid=QsAb12`, {
      name: 'test-ride',
      fields: ['click_id', 'placement', ...fields],
      returns: 3 * 3_600_000,
    });
    await visit(`?${paid}&qsid=QsCd34`, {
      name: 'call-back',
      fields: ['click_ref', ...fields],
      returns: 30 * 3_600_000,
    });
    await visit(`?${paid}`);
    await visit(`?${paid}&lark_key=QsEf56`);
    await visit('?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=x&email=anna%40b.example');
    const { sentence, rows, carried } = await place.services.capture.faults(member);
    expect(sentence.title).toBe('3 faults keep values from reaching the forms and the CRM whole.');
    expect(rows.map(({ id, times }) => [id, times])).toEqual([
      ['form call-back unread click_ref', null],
      ['click_id_gone qsid', 1],
      ['pii email', 1],
    ]);
    expect(carried).toMatchObject([{ name: 'lark_key', times: 1 }]);
  });

  it('lists the forms with what fills each hidden field, and the pages where the line was seen', async () => {
    const { forms } = await place.services.capture.forms(member);
    expect(forms.map(({ form, words, problems }) => [form, words, problems.map(({ code }) => code)])).toEqual([
      ['call-back', 'Ask for a call back', ['unread']],
      ['test-ride', 'Ask for a test ride', []],
    ]);
    expect(forms[0]!.fields[0]).toEqual({ name: 'click_ref', rules: ['click_ref call-back'] });
    const { pages } = await place.services.capture.install(member);
    expect(pages).toMatchObject([{ page: 'larkmoor.localhost/fleet', arrivals: 7, state: 'seen', checkedAt: null }]);
  });

  it('shows what a rule would have done to recorded enquiries, and changes nothing', async () => {
    const { keep } = (await place.services.capture.kept(member)).rules;
    const shorter: RuleChange = { kind: 'click_id', id: 'quillsearch', value: { ...keep.clickIds[0]!, days: 1 } };
    expect(await place.services.captureEffect(member, [shorter])).toMatchObject({
      enquiries: 2,
      click: { live: 2, after: 1 },
      touch: { live: 2, after: 2 },
    });
    const rule = {
      id: 'new',
      find: 'name',
      field: 'click_id',
      forms: [],
      pages: [],
      reading: 'click_id',
      platform: '',
      when: 'always',
      otherwise: '',
    };
    expect((await place.services.captureEffect(member, [{ kind: 'fill', id: 'new', value: rule }])).fill).toMatchObject(
      {
        sent: 2,
        filled: 1,
        notFound: 1,
        near: [{ form: 'call-back', field: 'click_ref', times: 1 }],
        last: [{ form: 'test-ride', value: 'QsAb12' }],
      },
    );
    expect((await place.services.capture.kept(member)).changed).toEqual([]);
  });

  it('judges forms by the draft, and faults by what is live', async () => {
    const { fill } = (await place.services.capture.fields(member)).rules;
    const rule = fill.find(({ field }) => field === 'source')!;
    await place.services.draft.change(member, editor, [{ kind: 'fill', id: rule.id, value: null }]);
    const { forms } = await place.services.capture.forms(member);
    expect(forms.map(({ problems }) => problems.map(({ code }) => code).sort())).toEqual([
      ['unfilled', 'unread'],
      ['unfilled'],
    ]);
    expect((await place.services.capture.faults(member)).rows).toHaveLength(3);
    await place.services.draft.drop(member, []);
  });

  it('tells which checked pages have the line, have it not, or have it twice', async () => {
    const line = '<script src="/b/larkmoor.js"></script>';
    const site = createServer((request, response) => {
      const lines: Record<string, number> = { '/once': 1, '/twice': 2, '/none': 0 };
      response.writeHead(200, { 'content-type': 'text/html' });
      response.end(line.repeat(lines[request.url ?? ''] ?? 0) || '<p>no line</p>');
    });
    await new Promise<void>((resolve) => site.listen(Number(pages.port), '127.0.0.1', resolve));
    try {
      const ids = await place.services.pageChecks.ask(
        member,
        ['/once', '/twice', '/none', '/none'].map((path) => pages.origin + path),
      );
      for (const id of ids) await place.services.pageChecks.run(larkmoor.id, id);
      const { sentence, pages: seen } = await place.services.capture.install(member);
      expect(sentence).toEqual({
        title: 'The snippet was seen on 3 pages and is missing on 1.',
        under: 'It is on 1 page twice; once is right.',
      });
      expect(seen.map(({ page, state, arrivals }) => [page, state, arrivals])).toEqual([
        ['pages.localhost/none', 'missing', 0],
        ['pages.localhost/twice', 'twice', 0],
        ['larkmoor.localhost/fleet', 'seen', 7],
        ['pages.localhost/once', 'seen', 0],
      ]);
      const { rows } = await place.services.capture.faults(member);
      expect(
        rows.filter(({ id }) => id.startsWith('page ')).map(({ what, mend, pages: on }) => [what, mend, on]),
      ).toEqual(
        expect.arrayContaining([
          [
            'The page has no snippet; nobody who lands there is seen.',
            'Paste the snippet into the page.',
            ['pages.localhost/none'],
          ],
          [
            'The snippet is there 2 times; it should be there once.',
            'Take out all but one of the snippets.',
            ['pages.localhost/twice'],
          ],
        ]),
      );
    } finally {
      site.close();
      site.closeAllConnections();
    }
  });

  it.each<[string, RuleChange, string]>([
    [
      'a click ID of a name that is a tag',
      {
        kind: 'click_id',
        id: 'tessaloop',
        value: { platform: 'tessaloop', parameter: 'utm_source', alsoAs: [], days: 9, source: '', medium: '' },
      },
      'parameter',
    ],
    [
      'a tag among the names that say who somebody is',
      { kind: 'pii', id: '', value: { names: ['utm_source'] } },
      'names',
    ],
    [
      'a touch kept for longer than browsers do',
      { kind: 'keep', id: '', value: { touchDays: 900, touchAge: 'fixed', utmLowerCase: true, setBy: 'page' } },
      'touchDays',
    ],
  ])('refuses %s, naming the field', async (_, change, field) => {
    await expect(place.services.draft.change(member, editor, [change])).rejects.toMatchObject({
      code: 'AVX_FIELD_WRONG',
      fields: [{ field }],
    });
  });
});
