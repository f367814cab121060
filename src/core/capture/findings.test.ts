import { describe, expect, it } from 'vitest';
import { findingsOf } from './findings';
import { rules as fixture, start } from './rules.fixture';
import type { ArrivedHit } from './schema';

const rules = { ...fixture, carry: [{ platform: 'quillsearch', name: 'lark_ref' }] };
const paid = 'utm_source=quillsearch&utm_medium=paid-search&utm_campaign=c1';
const hit = (rest: string, more: Partial<ArrivedHit> = {}): ArrivedHit => ({
  ...{ id: '01978b50-0000-7000-8000-000000000001', at: start, release: 1, kind: 'arrived' },
  ...{ visitor: '01978b50-0000-4000-8000-000000000001', visit: '01978b50-0000-4000-8000-000000000002' },
  ...{ address: `http://larkmoor.localhost/fleet${rest}`, referrer: '', navigation: 'navigate' },
  ...{ why: 'no_referrer', kept: { works: true, first: null, last: null, clicks: [] } },
  ...more,
});
const found = (rest: string, more?: Partial<ArrivedHit>) =>
  findingsOf(hit(rest, more), rules, ['(ad.name)', '(visit.key)']).map(({ kind, name }) => `${kind} ${name}`);

describe('an arrival shows', () => {
  it.each([
    ['nothing wrong', `?${paid}&qsid=QsAb12`, []],
    ['that a browser took the click ID out', `?${paid}`, ['click_id_gone qsid']],
    ['that a carry name saved it', `?${paid}&lark_ref=QsAb12`, ['carried lark_ref']],
    ['that both names say different things', `?${paid}&qsid=QsAb12&lark_ref=QsOther`, ['carry_differs lark_ref']],
    ['nothing where both say the same', `?${paid}&qsid=QsAb12&lark_ref=QsAb12`, []],
    ['a click ID of an unexpected shape', `?${paid}&qsid=Qs%20Ab`, ['click_id_odd qsid']],
    [
      'what the platform should have filled in',
      `?${paid}&utm_content=(ad.name)&qsid=(visit.key)`,
      ['click_id_odd qsid', 'placeholder utm_content', 'placeholder qsid'],
    ],
    ['nothing where an unpaid post has no click ID', '?utm_source=tessaloop&utm_medium=organic-social', []],
  ])('%s', (_, rest, wanted) => expect(found(rest)).toEqual(wanted));

  it('a tagged link between own pages, with the page it stands on', () => {
    const own = hit('?utm_source=home&utm_medium=banner&utm_campaign=c2', {
      referrer: 'http://larkmoor.localhost/shop?x=1',
    });
    expect(findingsOf(own, rules, [])).toEqual([
      { kind: 'own_link_tagged', name: 'banner', page: 'larkmoor.localhost/shop', campaign: 'c2', detail: '' },
    ]);
  });

  it('what was taken out, by its name or place, without its content', () => {
    const pii = [{ place: 'query' as const, name: 'email', kind: 'mail' as const }];
    expect(findingsOf(hit('?email=', { pii }), rules, [])).toEqual([
      { kind: 'pii', name: 'email', page: 'larkmoor.localhost/fleet', campaign: '', detail: 'mail' },
    ]);
  });

  it('nothing again when the page is loaded again', () => {
    expect(found(`?${paid}`, { navigation: 'reload' })).toEqual([]);
  });
});
