import { PretendBrowser, type OpenPage, type PageVisit } from './browser/browser';
import { compileEngine, type Engine } from './browser/engine';
import { makeRandom } from './generator/random';
import type { DemoEvent } from './generator/journeys';
import type { Places } from './places';

type Click = Extract<DemoEvent, { kind: 'click' }>;
type PartnerClick = Extract<DemoEvent, { kind: 'partner_click' }>;
type Page = Extract<DemoEvent, { kind: 'page' }>;
type Press = Extract<DemoEvent, { kind: 'press' }>;
export type Visit = Click | PartnerClick | Page | Press;

export const isVisit = (event: DemoEvent): event is Visit =>
  ['click', 'partner_click', 'page', 'press'].includes(event.kind);

type ServedPage = Pick<PageVisit, 'forms' | 'links' | 'lines' | 'says' | 'hasCode'>;

interface Visitor {
  browser: PretendBrowser;
  /** The page now open: its address, and what can be done there; null where it runs no script. */
  address: string;
  page: OpenPage | null;
}

const agents = {
  capping:
    'Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/20.1 Safari/605.1.15',
  person: 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0 Safari/537.36',
  bot: 'LinkLantern/1.2 (+bot; https://linklantern.example)',
};

/** An address of Larkmoor's own network, and anybody else's. */
const addresses = { office: '203.0.113.24', elsewhere: '198.51.100.7' };

/** Plays events against the running application and stand-ins, each at its own time. @param all what is to be played */
export function makeReplay(places: Places, all: DemoEvent[]) {
  const visitors = new Map<number, Visitor>();
  /** How often a browser is still used; one that is used no more is forgotten, with the page that is open in it. */
  const uses = new Map<number, number>();
  for (const event of all)
    if ('browser' in event && event.browser !== null) uses.set(event.browser, (uses.get(event.browser) ?? 0) + 1);
  const pages = new Map<string, Promise<ServedPage>>();
  const deals = new Map<string, string>();
  let engine: Promise<Engine> | null = null;

  let posted: { at: number; agent: string; address: string; body: string }[] = [];
  /** What a page sends is handed over with that of others, see `handOver`. */
  const posterAs = (agent: string, address: string) => async (_url: string, body: string, at: number) =>
    posted.push({ at, agent, address, body }) > 0;

  const visitorOf = (id: number, { works, caps }: Exclude<Visit, Press>, agent: string, office: boolean): Visitor => {
    const known = visitors.get(id) ?? {
      browser: new PretendBrowser(
        { works, endsCookiesAfter: caps ? 7 : null },
        makeRandom(99_000 + id),
        posterAs(agent, office ? addresses.office : addresses.elsewhere),
      ),
      address: '',
      page: null,
    };
    visitors.set(id, known);
    return known;
  };

  function used(id: number): void {
    const left = uses.get(id)! - 1;
    uses.set(id, left);
    if (left === 0) visitors.delete(id);
  }

  /** A page as the website serves it: its forms, how often the pasted line stands in it, and what it says of itself. */
  async function readPage(path: string): Promise<ServedPage> {
    const { body } = await places.ask(places.larkmoor + path);
    const forms = [...body.matchAll(/<form name="([^"]+)"[^>]*>(.*?)<\/form>/gs)].map(([, name, inside]) => ({
      name: name!,
      fields: [...inside!.matchAll(/<input\b[^>]*>/g)].map(([input]) => ({
        name: /name="([^"]*)"/.exec(input)?.[1] ?? '',
        type: /type="([^"]*)"/.exec(input)?.[1] ?? 'text',
        value: /value="([^"]*)"/.exec(input)?.[1] ?? '',
      })),
    }));
    const links = [...body.matchAll(/<a\b([^>]*)>(.*?)<\/a\s*>/gs)].map(([, tag, inside]) => {
      const { href = '', ...attributes } = Object.fromEntries(
        [...tag!.matchAll(/([\w-]+)="([^"]*)"/g)].map(([, name, value]) => [name!, value!]),
      ) as Record<string, string>;
      return { href, attributes, text: inside!.replace(/<[^>]*>/g, '').trim() };
    });
    const says = /<script type="application\/json" id="avrix-page">(.*?)<\/script>/s.exec(body)?.[1] ?? '';
    const hasCode = body.includes('class="call-code"');
    return { forms, links, says, hasCode, lines: [...body.matchAll(/<script src=/g)].length };
  }
  function pageAt(address: string) {
    const { pathname, search } = new URL(address);
    // The page that thanks for an order is another one for each.
    if (pathname === '/order-received') return readPage(pathname + search);
    const known = pages.get(pathname) ?? readPage(pathname);
    pages.set(pathname, known);
    return known;
  }

  /** The script that the website's pages load, followed from the pasted line to the release it names. */
  async function loadEngine(): Promise<Engine> {
    const { body: page } = await places.ask(`${places.larkmoor}/`);
    const line = /<script src="([^"]+)"/.exec(page)?.[1];
    if (!line) throw new Error('Larkmoor’s pages carry no script');
    const { body: loader } = await places.ask(line);
    const release = /"(http[^"]+\/r\/[^"]+)"/.exec(loader)?.[1];
    if (!release) throw new Error(`${line} names no release`);
    return compileEngine((await places.ask(release)).body);
  }

  async function open(visitor: Visitor, at: number, address: string, referrer: string): Promise<void> {
    engine ??= loadEngine();
    const page = await pageAt(address);
    visitor.address = address;
    // A page without the line runs nothing.
    visitor.page =
      page.lines === 0 ? null : await visitor.browser.open(await engine, { at, address, referrer, ...page });
  }

  /** Where the clicks of these visits lead, by their key. */
  async function click(visits: Visit[]): Promise<Map<string, string>> {
    const clicks = visits.filter((visit) => visit.kind === 'click').map(({ ad, key, at }) => ({ ad, key, at }));
    const partnerClicks = visits
      .filter((visit) => visit.kind === 'partner_click')
      .map(({ partner, key, at }) => ({ partner, key, at }));
    const { leadsTo } = (await places.standins('clicks', { clicks })) as { leadsTo: string[] };
    const { leadsTo: partnersLead } = (await places.standins('partner-clicks', { partnerClicks })) as {
      leadsTo: string[];
    };
    return new Map([
      ...clicks.map(({ key }, i) => [key, leadsTo[i]!] as const),
      ...partnerClicks.map(({ key }, i) => [key, partnersLead[i]!] as const),
    ]);
  }

  /** The page that a short link leads to in the end. */
  async function followShort(path: string, at: number, agent: string): Promise<string> {
    let { location } = await places.edgeAt(at, path, { 'user-agent': agent });
    for (let step = location; step;) {
      location = step;
      const { status, location: next } = await places.ask(location);
      step = status >= 300 && status < 400 ? new URL(next, location).href : '';
    }
    return location;
  }

  async function visit(event: Visit, leadsTo: Map<string, string>): Promise<void> {
    if (event.kind === 'press') {
      await visitors.get(event.browser)?.page?.press(event.leadsTo, event.at);
      used(event.browser);
      return;
    }
    const isBot = event.kind === 'page' && event.bot;
    const agent = isBot ? agents.bot : event.caps ? agents.capping : agents.person;
    const visitor = visitorOf(event.browser, event, agent, event.kind === 'page' && event.office);
    if (event.kind === 'page') {
      const referrer = event.referrer === 'own' ? visitor.address : event.referrer;
      const address = event.short
        ? await followShort(event.path, event.at, isBot ? agents.bot : agents.person)
        : places.larkmoor + event.path + event.query;
      await open(visitor, event.at, address, referrer);
    } else if (event.kind === 'partner_click') {
      await open(visitor, event.at, leadsTo.get(event.key)!, `${places.wrenwick}/`);
    } else if (event.lands) {
      const address = leadsTo.get(event.key)!;
      const arrives = event.strips ? address.replace(/&qsid=[^&]*/, '') : address;
      await open(visitor, event.at, arrives, `${places.quillsearch}/`);
    }
    used(event.browser);
  }

  interface CrmDeal {
    id: string;
    person: { id: string };
  }
  async function dealsOf(mail: string): Promise<CrmDeal[]> {
    const { body } = await places.crm(`/api/deals?mail=${encodeURIComponent(mail)}`);
    return (JSON.parse(body) as { deals: CrmDeal[] }).deals;
  }
  async function dealOf(mail: string): Promise<CrmDeal> {
    const [deal] = await dealsOf(mail);
    if (!deal) throw new Error(`The CRM has no deal of ${mail}`);
    return deal;
  }

  async function findDeal(mail: string): Promise<string | null> {
    const [deal] = await dealsOf(mail);
    if (deal) deals.set(mail, deal.id);
    return deal?.id ?? null;
  }

  const desk = {
    async form({ at, browser, path, form, person }: Extract<DemoEvent, { kind: 'form' }>) {
      const visible = { ...person, bikes: String(person.bikes) };
      const hidden = await visitors.get(browser)!.page!.send(form, at, visible);
      used(browser);
      const body = new URLSearchParams({ ...hidden, ...visible }).toString();
      const sent = await places.ask(
        places.larkmoor + path,
        { 'content-type': 'application/x-www-form-urlencoded' },
        body,
      );
      if (sent.status !== 303) throw new Error(`${path} did not take the form: ${sent.status}`);
    },
    async order({ at, browser, part, count }: Extract<DemoEvent, { kind: 'order' }>) {
      const body = new URLSearchParams({ part, count: String(count) }).toString();
      const form = { 'content-type': 'application/x-www-form-urlencoded' };
      const { status, location } = await places.ask(`${places.larkmoor}/orders`, form, body);
      if (status !== 303) throw new Error(`The shop did not take an order: ${status}`);
      const visitor = visitors.get(browser)!;
      await open(visitor, at, places.larkmoor + location, visitor.address);
      used(browser);
    },
    async calls({ browser, says, dialled, caller, seconds }: Extract<DemoEvent, { kind: 'calls' }>) {
      const code = (says && browser !== null && visitors.get(browser)?.page?.code()) || '';
      if (browser !== null) used(browser);
      const form = { 'content-type': 'application/x-www-form-urlencoded' };
      const body = new URLSearchParams({ dialled, caller, seconds: String(seconds), code }).toString();
      const { status } = await places.ask(`${places.larkmoor}/switchboard`, form, body);
      if (status !== 303) throw new Error(`The switchboard did not take a call: ${status}`);
    },
    async rings({ person: { bikes, ...person } }: Extract<DemoEvent, { kind: 'rings' }>) {
      const amounts = { lease_profit: { amount: String(bikes * 180), currency: 'GBP' } };
      await places.crm('/api/deals', { person, fields: {}, amounts });
    },
    async sends_there({ form, ad, place, test, person }: Extract<DemoEvent, { kind: 'sends_there' }>) {
      const { name, company, mail, telephone } = person;
      await places.standins('platform-lead', {
        form,
        ad,
        place,
        name,
        company,
        mail,
        telephone,
        ...(test ? { test: 'on' } : {}),
      });
    },
    async starts_routines() {
      await places.avrix('routines', { business: 'larkmoor' });
    },
    async writes_back({ text }: Extract<DemoEvent, { kind: 'writes_back' }>) {
      const { letters } = JSON.parse((await places.ask(`${places.brindlepost}/letters.json`)).body) as {
        letters: { id: string; to: string }[];
      };
      const newest = letters.filter(({ to }) => !to.endsWith('@larkmoor.example')).at(-1);
      if (!newest) return;
      const form = { 'content-type': 'application/x-www-form-urlencoded' };
      const body = new URLSearchParams({ kind: 'reply', text }).toString();
      await places.ask(`${places.brindlepost}/letters/${newest.id}/answer`, form, body);
    },
    async fetches() {
      await places.avrix('leadForms', {
        business: 'larkmoor',
        account: 'tessaloop',
        take: 'all',
        medium: 'paid-social',
        handsOver: true,
        agreed: true,
      });
    },
    async values({ mail, profit }: Extract<DemoEvent, { kind: 'values' }>) {
      const deal = deals.get(mail) ?? (await findDeal(mail));
      if (!deal) return;
      const form = { 'content-type': 'application/x-www-form-urlencoded' };
      const body = new URLSearchParams({ amount: String(profit), currency: 'GBP' }).toString();
      await places.ask(`${places.oakledger}/deals/${deal}/amount`, form, body);
    },
    async merge({ mail, into }: Extract<DemoEvent, { kind: 'merge' }>) {
      const [one, other] = [await dealOf(mail), await dealOf(into)];
      await places.crm(`/api/people/${one.person.id}/merge`, { into: other.person.id });
      await places.crm(`/api/deals/${one.id}/merge`, { into: other.id });
    },
    async stage({ mail, stage }: Extract<DemoEvent, { kind: 'stage' }>) {
      const deal = deals.get(mail) ?? (await findDeal(mail));
      if (deal) await places.crm(`/api/deals/${deal}/stage`, { stage });
    },
  };

  return {
    /** Opens the pages of a day, after the clicks that lead to them. */
    async visits(events: Visit[]): Promise<void> {
      const leadsTo = await click(events);
      for (const event of events) await visit(event, leadsTo);
    },

    /** Hands over what pages sent before `end` (ms); the collector takes all of it, or the load ends. */
    async handOver(end: number): Promise<void> {
      const pages = posted.filter((page) => page.at < end);
      posted = posted.filter((page) => page.at >= end);
      for (let from = 0; from < pages.length; from += 500) {
        const part = { business: 'larkmoor', pages: pages.slice(from, from + 500) };
        const { refused } = (await places.avrix('pages', part)) as { refused: object[] };
        if (refused.length > 0) throw new Error(`Hits were refused: ${JSON.stringify(refused.slice(0, 3))}`);
      }
    },

    /**
     * What concerns the CRM: its way there and the CRM's word to Avrix end before anything else happens. The clocks
     * stand at the event's time.
     */
    async desk(event: Exclude<DemoEvent, Visit>): Promise<void> {
      await desk[event.kind](event as never);
      await places.standins('rest');
    },
  };
}
