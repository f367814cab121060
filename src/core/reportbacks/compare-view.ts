import type { Sentence } from '../strands/sentence';
import type { ComparedDay } from './compare';

/** An outcome or an event told to an account that is, or was, only worked out. Times in UTC, ISO 8601. */
export interface ComparedTelling {
  /** As `comparedKey` writes it. */
  key: string;
  of: 'outcome' | 'event';
  /** The outcome's code, or the event's name. */
  outcome: string;
  account: string;
  accountName: string;
  /** False where it is only in the draft that it is worked out. */
  isLive: boolean;
  /** From when on it is told, by the rule that is live; '' while it is only worked out. */
  from: string;
  /** The same in the draft, where somebody stated a moment that is not live yet. */
  fromInDraft: string;
}

/** One difference between what Avrix would tell and what the other way told. */
export interface DifferenceRow {
  id: string;
  kind: 'worth' | 'only ours' | 'only old';
  clickId: string;
  at: string;
  /** What each of them says that it is worth; '' where it says nothing, or for who may not see money. */
  ours: string;
  old: string;
  /** Why Avrix would not tell it; '' where it would. */
  why: string;
  /** Below the business's address; '' where it leads nowhere. */
  path: string;
}

export interface CompareView {
  sentence: Sentence;
  tellings: ComparedTelling[];
  /** The one that is looked at; '' where there is none. */
  chosen: string;
  /** `file`: what the other way told came as files; `report`: the platform's own report says how many there were. */
  against: 'file' | 'report';
  /** Whether files can be compared: rows belong to each other by their clicks. */
  takesFiles: boolean;
  /** Names by which the account reports what it counts, or an event is told to it, and the one that is compared. */
  reported: string[];
  as: string;
  /** Files that were brought to be compared. */
  files: { id: string; name: string; at: string; rows: number }[];
  /** Days, the newest first, in the account's zone: of the outcome, or of the click where the platform reports by it. */
  days: ComparedDay[];
  differences: DifferenceRow[];
  /** How many rows differ, of which the first ones are shown; or days, where the platform's report is compared. */
  differing: number;
  /** Of days after it was switched over, what the platform counts that Avrix did not tell. */
  stillTold: number;
  mayChange: boolean;
  timeZone: string;
}
