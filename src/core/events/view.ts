import type { ReleaseContent } from '../releases/schema';
import type { ChangedRule } from '../rules';
import type { Sentence } from '../strands/sentence';
import type { AccountName } from '../connections/view';
import type { Cue, EventRule, ReadingRule, WireRule } from './schema';
import type { MovedPage } from './moved';
import type { Starter } from './starters';

/** What there is to pick from while an event is written. */
export interface EventOffers {
  forms: string[];
  paths: string[];
  elements: string[];
  wordsPressed: string[];
  links: string[];
  pageSays: string[];
  fields: string[];
}

/** What a reading took along lately. */
export interface ReadingLately {
  /** Its newest different values. */
  values: string[];
  /** Of how many times it was empty. */
  of: number;
  empty: number;
  /** Addresses, without query, of the pages it was read on, the commonest first, with the same of each. */
  pages: { page: string; of: number; empty: number }[];
}

/** What became of one event at one destination, as the server or as pages told it. */
export interface Told {
  told: number;
  refused: number;
  waiting: number;
  held: number;
  /** They may have been counted, and nobody knows. */
  unsure: number;
  /** They would have been told, and another way tells them. */
  'worked out': number;
  /** UTC, ISO 8601; null before the first. */
  lastAt: string | null;
  /** Why the newest that is refused, held or waits is so; '' where none is. */
  why: string;
}

export interface EventsView {
  sentence: Sentence;
  events: EventRule[];
  readings: ReadingRule[];
  wires: WireRule[];
  recording: { presses: boolean };
  /** What their sentences name. */
  beside: Pick<ReleaseContent, 'capture' | 'events' | 'platforms'> & { accounts: AccountName[] };
  offers: EventOffers;
  starters: Starter[];
  /** How each is counted, in dated facts, by its name. */
  evidence: Record<string, string>;
  /** Of quiet ones, the page that visitors reach in place of the one they wait for. */
  moved: Record<string, MovedPage>;
  /** By event and reading: `enquiry_sent bikes`. */
  lately: Record<string, ReadingLately>;
  /** What became of events that were told, by event, account and teller: `enquiry_sent meterhall server`. */
  told: Record<string, Told>;
  changed: ChangedRule[];
  mayChange: boolean;
  timeZone: string;
}

/** What an event as it is written would have counted of recorded traffic. */
export interface EventEffectView {
  /** Since when (UTC, ISO 8601) recorded traffic was looked at. */
  since: string;
  written: number;
  /** null where it is not live. */
  live: number | null;
  unknown: number;
  /** What of it nothing recorded can say anything of. */
  unjudged: string[];
  /** YYYY-MM-DD of the business; of the count, what the live version does not have. */
  days: { day: string; count: number; gained: number }[];
  newest: { id: string; words: string; href: string; at: string; reads: { words: string; value: string | null }[] }[];
  missed: { words: string; count: number; cue: Cue }[];
  /** Since when (UTC, ISO 8601) what it waits for is recorded; null where it is from the beginning, '' where it is not. */
  recordedSince: string | null;
}
