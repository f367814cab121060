import type { OwnPlatform } from '../platforms/schema';
import type { Sentence } from '../strands/sentence';
import type { ChangedRule } from '../rules';
import type { Fault, FoundTimes } from './faults';
import type { Mark, NoCustomerRule } from './no-customer';
import type { JudgedForm } from './forms-seen';
import type { CaptureRules, ClickIdRule, Reading } from './schema';

/** What every page of the station shows. */
export interface CaptureBase {
  sentence: Sentence;
  /** The rules as the draft has them. */
  rules: CaptureRules;
  /** Platforms that the business describes itself. */
  ownPlatforms: OwnPlatform[];
  changed: ChangedRule[];
  /** How many faults there are, for the way to them. */
  faults: number;
  weeks: number;
  mayChange: boolean;
  timeZone: string;
}

export interface FaultsView extends CaptureBase {
  rows: Fault[];
  /** Click IDs that carry names saved, by name. */
  carried: FoundTimes[];
}

export interface KeptView extends CaptureBase {
  /** Connected ad platforms: kind and name. */
  platforms: {
    kind: string;
    words: string;
    clickPlaceholder: string;
    /** What a rule for its click ID begins with. */
    starts: Pick<ClickIdRule, 'parameter' | 'alsoAs' | 'source' | 'medium'>;
  }[];
  /** The most bytes that the newest visits keep in cookies, of those a browser is sure to hold; null without any. */
  bytes: { most: number; limit: number } | null;
  /** How often carry names arrived empty in the weeks looked at, by name. */
  emptyCarries: Record<string, number>;
  /** The website's own subdomain that can set cookies. */
  ownEdge: string;
}

/** One arrival that showed a fault. */
export interface FoundArrival {
  id: string;
  at: string;
  page: string;
  campaign: string;
  detail: string;
  /** The newest enquiry of the same visitor; null without one. */
  enquiryId: string | null;
  company: string;
}

export interface FoundArrivalsView {
  sentence: Sentence;
  rows: FoundArrival[];
  total: number;
  pageSize: number;
  timeZone: string;
}

/** Every form that was seen, with what fills it. */
export interface FormsView extends CaptureBase {
  forms: JudgedForm[];
}

export interface InstallView extends CaptureBase {
  /** The line to paste, and into which websites: one for all, or one for each. */
  lines: { hosts: string[]; line: string }[];
  mail: { subject: string; body: string };
  pages: {
    page: string;
    arrivals: number;
    lastAt: string | null;
    /** `stopped`: the line stands there, and the page's content policy does not let it work. */
    state: 'seen' | 'missing' | 'twice' | 'stopped';
    checkedAt: string | null;
  }[];
}

/** What a keep rule would have kept of the arrivals recorded lately. */
export interface KeptTrafficView {
  /** Since when arrivals were looked at, where so many came in the last weeks that only the newest were; else null. */
  since: string | null;
  /** Arrivals that brought the value. */
  arrivals: number;
  kept: number;
  /** Not kept, because they hold what the rule does not expect. */
  odd: number;
  last: { value: string; keeps: boolean }[];
}

export interface ElsewhereView extends CaptureBase {
  /** For each place what came of it in the last weeks. */
  counts: { name: string; restored: number; returned: number; lastAt: string | null }[];
  /** Where a place's own back end tells of answers. */
  door: string;
}

/** What became of a file of answers: rows taken, and those that were not. */
export interface ReturnedFile {
  taken: number;
  refused: { row: string; was: string; fix: string }[];
}

export interface SwapsView extends CaptureBase {
  /** Values that were recorded in the last weeks, by the reading they would be read as, the commonest first. */
  recorded: Partial<Record<Reading, { value: string; times: number }[]>>;
}

/** What applying the no-customer list to the past would mark. */
export interface PastPreview {
  /** Entries that do not hold for the past yet. */
  hosts: string[];
  mailDomains: string[];
  visitors: number;
  enquiries: number;
}

export interface NoCustomerView extends CaptureBase {
  rule: NoCustomerRule;
  /** What is marked in the last weeks, by why. */
  marked: { mark: Mark; strands: number; enquiries: number }[];
  /** The days that `marked` counts, as the line's own range has them. */
  days: { from: string; to: string };
  /** A page of the website with the query name that marks the browser that opens it. */
  link: string;
}

/** What changed rules would have done to the enquiries that were recorded in the last weeks. */
export interface CaptureEffectView {
  enquiries: number;
  /** With a click, or any touch, still known when they were sent: as it is live, and with the changes. */
  click: { live: number; after: number };
  touch: { live: number; after: number };
  /** For one fill rule: what it would have put into the forms that were sent. */
  fill: FillEffect | null;
  recordedSince: string | null;
}

export interface FillEffect {
  /** Sendings of forms that the rule is for. */
  sent: number;
  filled: number;
  noValue: number;
  notFound: number;
  /** Fields of nearly the right name that it just missed. */
  near: { form: string; field: string; times: number }[];
  last: { at: string; form: string; value: string }[];
}
