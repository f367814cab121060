import type { FileChange } from '../outcomes/filed';
import type { ReasonWords } from '../reasons/words';
import type { Sentence } from '../strands/sentence';
import type { LeftAlone, ReportBackAct } from './acts';
import type { BrakeBecause } from './brake';
import type { ReportBackState } from './decide';

/** One report-back in the list. Times in UTC, ISO 8601. */
export interface QueueRow {
  id: string;
  /** Whose it is: a lead, or an order. */
  words: string;
  outcome: string;
  /** 0 for what tells it for the first time; its first correction is 1. */
  correction: number;
  account: string;
  state: ReportBackState;
  /** Why it is where it is; '' where there is nothing to say. */
  why: string;
  happenedAt: string;
  /** When it is to be told; null where that is not known. */
  dueAt: string | null;
  /** What is told that it is worth; '' for who may not see money. */
  worth: string;
}

/** A report-back in the open form of offline conversions. */
export interface OpenConversion {
  clickId: string;
  outcome: string;
  happenedAt: string;
  amount: string;
  currency: string;
  /** The event ID, by which one that comes again is known. */
  order: string;
  change: FileChange;
}

/** Report-backs of one state that are there for one reason. */
export interface QueueGroup {
  state: ReportBackState;
  code: string;
  words: ReasonWords;
  count: number;
  /** Where it is fixed, within the business; '' where nowhere in Avrix. */
  fixedAt: string;
}

/** Report-backs that are held as one until somebody looked at them. */
export interface BrakeView {
  id: string;
  outcome: string;
  /** The account's key and its name. */
  account: string;
  accountName: string;
  because: BrakeBecause;
  count: number;
  /** What it is and what is usual, in words. */
  words: string;
  since: string;
  /** Who or what caused them, the most first. */
  causes: { words: string; count: number }[];
}

export interface QueueView {
  sentence: Sentence;
  rows: QueueRow[];
  total: number;
  pageSize: number;
  timeZone: string;
  states: Partial<Record<ReportBackState, number>>;
  /** Why report-backs are held or refused, the most frequent first. */
  groups: QueueGroup[];
  brakes: BrakeView[];
  outcomes: string[];
  accounts: { key: string; name: string }[];
  mayChange: boolean;
  seesMoney: boolean;
}

/** What an act did, or would do. */
export interface ActedView {
  done: number;
  /** What was left alone, and why. */
  left: { because: LeftAlone; count: number }[];
}

/** One report-back, whole. */
export interface ReportBackDetail extends QueueRow {
  sentence: Sentence;
  /** The trace of what it is of, within the business. */
  trace: string;
  mend: string;
  facts: { name: string; value: string; mono: boolean }[];
  attempts: { at: string; status: string; answer: string; request: string }[];
  /** What can be done with it now. */
  acts: ReportBackAct[];
  isUnsure: boolean;
  timeZone: string;
  mayChange: boolean;
}
