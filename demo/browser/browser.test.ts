import { describe, expect, it } from 'vitest';
import { makeRandom } from '../generator/random';
import { PretendBrowser, type PageVisit } from './browser';
import { compileEngine } from './engine';

const second = 1000;
const visit = (at: number, change: Partial<PageVisit> = {}): PageVisit => ({
  at,
  address: 'http://larkmoor.localhost/fleet?x=1',
  referrer: 'http://w.example/',
  lines: 1,
  hasCode: false,
  says: '',
  links: [{ href: 'tel:+44', text: 'Ring us', attributes: { 'data-desk': 'fleet' } }],
  forms: [{ name: 'ask', fields: [{ name: 'token', type: 'hidden', value: '' }] }],
  ...change,
});

function start(source: string, works = true, endsCookiesAfter: number | null = null) {
  const posted: string[] = [];
  const browser = new PretendBrowser(
    { works, endsCookiesAfter },
    makeRandom(1),
    async (_url, body) => posted.push(body) > 0,
  );
  const engine = compileEngine(source);
  return { posted, open: (page: PageVisit) => browser.open(engine, page) };
}

describe('the pretend browser of the demo', () => {
  it('keeps cookies from page to page, as long as they are meant to last', async () => {
    const { open, posted } = start(
      `fetch('/', { body: document.cookie }); document.cookie = 'a=1; Max-Age=60; Path=/'; document.cookie = 'b=2; Max-Age=5; Path=/';`,
    );
    await open(visit(0));
    await open(visit(10 * second));
    await open(visit(80 * second));
    expect(posted).toEqual(['', 'a=1', '']);
  });

  it('ends cookies early where it does not trust scripts with longer ones', async () => {
    const days = 86_400;
    const source = `fetch('/', { body: document.cookie }); document.cookie = 'a=1; Max-Age=${90 * days}';`;
    const { open, posted } = start(source, true, 7);
    await open(visit(0));
    await open(visit(6 * days * second));
    await open(visit(13 * days * second + second));
    expect(posted).toEqual(['', 'a=1', '']);
  });

  it('keeps none where the person switched them off', async () => {
    const { open, posted } = start(
      `document.cookie = 'a=1; Max-Age=60'; fetch('/', { body: document.cookie });`,
      false,
    );
    await open(visit(0));
    expect(posted).toEqual(['']);
  });

  it('gives each page a time, an address and a referrer, and shares nothing else between pages', async () => {
    const { open, posted } = start(
      `globalThis.n = (globalThis.n ?? 0) + 1; fetch('/', { body: [globalThis.n, Date.now(), location.hostname, document.referrer].join() });`,
    );
    await open(visit(7));
    await open(visit(9, { referrer: '' }));
    expect(posted).toEqual(['1,7,larkmoor.localhost,http://w.example/', '1,9,larkmoor.localhost,']);
  });

  it('lets the script fill a form at the moment of sending', async () => {
    const { open } = start(
      `addEventListener.call(document, 'submit', ({ target }) => { for (const f of target.elements) f.value = 'at ' + Date.now(); }, true);`,
    );
    const { send } = await open(visit(0));
    expect(await send('ask', 42)).toEqual({ token: 'at 42' });
  });

  it('lets the script hear of a link that is pressed', async () => {
    const { open, posted } = start(
      `addEventListener.call(document, 'click', (event) => { const [a] = event.composedPath(); fetch('/', { body: [a.href, a.matches('button,a[data-desk]'), a.closest('[data-other]'), Date.now()].join() }); }, true);`,
    );
    const { press } = await open(visit(0));
    expect(await press('tel:', 7)).toBe('tel:+44');
    expect(await press('http://nowhere.example/', 8)).toBe(null);
    expect(posted).toEqual(['tel:+44,true,,7']);
  });

  it('keeps storage, and draws the same random bytes for the same seed', async () => {
    const source = `localStorage.setItem('n', (localStorage.getItem('n') ?? '') + crypto.getRandomValues(new Uint8Array(1))[0] + ' '); fetch('/', { body: localStorage.getItem('n') });`;
    const [one, two] = [start(source), start(source)];
    for (const { open } of [one, two]) {
      await open(visit(0));
      await open(visit(1));
    }
    expect(one.posted[1]!.split(' ')).toHaveLength(3);
    expect(two.posted).toEqual(one.posted);
  });
});
