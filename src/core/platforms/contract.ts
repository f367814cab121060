import type { Money } from '../outcomes/schema';

/** Something a platform fills into a link when an ad is clicked. */
export interface PlaceholderContract {
  /** As it is written in a link. */
  text: string;
  words: string;
  /** What it could be filled in with, made up. */
  example: string;
  /** True where it is the click ID, so that it can travel under another name too. */
  isClickId: boolean;
}

/** What is fixed about links to ads of a kind of platform. */
export interface LinkContract {
  kind: string;
  words: string;
  clickParameter: string;
  /** True where the click ID exists only on paid clicks. */
  provesPayment: boolean;
  placeholders: PlaceholderContract[];
  /** True where names are filled in as they were when an ad was first published. */
  freezesNames: boolean;
}

/** What is fixed about a kind of platform that is told outcomes: its limits and how it recognises a repeat. */
export interface PlatformContract extends LinkContract {
  /** Oldest click it takes, in days between click and outcome. */
  clickDays: number;
  /** Latest telling it takes, in days after the outcome. */
  tellWithinDays: number;
  repeatsRecognisedBy: 'key' | 'order' | 'nothing';
  rowsPerBatch: number;
  callsPerMinute: number;
}

/** One outcome to be told. `eventId` is the key by which the platform recognises a repeat. */
export interface TellingRow {
  eventId: string;
  clickId: string;
  /** Without its version. */
  outcome: string;
  happenedAt: number;
  worth: Money;
}

/** What a platform said of one row. `taken` also stands for "told before" under our own key. */
export type RowAnswer =
  | { eventId: string; taken: true; /** The click day it books the row on, in its own zone. */ day: string }
  | { eventId: string; taken: false; answer: string };
