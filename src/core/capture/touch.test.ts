import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { arrive, nothingKept } from './keep';
import { day, rules, start } from './rules.fixture';
import { decideTouch, ownLinkFault, type Arrival } from './touch';

const doc = readFileSync('docs/touches.md', 'utf8').split('\n');
/** The rows of a table of the document whose first cells begin as given, a dash read as nothing. */
const rowsOf = (begins: RegExp) =>
  doc
    .filter((line) => begins.test(line))
    .map((line) =>
      line
        .split('|')
        .slice(1, -1)
        .map((cell) => cell.trim())
        .map((cell) => (cell === '-' ? '' : cell)),
    );
const plain = (cell = '') => cell.replace(/^`|`$/g, '');
const site = 'http://larkmoor.localhost:4310';
const known = [{ platform: 'quillsearch', clickId: 'Qs-old' }];

describe('the worked examples of docs/touches.md', () => {
  const arrivals = rowsOf(/^\| `/);
  it('are there', () => expect(arrivals.length).toBeGreaterThan(30));

  it.each(arrivals)('%s from “%s” by %s', (path, referrer, navigation, starts, ...wanted) => {
    const address = site + plain(path);
    const arrival = { at: start, address, referrer: plain(referrer), navigation: navigation as 'navigate' };
    const { because, touch, clicks } = decideTouch(arrival, known, rules);
    expect(touch !== null).toBe(starts === 'yes');
    expect([
      because,
      ...[touch?.source ?? '', touch?.medium ?? '', touch?.campaign ?? '', touch?.referrer ?? ''],
      // A space at the end would not show.
      clicks.map(({ clickId }) => clickId.replaceAll(' ', '%20')).join(' '),
    ]).toEqual(wanted);
    if (clicks.length > 0) expect(touch).toEqual(clicks[0]);
  });

  it.each(rowsOf(/^\| \d+ `/))('over days: %s', (arrivals, ...wanted) => {
    const fixed = { ...rules, keep: { ...rules.keep, touchAge: 'fixed' as const } };
    const fresh = { visitor: 'v', visit: 'w' };
    let kept = nothingKept();
    for (const [, on, query] of arrivals!.matchAll(/(\d+) `([^`]+)`/g)) {
      const at = start + Number(on) * day;
      const address = `${site}/fleet${query === '.' ? '' : `?${query}`}`;
      kept = arrive(kept, { at, address, referrer: '', navigation: 'navigate' }, fixed, fresh).kept;
    }
    const dayOf = (one: { at: number } | null) => (one ? String((one.at - start) / day) : '');
    const clicks = kept.clicks.map((click) => `${click.clickId} ${dayOf(click)}`).join(', ');
    expect([dayOf(kept.first), dayOf(kept.last), clicks]).toEqual(wanted);
  });
});

describe('a touch', () => {
  const at = (address: string, referrer = '') =>
    decideTouch({ at: start, address, referrer, navigation: 'navigate' }, [], rules);

  it('takes a tag under its own name, else under a carry name, also between own pages', () => {
    const carried = {
      ...rules,
      tagCarry: [
        { tag: 'utm_source', name: 'lark_src', written: true },
        { tag: 'utm_source', name: 'src', written: false },
      ],
    };
    const decided = (query: string, referrer = '') => {
      const arrival: Arrival = { at: start, address: `${site}/?${query}`, referrer, navigation: 'navigate' };
      const decision = decideTouch(arrival, [], carried);
      return [decision.touch?.source ?? null, ownLinkFault(arrival, decision, carried)];
    };
    expect(decided('lark_src=Letter')).toEqual(['letter', null]);
    expect(decided('src=print&lark_src=letter')).toEqual(['letter', null]);
    expect(decided('lark_src=print&utm_source=letter')).toEqual(['letter', null]);
    expect(decided('lark_src=letter', `${site}/fleet`)).toEqual([null, 'own_link_tagged']);
  });

  it('keeps the landing page and the referrer without their queries, which may hold personal data', () => {
    const { touch } = at('http://larkmoor.localhost/fleet?qsid=a&email=x@y.example', 'https://w.example/a?token=1');
    expect(touch).toMatchObject({ landing: 'larkmoor.localhost/fleet', referrer: 'w.example/a' });
  });

  it('never alters a click ID', () => {
    expect(at('http://larkmoor.localhost/?qsid=AbC%2BdE%20').touch?.clickId).toBe('AbC+dE ');
  });

  it('takes no medium where the click ID does not prove payment', () => {
    expect(at('http://larkmoor.localhost/?tsl=9').touch).toMatchObject({ source: 'tessaloop', medium: '' });
  });

  it('names campaign values on a link between own pages as the website’s fault', () => {
    const own = 'http://larkmoor.localhost/';
    const follow = (address: string, referrer: string, navigation: Arrival['navigation'] = 'navigate') => {
      const arrival = { at: 1, address, referrer, navigation };
      return ownLinkFault(arrival, decideTouch(arrival, known, rules), rules);
    };
    expect(follow(`${own}?utm_source=x`, own)).toBe('own_link_tagged');
    expect(follow(`${own}?utm_id=42`, own)).toBe('own_link_tagged');
    // A page prepared in the background arrives when it is shown, by the link that was followed.
    expect(follow(`${own}?utm_source=x`, own, 'prerender')).toBe('own_link_tagged');
    expect(follow(`${own}?utm_source=x&qsid=Qs-new`, own)).toBe('own_link_click_id');
    expect(follow(`${own}?utm_source=x&qsid=Qs-old`, own)).toBe('own_link_tagged');
    expect(follow(`${own}?qsid=Qs-old`, own)).toBeNull();
    expect(follow(own, own)).toBeNull();
    expect(follow(`${own}?utm_source=x`, 'https://w.example/')).toBeNull();
    for (const again of ['reload', 'back_forward'] as const)
      expect(follow(`${own}?utm_source=x`, own, again)).toBeNull();
  });

  it('takes control characters out of UTM values and cuts them at 200 characters', () => {
    const { touch } = at(`http://larkmoor.localhost/?utm_source=a%0Ab&utm_campaign=${'x'.repeat(300)}`);
    expect(touch?.source).toBe('ab');
    expect(touch?.campaign).toHaveLength(200);
  });
});
