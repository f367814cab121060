import { v7 } from 'uuid';
import type { ArrivedHit } from '../../src/core/capture';

/** A hit as a page sends it, with a touch and a click kept; each has a new ID, four in a row one visitor. */
export function makeHits(count: number): ArrivedHit[] {
  const at = Date.now();
  let visitor = v7();
  return Array.from({ length: count }, (_, i) => {
    if (i % 4 === 0) visitor = v7();
    const clickId = `Qs${i.toString(36)}${Math.random().toString(36).slice(2)}`;
    const touch = {
      at,
      source: 'quillsearch',
      medium: 'paid-search',
      campaign: 'uk-27q1-fleet-winterproof',
      content: '',
      term: '',
      utmId: '',
      referrer: 'quillsearch.localhost/',
      landing: 'larkmoor.localhost/fleet',
      platform: 'quillsearch',
      clickId,
    };
    return {
      id: v7(),
      at,
      release: 1,
      visitor,
      visit: visitor,
      kind: 'arrived',
      navigation: 'navigate',
      why: 'click_id_new',
      address: `http://larkmoor.localhost/fleet?utm_source=quillsearch&utm_medium=paid-search&qsid=${clickId}`,
      referrer: 'http://quillsearch.localhost/',
      kept: { works: true, first: touch, last: touch, clicks: [{ platform: 'quillsearch', clickId, at }] },
    };
  });
}

/** Bodies as a page sends them. */
export function makeBodies(count: number, hits: number): string[] {
  return Array.from({ length: count }, () => JSON.stringify({ clock: Date.now(), hits: makeHits(hits) }));
}
