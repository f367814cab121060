import type { TagCarry } from '../capture/schema';
import type { UsedIn } from '../links/uses';
import type { ChangedRule } from '../rules';
import type { Sentence } from '../strands/sentence';
import type { ComparedRow } from './channels';
import type { OffPlanValue } from './off-plan';
import type { Plan, TagRule } from './schema';

/** What every part of the station Plan knows. */
export interface PlanBase {
  sentence: Sentence;
  plan: Plan;
  /** Rules of the draft that are not as they are live. */
  changed: ChangedRule[];
  /** Values that arrived off plan, by the live rules. */
  offPlan: number;
  mayChange: boolean;
  timeZone: string;
  /** Weeks of traffic that are looked at. */
  weeks: number;
}

export interface TagRow {
  rule: TagRule;
  /** Tagged arrivals with it, distinct values among them, and how many of these are off plan. */
  arrivals: number;
  values: number;
  offPlan: number;
}

/** A link that says a tag under another name than the one that links are made with, and where it is used. */
export interface OldName {
  url: string;
  usedIn: UsedIn;
  place: string;
  owner: string;
}

export interface TagsView extends PlanBase {
  /** Other names under which tags travel, as the draft has them. */
  tagCarry: TagCarry[];
  /** Links in use that say a tag under an old name, by tag; the newest of them first, some at most. */
  oldNames: Record<string, { links: number; first: OldName[] }>;
  tags: TagRow[];
  /** How often each planned value arrived, by tag; aliases are read as what they mean. */
  counts: Record<string, Record<string, number>>;
  /** The codes of the live outcomes. */
  outcomes: string[];
}

/** What a rule as it is being written would do to what was recorded and to the links there are. */
export interface EffectView {
  /** Values of the rule's tag that are off plan with it. */
  off: ValueEffect;
  noLongerFits: ValueEffect;
  takenIn: ValueEffect;
  links: { total: number; noLongerFits: number; examples: string[] };
  /** Since when tags are recorded; null before the first. */
  recordedSince: string | null;
}

export interface ValueEffect {
  values: number;
  arrivals: number;
  /** The commonest. */
  first: { tag: string; value: string; arrivals: number; nearest: string | null }[];
}

export interface ChannelsView extends PlanBase {
  rows: ComparedRow[];
  /** The CRM's campaign types, or null where they are not known, and why. */
  crm: { name: string; types: string[] | null; why: string };
  /** Hosts that brought untagged arrivals, with their channel. */
  referrers: { host: string; arrivals: number; channel: string | null }[];
}

/** One page of the values off plan. */
export interface OffPlanView extends PlanBase {
  total: number;
  pageSize: number;
  rows: (Omit<OffPlanValue, 'problems'> & { problems: string[] })[];
  /** Names of the register; a campaign that arrives is one of them, or off plan. */
  campaigns: string[];
}

/** The plan that is live, to be read and printed. */
export interface ShareView extends PlanBase {
  live: Plan;
  release: { number: number; name: string; madeAt: string };
  tagSets: { name: string; tags: Record<string, string[]> }[];
  /** Each value's way: its name in the link, how long it is kept, the hidden field and the CRM field; '' where it stops. `unread`: fields that the CRM does not read. */
  flow: { words: string; link: string; kept: string; field: string; unread: string; crm: string }[];
}

/** Which media sources go with. */
export interface SourcesView extends PlanBase {
  /** The planned sources, and how often each arrived in the weeks looked at. */
  rows: { source: string; label: string; arrivals: number }[];
}

/** Links in use that name a source, and those that its rule refuses. */
export interface SourceEffectView {
  links: number;
  misfits: number;
  first: { url: string; words: string }[];
}
