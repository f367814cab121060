import type { OwnCrm } from '../crms/schema';
import type { OwnPlatform } from '../platforms/schema';
import type { ChangedRule } from '../rules';
import type { Sentence } from '../strands/sentence';

/** A connected account by what rules call it, for those who choose one. */
export interface AccountName {
  key: string;
  kind: string;
  name: string;
  /** `destination`: it is told events, and knows no click. */
  does: 'platform' | 'crm' | 'destination';
}

/** A connected account with what it did lately. Its keys are never answered. Times are UTC, ISO 8601. */
export interface AccountView extends AccountName {
  id: string;
  kindWords: string;
  endpoint: string;
  timeZone: string;
  currency: string;
  state: 'in use' | 'paused' | 'retired';
  /** Since when it is as it is. */
  since: string;
  hasToken: boolean;
  /** Where it sends webhooks to; null where it sends none. */
  hook: string | null;
  /** How it last answered; null before the first call. */
  last: { at: string; status: string; said: string } | null;
  workedAt: string | null;
  /** What is wrong with it and what to do; null where nothing is. */
  broken: { was: string; fix: string } | null;
  /** What it did: rows told or records read, and when last. */
  did: { count: number; lastAt: string | null; waiting: number; held: number };
  /** Outcomes that are told to it, or whether leads are read from it. */
  usedFor: string[];
}

/** A kind of platform or CRM that an account can be of. */
export interface KindView {
  kind: string;
  words: string;
  does: AccountName['does'];
  /** One that the business describes itself. */
  isOwn: boolean;
  /** False for an own kind that is only in the draft. */
  isLive: boolean;
  sendsWebhooks: boolean;
  /** Whether it is told by files, which can be put into a folder too. */
  takesFiles: boolean;
}

export interface WebsiteView {
  host: string;
  registrable: string;
  /** The subdomain from which cookies can be set, and whether it led here when it was last looked at. */
  subdomain: string;
  /** When the newest hit of its pages came; null before the first one. */
  seenAt: string | null;
}

export interface ConnectionsView {
  sentence: Sentence;
  websites: WebsiteView[];
  /** Hosts whose pages told something and that are no website of the business, with how many hits in 4 weeks. */
  strangers: { host: string; hits: number }[];
  accounts: AccountView[];
  kinds: KindView[];
  /** What the business describes itself, as the draft has it. */
  ownPlatforms: OwnPlatform[];
  ownCrms: OwnCrm[];
  /** Kinds of platform whose click ID pages keep, as the draft has it. */
  clickIdsKept: string[];
  changed: ChangedRule[];
  /** Where the edge is reached, for DNS records. */
  edge: string;
  edgeOrigin: string;
  /** Defaults of a new account. */
  timeZone: string;
  currency: string;
  mayChange: boolean;
  isOwner: boolean;
}

/** What trying an account showed: what was sent, without the key, what came back, and what that means. */
export interface TryView {
  request: { method: string; address: string; headers: Record<string, string>; body: string };
  answer: { status: string; body: string };
  isGood: boolean;
  means: string;
}

/** An own CRM's newest arrivals, and what of each was read by its rule as the draft has it. */
export interface ArrivalsView {
  arrivals: {
    id: string;
    receivedAt: string;
    cameBy: 'webhook' | 'list' | 'file';
    /** Why it was not stored; '' where it was. */
    problem: string;
    parts: { words: string; at: string; value: string }[];
    /** As it came; null for who may not see people. */
    record: unknown;
  }[];
  hook: string | null;
  timeZone: string;
}
