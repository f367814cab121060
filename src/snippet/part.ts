import type { splitReferrer, piiIn, decideFills, FillReport, Hit, Kept, Reading, SeenForm } from '../core/capture';
import type { makeTokens } from './forms';
import type { EventJudged } from '../core/events/judge';
import type { Press } from '../core/events/press';
import type { MomentKind } from '../core/events/reasons';
import type { EventRule } from '../core/events/schema';
import type { Tools } from './tools';

/** What of a hit only its kind has. */
export type Rest = Hit extends infer One
  ? One extends Hit
    ? Omit<One, 'id' | 'at' | 'release' | 'visitor' | 'visit' | 'address' | 'referrer' | 'pii' | 'kept' | 'consent'>
    : never
  : never;

/** A document that the snippet works on, or an open shadow root in one. */
export type Root = Document | ShadowRoot;

/** Those who hear of something that happens on a page. */
export interface Hearing {
  /** Of everything that is told. */
  told: ((rest: Rest) => void)[];
  /** Of a link or button that is pressed. */
  pressed: ((press: Press, element: Element) => void)[];
  /** Of a form that is sent; without one where the page sends it by itself. */
  sent: ((name: string, leadToken: string, form?: HTMLFormElement) => void)[];
  /** The hash of an email address, where it may be read; nobody answers where no release needs it. */
  hash?: (id: string, mail: string) => string;
  /** Of what became of each event at a moment of the page; only somebody who sees through the page hears of it. */
  judged?: (rule: EventRule, judged: EventJudged, moment: MomentKind) => void;
}

/** What the engine offers on a page that it works on. */
export interface Host {
  /** What the browser keeps now. */
  kept(): Kept;
  /** What it keeps of a reading. `of`: whose click ID, or which kept value. */
  read(reading: Reading, of: string): string;
  tell(rest: Rest): void;
  hearing: Hearing;
  /** An address in its parts. */
  split: typeof splitReferrer;
  /** Something as it would be told now. */
  hitOf(rest: Rest): Hit;
  /** How a text says who somebody is; '' where it does not. */
  isPersonal: typeof piiIn;
  /**
   * Gives every element that is in the page, or comes into it, to one who looks at such; in idle time, piece by piece.
   *
   * @param changing attributes after whose change it is looked at again
   */
  watch(selector: string, look: (element: Element) => void, ...changing: string[]): void;
  /** For each form that was looked at and filled, with what became of each rule. */
  onForm(look: (form: HTMLFormElement, fills: FillReport[]) => void): void;
  /** Once everything that came or changed was looked at. */
  onLooked(work: () => void): void;
  /** For each document and open shadow root there is, and each that comes. */
  onRoot(work: (root: Root) => void): void;
  /** True for a frame's document whose own snippet tells of it. */
  looksItself(root: Root): boolean;
  /** Once this page is worked on no longer. */
  onEnd(work: () => void): void;
  /** Looks at everything again. */
  lookAgain(): void;
  /** What becomes of each fill rule in a form as it is seen. */
  decide(form: SeenForm): ReturnType<typeof decideFills>;
  /** Fills a form, and puts a lead token into it. */
  prepare(form: HTMLFormElement): FillReport[];
  /** Tells that a form was sent under the token it waits with, where it is followed; the next sending gets another. */
  sent(form: HTMLFormElement): void;
  /** Tells the same of one that the page sends by itself. */
  sentAs(name: string, leadToken: string, fields: string[], fills: FillReport[], form?: HTMLFormElement): void;
  tokens: ReturnType<typeof makeTokens>;
  /** A form's name, and its fields, by the browser's own ways. */
  nameOf(form: HTMLFormElement): string;
  fieldsOf(form: HTMLFormElement): HTMLInputElement[];
}

/**
 * What only some releases need: served with those that do. A part uses the engine's tools and carries no copies of them;
 * each of its moments is optional.
 */
export interface Part {
  /** An address without what the part puts into addresses. */
  strip?(address: string): string;
  /** What the browser keeps with what came in this page's address, and the place it came from; null without any. */
  restore?(here: Kept): Promise<{ place: string; kept: Kept } | null>;
  /** Begins on a page. */
  work?(host: Host): void;
  /** Forgets what it stored. */
  clear?(): void;
}

export type MakePart = (tools: Tools) => Part;

declare global {
  /** Where the parts that a release needs stand when the engine begins. */
  const AVRIX_PARTS: MakePart[];
}
