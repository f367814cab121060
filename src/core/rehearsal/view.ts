import type { Sentence, TraceView } from '../strands';
import type { SavedRehearsal } from './schema';
import type { Trait } from './traits';
import type { Note } from './walker';

/** A line as it was walked. `at`: UTC, ISO 8601. */
export interface LineView {
  line: string;
  at: string;
  problem: string;
  notes: Note[];
}

/** A fact that can be expected, in words. */
export interface FactView {
  key: string;
  is: string;
  words: string;
}

/** What one account would be told. */
export interface RequestView {
  words: string;
  /** Method and address, then the body as it would be sent; '' where a page tells it. */
  head: string;
  body: string;
}

export interface RehearsalView {
  sentence: Sentence;
  lines: LineView[];
  /** The hops of Trace; null where nothing could be followed. */
  trace: Pick<TraceView, 'way' | 'hops' | 'values' | 'timeZone'> | null;
  requests: RequestView[];
  facts: FactView[];
  timeZone: string;
}

/** One's own browser on the real pages, as far as it came. */
export type RealWalkView =
  | { isOn: false }
  | {
      isOn: true;
      /** Whose rules it works by. */
      rules: 'draft' | 'live';
      /** Begins it in a tab; it lets one tab in. */
      link: string;
      trace: RehearsalView['trace'];
      /** The newest first. */
      happened: { at: string; text: string }[];
      timeZone: string;
    };

/** What was cleaned up after a walk, and what could not be. */
export interface CleanedView {
  cleaned: string[];
  left: string[];
}

/** What completes a line while it is typed. */
export interface RehearsalOffers {
  /** Links of the business, with what people call them. */
  arrive: { value: string; label: string }[];
  paths: string[];
  forms: { form: string; path: string }[];
  presses: { words: string; path: string; link: string }[];
  stages: string[];
  mayChange: boolean;
}

/** A saved rehearsal with how it came out by the rules of the draft. */
export interface SavedView extends SavedRehearsal {
  id: string;
  changedAt: string;
  by: string;
  /** Each as a sentence; of one that does not hold with how it came out. */
  expectations: { key: string; is: string; words: string; holds: boolean }[];
  /** Lines that cannot be walked, each with why. */
  problems: string[];
  holds: boolean;
}

export interface SavedListView {
  sentence: Sentence;
  rehearsals: SavedView[];
  mayChange: boolean;
  timeZone: string;
}

export type { Trait };
