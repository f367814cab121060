import type { Random } from '../generator/random';
import type { Engine } from './engine';

export interface PageVisit {
  at: number;
  address: string;
  referrer: string;
  forms: { name: string; fields: { name: string; type: string; value: string }[] }[];
  links: { href: string; text: string; attributes: Record<string, string> }[];
  /** How often the line stands in the page. */
  lines: number;
  /** Whether a place for the reference code is beside its telephone number. */
  hasCode: boolean;
  /** What the page says of itself to who reads it, '' where it says nothing. */
  says: string;
}

/** How a browser treats what pages keep. */
export interface Habits {
  /** False where the person switched cookies off. */
  works: boolean;
  /** Days after which it ends cookies that scripts set; null where it lets them be. */
  endsCookiesAfter: number | null;
}

const day = 86_400_000;

class PretendField {
  readonly id = '';
  constructor(
    readonly name: string,
    readonly type: string,
    public value: string,
  ) {}
  getAttribute(name: string): string | null {
    return name === 'name' ? this.name : null;
  }
  /** The website's forms listen to nothing. */
  dispatchEvent(): void {}
}

class PretendForm {
  readonly id = '';
  readonly tagName = 'FORM';
  readonly elements: PretendField[];
  constructor(
    private readonly name: string,
    fields: { name: string; type: string; value: string }[],
  ) {
    this.elements = fields.map((field) => new PretendField(field.name, field.type, field.value));
  }
  getAttribute(name: string): string | null {
    return name === 'name' ? this.name : null;
  }
  matches(selector: string): boolean {
    return selector === 'form';
  }
}

/** Where the page shows a visitor's reference code. */
class PretendCode {
  readonly tagName = 'B';
  textContent = '';
  matches(selector: string): boolean {
    return selector === '.call-code';
  }
}

/** A link of the page. */
class PretendLink {
  readonly nodeType = 1;
  readonly localName = 'a';
  readonly tagName = 'A';
  readonly href: string;
  readonly textContent: string;
  readonly attributes: { name: string; value: string }[];
  constructor({ href, text, attributes }: PageVisit['links'][number], page: string) {
    this.href = new URL(href, page).href;
    this.textContent = text;
    this.attributes = Object.entries({ href, ...attributes }).map(([name, value]) => ({ name, value }));
  }
  getAttribute(name: string): string | null {
    return this.attributes.find((one) => one.name === name)?.value ?? null;
  }
  /** Knows lists of tags and single attributes, as the demo's rules have them. */
  matches(selector: string): boolean {
    return selector.split(',').some((one) => {
      const [, tag, attribute] = /^(\w*)(?:\[([\w-]+)\])?$/.exec(one) ?? [];
      return (tag === 'a' || tag === '') && attribute !== undefined && this.getAttribute(attribute) !== null;
    });
  }
  closest(selector: string): this | null {
    return this.matches(selector) ? this : null;
  }
}

/** What somebody does on a page that is open. */
export interface OpenPage {
  /** Sends a form at a time (ms), with what the person wrote; returns the fields as they then are. */
  send(form: string, at: number, written?: Record<string, string>): Promise<Record<string, string>>;
  /** Presses the link that leads to an address that begins so; returns where it leads, null where there is none. */
  press(leadsTo: string, at: number): Promise<string | null>;
  /** Reads the reference code beside the telephone number; '' where the page shows none. */
  code(): string;
}

/**
 * One visitor's browser, thin: it keeps cookies and storage from page to page and runs the script that the website's
 * pages carry. What is kept, filled and sent is decided by that script alone.
 */
export class PretendBrowser {
  private readonly cookies = new Map<string, { value: string; until: number }>();
  private readonly stored = new Map<string, string>();

  constructor(
    private readonly habits: Habits,
    private readonly random: Random,
    private readonly post: (url: string, body: string, at: number) => Promise<boolean>,
  ) {}

  /** Opens a page and lets its script run. */
  async open(engine: Engine, visit: PageVisit): Promise<OpenPage> {
    let now = visit.at;
    const posts: Promise<boolean>[] = [];
    /** What the page does a little later. */
    const later: (() => void)[] = [];
    const settle = async () => {
      do {
        later.shift()?.();
        await posts.shift();
        await new Promise(setImmediate);
      } while (posts.length + later.length > 0);
    };
    const forms = visit.forms.map(({ name, fields }) => new PretendForm(name, fields));
    const codes = visit.hasCode ? [new PretendCode()] : [];
    const links = visit.links.map((link) => new PretendLink(link, visit.address));
    const heard: Record<string, ((event: object) => void)[]> = {};
    const { hostname, pathname, protocol } = new URL(visit.address);
    const cookieDocument = {
      get: () => this.cookieText(now),
      set: (text: string) => this.setCookie(text, now),
    };
    const document = Object.defineProperty(
      {
        referrer: visit.referrer,
        getElementById: (id: string) => (id === 'avrix-page' && visit.says ? { textContent: visit.says } : null),
        querySelectorAll: (selector: string) =>
          selector.startsWith('script') ? Array.from({ length: visit.lines }, () => ({})) : [...forms, ...codes],
      },
      'cookie',
      cookieDocument,
    );
    engine({
      document,
      location: { href: visit.address, hostname, pathname, protocol },
      performance: { getEntriesByType: () => [{ type: 'navigate' }], now: () => now },
      crypto: { getRandomValues: (bytes: Uint8Array) => (bytes.set(this.random.bytes(bytes.length)), bytes) },
      localStorage: {
        getItem: (key: string) => this.stored.get(key) ?? null,
        setItem: (key: string, value: string) => void this.stored.set(key, value),
        removeItem: (key: string) => void this.stored.delete(key),
      },
      history: { pushState: () => undefined },
      setTimeout: (work) => void later.push(work),
      navigator: {},
      Date: { now: () => now },
      fetch: async (url, { body }) => {
        const sent = this.post(url, body, now);
        posts.push(sent);
        return { ok: await sent };
      },
      addEventListener(name, listener) {
        if (this === document) (heard[name] ??= []).push(listener);
      },
      removeEventListener: () => undefined,
      MutationObserver: class {
        observe() {}
      },
      Event: class {},
      globalThis: {},
    });
    await settle();

    const happens = async (name: string, event: object, at: number) => {
      now = at;
      for (const listener of heard[name] ?? []) listener(event);
      await settle();
    };
    return {
      async send(name, at, written = {}) {
        const form = forms.find((f) => f.getAttribute('name') === name)!;
        for (const field of form.elements) field.value = written[field.name] ?? field.value;
        await happens('submit', { target: form }, at);
        return Object.fromEntries(form.elements.map((field) => [field.name, field.value]));
      },
      async press(leadsTo, at) {
        const link = links.find(({ href }) => href.startsWith(leadsTo));
        if (!link) return null;
        await happens('click', { composedPath: () => [link] }, at);
        return link.href;
      },
      code: () => codes[0]?.textContent ?? '',
    };
  }

  private cookieText(now: number): string {
    const live = [...this.cookies].filter(([, { until }]) => until > now);
    return live.map(([name, { value }]) => `${name}=${value}`).join('; ');
  }

  private setCookie(text: string, now: number): void {
    if (!this.habits.works) return;
    const [pair = '', ...attributes] = text.split('; ');
    const at = pair.indexOf('=');
    const seconds = Number(attributes.find((a) => a.startsWith('Max-Age='))?.slice('Max-Age='.length) ?? 0);
    const longest = (this.habits.endsCookiesAfter ?? Infinity) * day;
    this.cookies.set(pair.slice(0, at), { value: pair.slice(at + 1), until: now + Math.min(seconds * 1000, longest) });
  }
}
