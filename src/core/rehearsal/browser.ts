import {
  arrive,
  cleanArrival,
  decideFills,
  nothingKept,
  readKept,
  writeKept,
  type CaptureRules,
  type Consent,
  type FillReport,
  type Hit,
  type Kept,
  type TouchWhy,
} from '../capture';
import { splitAddress } from '../capture/address';
import { scriptCookieDays } from '../capture/capped';
import type { ArrivedHit, PiiFound } from '../capture/schema';
import type { KnownForm } from './known';
import type { Trait } from './traits';

const day = 86_400_000;
/** How long (ms) a browser that caps them keeps cookies that a script set. */
const capped = scriptCookieDays * day;

/** What the snippet made of an arrival. */
export interface ArrivedPretend {
  hit: Hit;
  because: TouchWhy;
  /** What was taken out because it is personal data. */
  cleaned: PiiFound[];
  /** True where cookies that were there at the last page have ended. */
  hadEnded: boolean;
}

type Navigation = ArrivedHit['navigation'];
type Rest = Pick<Hit, 'kind'> & Record<string, unknown>;

/**
 * A browser that never was: it keeps cookies as the snippet's engine writes them, for as long as its traits let it, and
 * tells hits as pages do.
 *
 * @param newId gives another ID each time
 */
export function makePretendBrowser(rules: CaptureRules, has: readonly Trait[], release: number, newId: () => string) {
  const jar = new Map<string, { value: string; endsAt: number }>();
  const page = { address: '', referrer: '' };
  let consent: Consent | undefined;
  let lastSeen: { id: string; visitId: string } | null = null;

  /** Drops what has ended. @returns whether anything had */
  const endCookies = (at: number): boolean => {
    const ended = [...jar].filter(([, { endsAt }]) => endsAt <= at).map(([name]) => name);
    ended.forEach((name) => jar.delete(name));
    return ended.length > 0;
  };

  const keptNow = (at: number): Kept => {
    endCookies(at);
    return readKept(Object.fromEntries([...jar].map(([name, { value }]) => [name, value])), rules);
  };

  function keep(kept: Kept, at: number): void {
    if (has.includes('blocks_storage')) return;
    const isCapped = has.includes('caps_cookies') && rules.keep.setBy === 'page';
    for (const { name, value, maxAge } of writeKept(kept, at, rules)) {
      const life = isCapped ? Math.min(maxAge * 1000, capped) : maxAge * 1000;
      if (life > 0) jar.set(name, { value, endsAt: at + life });
      else jar.delete(name);
    }
  }

  function hitOf(at: number, rest: Rest): Hit {
    const { first, last, clicks, values } = keptNow(at);
    return {
      id: newId(),
      at,
      release,
      visitor: lastSeen!.id,
      visit: lastSeen!.visitId,
      ...page,
      consent,
      kept: { works: !has.includes('blocks_storage'), first, last, clicks, values },
      ...rest,
    } as unknown as Hit;
  }

  /** What the browser takes out of the address of a link from outside: the names that platforms are known to use. */
  function strip(address: string): { address: string; stripped: string[] } {
    const split = splitAddress(address);
    if (!split || !has.includes('strips_click_ids')) return { address, stripped: [] };
    const known = new Set(rules.keep.clickIds.flatMap(({ parameter, alsoAs }) => [parameter, ...alsoAs]));
    const stripped = split.query.filter(([name]) => known.has(name)).map(([name]) => name);
    const [, head = '', query = '', rest = ''] = /^([^?#]*)(?:\?([^#]*))?(#.*)?$/.exec(address) ?? [];
    const left = query.split('&').filter((pair) => !known.has(pair.split('=')[0]!));
    return { address: `${head}${left.join('&') ? `?${left.join('&')}` : ''}${rest}`, stripped };
  }

  return {
    page,
    keptNow,
    hitOf,
    /** What the person agrees to, from now on. */
    agree: (to: Consent | undefined) => void (consent = to),
    /** Clears what is kept, as the snippet does after a “no”. */
    clear: (at: number) => keep(nothingKept(), at),

    /**
     * Goes to a page, whether or not the snippet works there.
     * @param isOutside whether a link of somebody else's led here
     * @returns query names that the browser took out of the address
     */
    goTo(address: string, referrer: string, isOutside: boolean): string[] {
      const came = isOutside ? strip(address) : { address, stripped: [] };
      Object.assign(page, { address: came.address, referrer });
      return came.stripped;
    },

    /** The snippet works on the page that is open: it keeps what arrived, and tells of it. */
    arrive(at: number, navigation: Navigation = 'navigate'): ArrivedPretend {
      const { address, referrer: from, found } = cleanArrival(page, rules);
      Object.assign(page, { address, referrer: from });
      const hadEnded = endCookies(at);
      const before = keptNow(at);
      const { kept, decision } = arrive(before, { at, address, referrer: from, navigation }, rules, {
        visitor: newId(),
        visit: newId(),
      });
      keep(kept, at);
      lastSeen = kept.visitor;
      const hit = hitOf(at, { kind: 'arrived', navigation, why: decision.because, pii: found });
      return { hit, because: decision.because, cleaned: found, hadEnded };
    },

    /** What becomes of each fill rule when a form of the page is sent. */
    fill({ form, path, fields, found }: KnownForm, at: number): FillReport[] {
      const seen = fields
        .filter(({ hidden }) => hidden)
        .map(({ name }) => ({ name, id: '', label: '', hidden: true, value: '' }));
      // Found by another way than its name: that is all that is known of it.
      const others = rules.fill
        .filter(({ id, find }) => find !== 'name' && found.includes(id))
        .map(({ field }) => ({ name: '', id: field, label: field, hidden: true, value: '' }));
      const all = [...seen, ...others];
      const matches = (index: number, selector: string) => all[index]!.id === selector;
      return decideFills({ name: form, page: path, fields: all, matches }, keptNow(at), rules).report;
    },
  };
}
