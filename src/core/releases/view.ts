import type { Sentence } from '../strands/sentence';
import type { ChangedRule, RuleName } from '../rules';

/** Whether rules are as they were: the number of the live release, and what the draft changes. */
export interface DraftState {
  release: number;
  changed: ChangedRule[];
}

/** One rule as the draft changes it: the sentence that is live, and the one that would be. */
export interface ChangeView extends RuleName {
  station: string;
  /** null where the rule is new. */
  live: string | null;
  /** null where the rule is taken out. */
  draft: string | null;
  /** What differs besides. */
  details: string[];
  by: string;
  changedAt: string;
}

export interface NotLiveView {
  sentence: Sentence;
  changes: ChangeView[];
  /** What is wrong with the rules together that is not wrong with those that are live. */
  findings: { weighs: 'stops' | 'warns'; was: string; fix: string }[];
  /** The release that is live, and who made it; null where it came with the business. */
  release: { number: number; name: string; madeAt: string; by: string | null };
  mayRelease: boolean;
  mayChange: boolean;
  /** Owners may overrule saved rehearsals. */
  isOwner: boolean;
  timeZone: string;
}

/** A release with the rules that it changed. */
export interface ReleaseView {
  number: number;
  name: string;
  madeAt: string;
  /** null where it came with the business. */
  by: string | null;
  /** The release that it undoes. */
  takesBack: number | null;
  isTakenBack: boolean;
  changes: (RuleName & { station: string; before: string | null; after: string | null; details: string[] })[];
}

export interface HistoryView {
  sentence: Sentence;
  /** The newest first. */
  releases: ReleaseView[];
  /** Where the next page begins: numbers below this one; null at the end. */
  older: number | null;
  mayRelease: boolean;
  timeZone: string;
}
