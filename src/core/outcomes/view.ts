import type { AccountName } from '../connections/view';
import type { ReleaseContent } from '../releases/schema';
import type { ChangedRule } from '../rules';
import type { Sentence } from '../strands/sentence';
import type { GoalRule, LadderRule, OutcomeRule, QualifiedRule, TellingRule } from './schema';

/** The outcomes of a business with whom each is told, as the draft has them. */
export interface OutcomesView {
  sentence: Sentence;
  outcomes: OutcomeRule[];
  telling: TellingRule[];
  ladders: LadderRule[];
  goals: GoalRule[];
  qualified: QualifiedRule[];
  /** What their sentences name. */
  beside: Pick<ReleaseContent, 'crm' | 'outcomes' | 'platforms' | 'events'> & {
    accounts: AccountName[];
    /** Outside programs that post, with the steps that outcomes can be reached by. */
    senders: { key: string; name: string; steps: string[] }[];
  };
  /** Names of amounts that records of the CRM and orders have. */
  amounts: string[];
  /** Names of fields that records of the CRM have, and paths of the website's pages. */
  crmFields: string[];
  paths: string[];
  /** How often each was counted, and dated facts of it in words, by its code. */
  evidence: Record<string, { count: number; words: string }>;
  /** Those that are counted no more, with how often they were, the newest first. UTC, ISO 8601. */
  retired: { code: string; count: number; since: string }[];
  /** Where an account counts the same thing several times, each in a sentence. */
  counters: { key: string; words: string; fix: string }[];
  currency: string;
  /** How codes begin by the plan, each with the product line that it stands for. */
  beginnings: { code: string; label: string }[];
  changed: ChangedRule[];
  mayChange: boolean;
  timeZone: string;
}

/** A name under which a place of the website's own reports was told of an event lately: it could be an outcome. */
export interface NamedThere {
  account: string;
  accountName: string;
  event: string;
  name: string;
  times: number;
}

/** What an outcome would have counted in what is recorded. */
export interface OutcomeEffectView {
  weeks: number;
  /** How many it would have counted, by the live rule (0 where there is none) and as it is written. */
  live: number;
  written: number;
  /** Enquiries or orders that there were in that time at all. */
  of: number;
  /** What they would be worth, a sum for each currency; null for who may not see money. */
  worth: string[] | null;
  /** How many of them lack the amount that the worth is made of. */
  withoutAmount: number;
  /** The newest of them. */
  newest: { id: string; words: string; href: string; at: string; worth: string }[];
  /** What each account that is told of it would have been told; `worth` as above. */
  told: { account: string; name: string; times: number; tooOld: number; limitDays: number; worth: string[] | null }[];
  /** How many of them came by a click of each platform. */
  clicks: { platform: string; words: string; count: number }[];
}

/** Which CRM leads are read from and how, as the draft has it. */
export interface CrmStationView {
  sentence: Sentence;
  rule: ReleaseContent['crm'];
  beside: { accounts: AccountName[] };
  /** Names of fields that records have, known without asking the CRM. */
  fields: string[];
  /** Stages that records were seen at, most often first. */
  stagesSeen: { stage: string; records: number }[];
  changed: ChangedRule[];
  mayChange: boolean;
  timeZone: string;
}

/** What a CRM answers when it is asked for what a rule can name. */
export interface CrmOffersView {
  fields: { name: string; words: string; length: number | null }[];
  stages: { inOrder: string[]; ended: string[] } | null;
  /** Why it said nothing; '' where it did. */
  why: string;
}

/** What a rule for the CRM would read of the newest records. */
export interface CrmEffectView {
  /** How many of the newest records were looked at. */
  records: number;
  /** Of how many the field of each value has one; `of` its words. */
  found: { what: string; field: string; records: number; example: string }[];
  /** How many records name a lead token of a form that Avrix saw. */
  joined: number;
  /** Stages that records are at and that the rule does not name. */
  strayStages: { stage: string; records: number }[];
}

/** What would come of a pretend hit. Nothing of it is counted or kept. */
export interface PretendView {
  /** Whether it reaches the outcome; what it is worth then, '' where it has none or who asks may not see money. */
  isReached: boolean;
  worth: string;
  /** What each account would be told, or why it would not be. `canTest`: it can be asked as a test. */
  tellings: { account: string; name: string; isTold: boolean; text: string; canTest: boolean }[];
}
