import { PretendBrowser, type PageVisit } from './browser/browser';
import { compileEngine, type Engine } from './browser/engine';
import { makeRandom } from './generator/random';
import type { DemoEvent } from './generator/journeys';
import type { Places } from './places';

type Sender = Awaited<ReturnType<PretendBrowser['open']>>;

interface Visitor {
  browser: PretendBrowser;
  /** The page now open: its address, and how to send one of its forms. */
  address: string;
  send: Sender | null;
}

/** Plays events one after the other against the running application and stand-ins, each at its own time. */
export function makeReplay(places: Places) {
  const visitors = new Map<number, Visitor>();
  const pages = new Map<string, PageVisit['forms']>();
  const random = makeRandom(99);
  let engine: Engine | null = null;

  async function post(url: string, body: string): Promise<boolean> {
    const { status, body: answer } = await places.ask(
      url,
      { 'content-type': 'text/plain', origin: places.larkmoor },
      body,
    );
    if (status !== 204) throw new Error(`${url} did not take a hit: ${status} ${answer}`);
    return true;
  }

  const visitorOf = (id: number, works: boolean): Visitor => {
    const known = visitors.get(id) ?? { browser: new PretendBrowser(works, random, post), address: '', send: null };
    visitors.set(id, known);
    return known;
  };

  /** The forms of a page as the website serves it. */
  async function formsOf(address: string): Promise<PageVisit['forms']> {
    const { pathname } = new URL(address);
    const known = pages.get(pathname);
    if (known) return known;
    const { body } = await places.ask(places.larkmoor + pathname);
    const forms = [...body.matchAll(/<form name="([^"]+)"[^>]*>(.*?)<\/form>/gs)].map(([, name, inside]) => ({
      name: name!,
      fields: [...inside!.matchAll(/<input\b[^>]*>/g)].map(([input]) => ({
        name: /name="([^"]*)"/.exec(input)?.[1] ?? '',
        type: /type="([^"]*)"/.exec(input)?.[1] ?? 'text',
        value: /value="([^"]*)"/.exec(input)?.[1] ?? '',
      })),
    }));
    pages.set(pathname, forms);
    return forms;
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
    engine ??= await loadEngine();
    const forms = await formsOf(address);
    visitor.send = await visitor.browser.open(engine, { at, address, referrer, forms });
    visitor.address = address;
  }

  const play = {
    async click(event: Extract<DemoEvent, { kind: 'click' }>) {
      const { location } = await places.ask(`${places.quillsearch}/click/${event.ad}?key=${event.key}`);
      if (event.lands) await open(visitorOf(event.browser, event.works), event.at, location, `${places.quillsearch}/`);
    },
    async page(event: Extract<DemoEvent, { kind: 'page' }>) {
      const visitor = visitorOf(event.browser, event.works);
      const referrer = event.referrer === 'own' ? visitor.address : event.referrer;
      await open(visitor, event.at, places.larkmoor + event.path + event.query, referrer);
    },
    async form({ at, browser, path, form, person }: Extract<DemoEvent, { kind: 'form' }>) {
      const visible = { ...person, bikes: String(person.bikes) };
      const hidden = await visitors.get(browser)!.send!(form, at);
      const body = new URLSearchParams({ ...hidden, ...visible }).toString();
      const sent = await places.ask(
        places.larkmoor + path,
        { 'content-type': 'application/x-www-form-urlencoded' },
        body,
      );
      if (sent.status !== 303) throw new Error(`${path} did not take the form: ${sent.status}`);
      // The form's way to the CRM and the CRM's word to Avrix end before anything else happens.
      await places.standins('rest');
    },
    async rings({ person: { bikes, ...person } }: Extract<DemoEvent, { kind: 'rings' }>) {
      const amounts = { lease_profit: { amount: String(bikes * 180), currency: 'GBP' } };
      await places.crm('/api/deals', { person, fields: {}, amounts });
    },
    async stage({ mail, stage }: Extract<DemoEvent, { kind: 'stage' }>) {
      const { body } = await places.crm(`/api/deals?mail=${encodeURIComponent(mail)}`);
      const [deal] = (JSON.parse(body) as { deals: { id: string }[] }).deals;
      if (deal) await places.crm(`/api/deals/${deal.id}/stage`, { stage });
      await places.standins('rest');
    },
  };

  return async (event: DemoEvent): Promise<void> => play[event.kind](event as never);
}
