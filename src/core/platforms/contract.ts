import type { Money } from '../outcomes/schema';

/** What is fixed about a kind of platform: its click ID, its limits and how it recognises a repeat. */
export interface PlatformContract {
  kind: string;
  words: string;
  clickParameter: string;
  /** True where the click ID exists only on paid clicks. */
  provesPayment: boolean;
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
