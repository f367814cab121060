import type { Consent, FormSentHit, Hit } from '../capture/schema';
import { isUnder, hostOf } from '../capture/address';
import { listed } from '../listed';
import { counted } from '../counted';
import { platformName } from '../platforms/links';
import { touchWords } from '../reasons/touch-words';
import { quoteValue } from '../quote-value';
import type { PaymentNotice } from '../outcomes/corrections';
import type { ReleaseContent } from '../releases/schema';
import { originWords } from '../releases';
import type { RecordedHit } from '../strands/visitor';
import { makePretendBrowser } from './browser';
import { eventsAt } from './events-at';
import { pretendRelease, type KnownWorld } from './known';
import type { Trait } from './traits';
import { pageKey } from './where-to';

/** Something that a step did, or did not. `fault`: values are lost by it. Values stand between backticks. */
export interface Note {
  kind: 'did' | 'went_off' | 'quiet' | 'told' | 'fault';
  text: string;
}

/** A line of a rehearsal with what it did; `problem`: why it could not be walked, '' where it was. */
export interface WalkedLine {
  line: string;
  /** ms, when it happened. */
  at: number;
  problem: string;
  notes: Note[];
}

/** A form that was sent, with how the CRM's deal of it moved since. */
export interface Sending {
  hit: FormSentHit;
  moves: { stage: string; at: number }[];
}

/** Where a pretend visitor went and what its browser told; what follows from it is worked out by `rehearse`. */
export interface Walk {
  lines: WalkedLine[];
  hits: RecordedHit[];
  /** Which line each hit belongs to, by its ID. */
  lineOf: Map<string, WalkedLine>;
  sendings: Sending[];
  /** What was given back of orders, by the hit of each. */
  refunds: { hit: string; notice: PaymentNotice }[];
  /** ms, at the end. */
  now: number;
}

/** A wait up to this (ms) is spent on the page that is open. */
const longestStay = 1_800_000;

export type Walker = ReturnType<typeof makeWalker>;

/**
 * A pretend visitor with its browser: opens pages, tells what its pages would tell, and notes what came of it at the line
 * that is walked.
 * @param begins ms
 */
export function makeWalker(has: readonly Trait[], content: ReleaseContent, world: KnownWorld, begins: number) {
  const { capture: rules } = content;
  let made = 0;
  const newId = () => `00000000-0000-7000-8000-${(++made).toString(16).padStart(12, '0')}`;
  const browser = makePretendBrowser(rules, has, 0, newId);
  const walked: Walk = { lines: [], hits: [], lineOf: new Map(), sendings: [], refunds: [], now: begins };
  const judge = eventsAt(content, world);
  let consent: Consent | undefined = rules.consent.required ? { measurement: 'yes', advertising: 'yes' } : undefined;
  if (has.includes('no_consent')) consent = { measurement: 'no', advertising: 'no' };
  browser.agree(consent);
  let line!: WalkedLine;
  let isOpen = false;
  let clicks = 0;

  const say = (text: string, kind: Note['kind'] = 'did') => void line.notes.push({ kind, text });
  const isOwn = (address: string): boolean => rules.touch.ownHosts.some((own) => isUnder(hostOf(address), own));
  const isSilent = () => consent?.measurement === 'no' || world.withoutSnippet.includes(pageKey(browser.page.address));
  const record = (hit: Hit) => {
    walked.hits.push({ hit, at: hit.at, mark: '', browser: '' });
    walked.lineOf.set(hit.id, line);
  };
  /** Tells a hit, and has events judged by it. */
  const tell = (hit: Hit, field?: (name: string) => string) => {
    record(hit);
    const { hits, notes } = judge(hit, browser.keptNow(hit.at), newId, field);
    line.notes.push(...notes);
    hits.forEach(record);
  };

  function open(address: string, referrer: string, isOutside: boolean) {
    const stripped = browser.goTo(address, referrer, isOutside);
    isOpen = true;
    if (stripped.length > 0) say(`The browser took ${listed(stripped.map(quoteValue))} out of the address.`, 'fault');
    if (isSilent()) {
      const why = consent?.measurement === 'no' ? 'This visitor said no' : 'The snippet is not on this page';
      say(`${why}: nothing of this is kept or told.`, 'fault');
      return;
    }
    const { hit, because, cleaned, hadEnded } = browser.arrive(walked.now);
    if (hadEnded) say('Cookies of this browser had ended since the page before.', 'fault');
    if (cleaned.length > 0)
      say(
        `${counted(cleaned.length, 'value', 'values')} with personal data ${cleaned.length === 1 ? 'is' : 'are'} taken out.`,
      );
    const { last, clicks } = browser.keptNow(hit.at);
    const isNew = last?.at === hit.at;
    const from = isNew ? `: ${originWords(pretendRelease(content), last.source, last.medium, last.referrer)}` : '';
    say(`${touchWords[because]}${from}.`);
    const click = clicks.find(({ at }) => at === hit.at);
    if (click)
      say(`Keeps the click ID of ${platformName(click.platform, content.platforms)}, ${quoteValue(click.clickId)}.`);
    if (has.includes('blocks_storage'))
      say('The browser keeps no cookie: the values are gone with this page.', 'fault');
    tell(hit);
  }

  function stay(ms: number) {
    walked.now += ms;
    if (isOpen && ms <= longestStay && !isSilent()) {
      const { notes, hits } = judge.stayed(
        browser.hitOf(walked.now, { kind: 'consent' }),
        browser.keptNow(walked.now),
        newId,
        ms / 1000,
      );
      line.notes.push(...notes);
      hits.forEach(record);
    }
    if (ms > longestStay) isOpen = false;
  }

  return {
    walked,
    content,
    world,
    browser,
    newId,
    /** A made-up click ID, another for each click. */
    newClickId: () => `Rehearsed${++clicks}`,
    say,
    tell,
    isSilent,
    stay,
    /** Begins a line of the rehearsal. */
    begin(text: string): WalkedLine {
      line = { line: text, at: walked.now, problem: '', notes: [] };
      walked.lines.push(line);
      return line;
    },
    note: (notes: Note[]) => void line.notes.push(...notes),
    isOn: () => isOpen && browser.page.address !== '',
    isOwn,
    /** Opens a page of the business's. @returns why not, '' where it is open */
    openOwn(address: string, referrer: string, isOutside: boolean): string {
      if (!isOwn(address)) return `${quoteValue(hostOf(address))} is none of the business’s websites.`;
      open(address, referrer, isOutside);
      return '';
    },
    /** Takes back what was agreed to. */
    refuse() {
      consent = { measurement: 'no', advertising: 'no' };
      browser.agree(consent);
      record(browser.hitOf(walked.now, { kind: 'consent' }));
      browser.clear(walked.now);
      say('Then this visitor says no: what was kept is cleared, and platforms may not be told.', 'fault');
    },
  };
}
