import type { Sentence } from '../strands/sentence';
import type { RuleName } from '../releases/rules';
import type { Fault, FoundTimes } from './faults';
import type { JudgedForm } from './forms-seen';
import type { CaptureRules } from './schema';

/** What every page of the station shows. */
export interface CaptureBase {
  sentence: Sentence;
  /** The rules as the draft has them. */
  rules: CaptureRules;
  changed: RuleName[];
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
  platforms: { kind: string; words: string; parameter: string }[];
}

/** Every form that was seen, with what fills it. */
export interface FormsView extends CaptureBase {
  forms: JudgedForm[];
}

export interface InstallView extends CaptureBase {
  /** The line to paste. */
  line: string;
  mail: { subject: string; body: string };
  pages: {
    page: string;
    arrivals: number;
    lastAt: string | null;
    state: 'seen' | 'missing' | 'twice';
    checkedAt: string | null;
  }[];
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
