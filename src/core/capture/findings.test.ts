import { describe, expect, it } from 'vitest';
import { findingsOf, silentPage, type Finding } from './findings';
import { arrive, nothingKept } from './keep';
import { rules as fixture, start, valueRule } from './rules.fixture';
import type { ArrivedHit, CaptureRules } from './schema';

const rules = { ...fixture, carry: [{ platform: 'quillsearch', name: 'lark_ref' }] };
const paid = 'utm_source=quillsearch&utm_medium=paid-search&utm_campaign=c1';
const hit = (rest: string, more: Partial<ArrivedHit> = {}): ArrivedHit => ({
  id: '01978b50-0000-7000-8000-000000000001',
  at: start,
  release: 1,
  kind: 'arrived',
  visitor: '01978b50-0000-4000-8000-000000000001',
  visit: '01978b50-0000-4000-8000-000000000002',
  address: `http://larkmoor.localhost/fleet${rest}`,
  referrer: '',
  navigation: 'navigate',
  why: 'no_referrer',
  kept: { works: true, first: null, last: null, clicks: [] },
  ...more,
});
/** What an arrival shows, with its touch decided in a browser that was never here. */
const findings = (one: ArrivedHit, by: CaptureRules = rules, placeholders = ['(advert)', '(visit.key)']) => {
  const { decision, gaveWay } = arrive(nothingKept(), one, by, { visitor: one.visitor, visit: one.visit });
  return findingsOf(one, { because: decision.because, gaveWay }, by, placeholders);
};
const words = (all: Finding[]) => all.map(({ kind, name }) => `${kind} ${name}`);
const found = (rest: string, more?: Partial<ArrivedHit>) => words(findings(hit(rest, more)));

describe('an arrival shows', () => {
  it.each([
    ['nothing wrong', `?${paid}&qsid=QsAb12`, []],
    ['that a browser took the click ID out', `?${paid}`, ['click_id_gone qsid']],
    ['that a carry name saved it', `?${paid}&lark_ref=QsAb12`, ['carried lark_ref']],
    ['that both names say different things', `?${paid}&qsid=QsAb12&lark_ref=QsOther`, ['carry_differs lark_ref']],
    ['that a carry name came empty', `?${paid}&qsid=QsAb12&lark_ref=`, ['carry_empty lark_ref']],
    ['nothing where both say the same', `?${paid}&qsid=QsAb12&lark_ref=QsAb12`, []],
    ['a click ID of an unexpected shape', `?${paid}&qsid=Qs%20Ab`, ['click_id_odd qsid']],
    [
      'what the platform should have filled in',
      `?${paid}&utm_content=(advert)&qsid=(visit.key)`,
      ['placeholder utm_content', 'placeholder qsid'],
    ],
    ['nothing where an unpaid post has no click ID', '?utm_source=tessaloop&utm_medium=organic-social', []],
  ])('%s', (_, rest, wanted) => expect(found(rest)).toEqual(wanted));

  it('a tagged link between own pages, with the page it stands on', () => {
    const own = hit('?utm_source=home&utm_medium=banner&utm_campaign=c2', {
      referrer: 'http://larkmoor.localhost/shop?x=1',
    });
    expect(findings(own)).toEqual([
      { kind: 'own_link_tagged', name: 'banner', page: 'larkmoor.localhost/shop', campaign: 'c2', detail: '' },
    ]);
  });

  it('what was taken out, by its name or place, without its content', () => {
    const pii = [{ place: 'query' as const, name: 'email', kind: 'mail' as const }];
    expect(findings(hit('?email=', { pii }))).toEqual([
      { kind: 'pii', name: 'email', page: 'larkmoor.localhost/fleet', campaign: '', detail: 'mail' },
    ]);
  });

  it('nothing again when the page is loaded again', () => {
    expect(found(`?${paid}`, { navigation: 'reload' })).toEqual([]);
  });

  it('a value that its keep rule does not expect', () => {
    const keep = { ...rules.keep, values: [valueRule({ name: 'lark_van', characters: 'digits' })] };
    const shown = (rest: string) => words(findings(hit(rest), { ...rules, keep }));
    expect([shown('?lark_van=42'), shown('?lark_van=4b'), shown('')]).toEqual([[], ['value_odd lark_van'], []]);
  });

  it('cookies that come near to what a browser is sure to hold, and how large they are', () => {
    const clicks = Array.from({ length: 18 }, (_, n) => ({
      platform: 'quillsearch',
      clickId: `Q${n}`.repeat(75),
      at: start,
    }));
    const kept = { works: true, first: null, last: null, clicks };
    const [large] = findings(hit('', { kept }));
    expect(large!.kind).toBe('cookies_large');
    expect(Number(large!.detail)).toBeGreaterThan(3500);
  });

  it('that the line stands twice, and that values came back from another website', () => {
    expect(found('', { lines: 2 })).toEqual(['snippet_twice ']);
    expect(found('', { restored: 'Offers' })).toEqual(['restored Offers']);
  });
});

describe('the page that an arrival came from', () => {
  const from = (referrer: string, more: Partial<ArrivedHit> = {}) => hit('', { referrer, ...more });
  it.each([
    ['told of nothing', from('http://larkmoor.localhost/guide?x=1'), 'larkmoor.localhost/guide'],
    ['told of itself before', from('http://larkmoor.localhost/shop'), null],
    ['is of another host, whose path browsers do not name', from('http://www.larkmoor.localhost/'), null],
    ['is none', from(''), null],
    ['is that of a page loaded again', from('http://larkmoor.localhost/guide', { navigation: 'reload' }), null],
  ])('%s', (_, arrived, page) => {
    expect(silentPage(arrived, new Set(['larkmoor.localhost/shop']))).toBe(page);
  });
});
