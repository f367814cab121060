import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { compileEngine } from '../../demo/browser/engine';
import type { Hit } from '../../src/core/capture';
import { rules as fixture } from '../../src/core/capture/rules.fixture';
import { snippetScript } from '../../src/core/capture/snippet-script';

const address = 'http://larkmoor.localhost/fleet?utm_source=letter&utm_campaign=c1&qsid=Q1';
type Answer = 'yes' | 'no' | 'not asked';

/** One page with the served script, under rules that ask for consent or not; all that it sends and keeps can be seen. */
async function open(consent: { required: boolean; count?: boolean }, navigation = 'navigate') {
  const cookies = new Map<string, string>();
  const stored = new Map<string, string>();
  const hits: Hit[] = [];
  const beacons: [url: string, body: string][] = [];
  const heard = new Map<string, ((event: object) => void)[]>();
  const location = { href: address, hostname: 'larkmoor.localhost', pathname: '/fleet', protocol: 'http:' };
  const history = {
    pushState(_state: unknown, _title: string, to: string) {
      location.href = new URL(to, location.href).href;
    },
  };
  const page = Object.defineProperty(
    {
      referrer: '',
      forms: [],
      documentElement: {},
      querySelectorAll: () => [],
    },
    'cookie',
    {
      get: () => [...cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      set(text: string) {
        const [, name = '', value = '', age] = /^([^=]+)=([^;]*); Max-Age=(\d+)/.exec(text)!;
        if (age === '0') cookies.delete(name);
        else cookies.set(name, value);
      },
    },
  );
  let later: (() => void)[] = [];
  const rules = { ...fixture, consent: { count: false, ...consent } };
  const engine = compileEngine(
    snippetScript({ business: 'larkmoor', release: 3, edge: 'http://edge.example', rules }, (name) =>
      readFileSync(`dist/snippet/${name}.js`, 'utf8'),
    ),
  );
  engine({
    document: page,
    location,
    history,
    navigator: { sendBeacon: (...sent: [string, string]) => beacons.push(sent) },
    performance: { getEntriesByType: () => [{ type: navigation }], now: () => 0 },
    crypto,
    localStorage: {
      getItem: (key: string) => stored.get(key) ?? null,
      setItem: (key: string, value: string) => stored.set(key, value),
      removeItem: (key: string) => stored.delete(key),
    },
    setTimeout: (work) => void later.push(work),
    Date,
    fetch(_url, { body }) {
      hits.push(...(JSON.parse(body) as { hits: Hit[] }).hits);
      return Promise.resolve({ ok: true });
    },
    addEventListener: (name, listener) => heard.set(name, [...(heard.get(name) ?? []), listener]),
    removeEventListener: () => undefined,
    MutationObserver: class {
      observe() {}
      disconnect() {}
    },
    Event: class {},
    globalThis: {},
  });
  /** Lets everything happen that the page does a little later. */
  const settle = async () => {
    for (let turn = 0; turn < 30; turn++) {
      const now = later;
      later = [];
      now.forEach((work) => work());
      await new Promise(setImmediate);
    }
  };
  await settle();
  return {
    cookies,
    stored,
    beacons,
    kinds: () => hits.map(({ kind }) => kind),
    hits,
    async say(measurement: Answer, advertising: Answer = measurement) {
      for (const listener of heard.get('avrix:consent') ?? []) listener({ detail: { measurement, advertising } });
      await settle();
    },
    async go(to: string) {
      history.pushState(null, '', to);
      await settle();
    },
    async leave() {
      for (const listener of heard.get('pagehide') ?? []) listener({});
      await settle();
    },
  };
}

describe('where consent is required', () => {
  it('nothing is kept or sent before a “yes”, which loses nothing of how somebody came', async () => {
    const page = await open({ required: true });
    await page.say('not asked');
    expect([page.kinds(), page.cookies.size, page.stored.size]).toEqual([[], 0, 0]);
    await page.say('yes');
    expect(page.kinds()).toEqual(['arrived']);
    expect(page.hits[0]).toMatchObject({
      address,
      consent: { measurement: 'yes', advertising: 'yes' },
      why: 'click_id_new',
    });
    expect(page.cookies.get('avx_clicks')).toContain('Q1');
  });

  it('a “no” is told, then everything is forgotten, and steps of the page tell of nothing any more', async () => {
    const page = await open({ required: true });
    await page.say('yes');
    await page.say('no');
    expect(page.kinds()).toEqual(['arrived', 'consent']);
    expect(page.hits[1]!.consent).toEqual({ measurement: 'no', advertising: 'no' });
    expect([page.cookies.size, page.stored.size]).toEqual([0, 0]);
    await page.go('/care');
    await page.leave();
    expect(page.kinds()).toEqual(['arrived', 'consent']);
  });

  it('a “yes” after a “no” begins anew, as somebody else', async () => {
    const page = await open({ required: true });
    for (const said of ['yes', 'no', 'yes'] as const) await page.say(said);
    expect(page.kinds()).toEqual(['arrived', 'consent', 'arrived']);
    expect(page.hits[2]!.visitor).not.toBe(page.hits[0]!.visitor);
  });

  it.each<[string, { count: boolean }, Answer[], number]>([
    ['who never agreed is counted', { count: true }, ['not asked'], 1],
    ['who said “no” is counted', { count: true }, ['no'], 1],
    ['who agreed is measured instead', { count: true }, ['yes'], 0],
    ['who agreed and took it back was measured already', { count: true }, ['yes', 'no'], 0],
    ['nobody is where the business does not want it', { count: false }, [], 0],
  ])('%s', async (_, { count }, said, times) => {
    const page = await open({ required: true, count });
    for (const one of said) await page.say(one);
    await page.leave();
    const counted = page.beacons.filter(([url]) => url.endsWith('/count/larkmoor'));
    expect(counted).toHaveLength(times);
    for (const [, body] of counted) expect(JSON.parse(body)).toEqual({ source: 'letter', medium: '', campaign: 'c1' });
  });

  it.each(['reload', 'back_forward'])('an arrival is counted once, so not again by a %s', async (navigation) => {
    const page = await open({ required: true, count: true }, navigation);
    await page.leave();
    expect(page.beacons).toEqual([]);
  });
});

describe('where it is not', () => {
  it('what is agreed to stands in the hits, and costs none of its own', async () => {
    const page = await open({ required: false });
    await page.say('yes');
    await page.go('/care');
    expect(page.kinds()).toEqual(['arrived', 'arrived']);
    expect(page.hits[1]!.consent).toEqual({ measurement: 'yes', advertising: 'yes' });
  });

  it('a “no” to advertising is told once, and so is that it is taken back', async () => {
    const page = await open({ required: false });
    await page.say('yes', 'no');
    await page.say('yes', 'no');
    await page.say('yes', 'yes');
    expect(page.hits.map(({ kind, consent }) => [kind, consent?.advertising])).toEqual([
      ['arrived', undefined],
      ['consent', 'no'],
      ['consent', 'yes'],
    ]);
    expect(page.cookies.size, 'measurement goes on').toBeGreaterThan(0);
  });
});
