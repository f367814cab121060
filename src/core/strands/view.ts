import type { SetupStep } from './setting-up';
import type { LeadCard } from '../leads/card';
import type { Quality } from '../leads/quality';
import type { ReasonWords } from '../reasons/words';
import type { LineViewKind } from './happened';
import type { Column, Loss } from './line';
import type { Sentence } from './sentence';
import type { TraceRow } from './trace';
import type { Hop, HopState, StrandKind, WayInKind } from './types';

/* What the pages about strands are given. Times are ISO 8601 in UTC; the time zone they are shown in stands beside. */

export interface RangeView {
  choice: 'week' | 'weeks4' | 'cycle' | 'release' | 'own';
  firstDay: string;
  lastDay: string;
  cycleDays: number | null;
  release: number;
}

export interface LossView extends Loss {
  words: ReasonWords;
  station: string;
}

export interface StopNote {
  words: string;
  code: string;
  strands: number;
}

export interface ColumnView extends Omit<Column, 'leftReasons' | 'waitingReasons'> {
  leftNotes: StopNote[];
  waitingNotes: StopNote[];
}

export interface LineView {
  way: WayInKind;
  view: LineViewKind;
  /** The segment that it is narrowed to; '' for none. Of a segment no click is counted: Clicked is empty. */
  segment: string;
  segments: { id: string; name: string }[];
  /** The platform that it is narrowed to, '' for every one; and those whose click IDs are kept. */
  platform: string;
  platforms: { id: string; name: string }[];
  /** The campaign that it is narrowed to, '' for every one; and those of these days, the most clicked first: its name in words ('' for none), its clicks and landings. */
  campaign: string;
  campaigns: { campaign: string; name: string; strands: number }[];
  /** The outcome that it is counted by, '' for the Qualified of the way in (`qualified`, '' for none); and those that can be reached. */
  outcome: string;
  qualified: string;
  outcomes: { id: string; name: string }[];
  /** The ways in that this business uses, each with a line of its own. */
  ways: WayInKind[];
  sentence: Sentence;
  /** What is to be done until the whole line is there; none once it is. */
  setup: SetupStep[];
  range: RangeView;
  columns: ColumnView[];
  losses: LossView[];
  landedUncounted: number;
  surplus: number;
  beside: number;
  /** Of those confirmed, how many the platform was told another worth of since. */
  corrected: number;
  /** Strands marked as no customer's; never counted. */
  noCustomers: number;
  /** Landings of people who did not agree, between Landed and Kept; there are no rows behind them. */
  counted: number;
  /** What came in on this way last. */
  latest: LatestRow[];
  timeZone: string;
}

/** An enquiry or order that came in lately. */
export interface LatestRow {
  id: string;
  /** Where it opens, within the business; null where nothing is to be opened yet. */
  path: string | null;
  title: string;
  at: string;
  cameFrom: string;
  lastHop: string;
  state: HopState | 'done';
  why: string;
}

export interface LeadListRow {
  id: string;
  name: string;
  company: string;
  cameFrom: string;
  form: string;
  sentAt: string;
  stage: string;
  /** How far it was answered, why, and when first; '' while it was not. */
  quality: Quality;
  qualityReason: string;
  answeredAt: string;
  lastHop: string;
  /** How it stands after the last hop made. */
  state: HopState | 'done';
  why: string;
}

/** A row of the list as a file has it: with its values, and its number in the CRM. */
export interface LeadFileRow extends LeadListRow {
  campaign: string;
  clickId: string;
  crmDeal: string;
}

/** One page of enquiries. */
export interface LeadListView {
  sentence: Sentence;
  /** How many there are of each, whatever is looked for. */
  qualities: Partial<Record<Quality, number>>;
  /** Segments that it can be narrowed to. */
  segments: { id: string; name: string }[];
  mayChange: boolean;
  rows: LeadListRow[];
  total: number;
  pageSize: number;
  timeZone: string;
}

/** One page of the strands behind a number. */
export interface StrandListView {
  way: WayInKind;
  sentence: Sentence;
  rows: StrandListRow[];
  total: number;
  pageSize: number;
  timeZone: string;
}

export interface StrandListRow {
  id: string;
  enquiryId: string | null;
  kind: StrandKind;
  clickId: string;
  firstAt: string;
  cameFrom: string;
  campaign: string;
  company: string;
  lastHop: string;
  why: string;
}

export interface TraceHop {
  hop: Hop;
  state: HopState | 'none';
  at: string | null;
  why: string;
  evidence: string;
}

export interface TraceEvent {
  at: string;
  text: string;
  seenBy: string;
  /** The other enquiry of the same person that it is of; '' where it is of this one. */
  of: string;
}

export interface TellingView {
  heading: string;
  rows: { name: string; value: string; mono: boolean; note: string }[];
  attempts: { at: string; status: string; answer: string }[];
  /** The report-back about which this person may say what stands in the platform; null where there is none. */
  unsure: { reportBack: string; platform: string } | null;
}

export interface TraceView {
  way: WayInKind;
  crumb: string;
  title: string;
  under: string;
  timeZone: string;
  hops: TraceHop[];
  values: TraceRow[];
  events: TraceEvent[];
  /** A card for each account that is or was to be told. */
  telling: TellingView[];
  mend: { text: string; mend: string } | null;
  /** What sales reads first, and the same as text, to be copied. */
  card: LeadCard & { text: string };
  /** How far its enquiry was answered; null where there is none. */
  answered: AnsweredView | null;
  /** Whether the card can be written into the CRM as a note; null where it cannot. */
  note: NoteView | null;
  /** Other enquiries of the same person, the newest first. */
  others: OtherEnquiry[];
}

export interface AnsweredView {
  enquiry: string;
  company: string;
  quality: Quality;
  reason: string;
  mayChange: boolean;
  seesPeople: boolean;
}

export interface NoteView {
  enquiry: string;
  /** The CRM, as it is called. */
  crm: string;
  /** The last one: when it was written or is to be, and whether it says the same. */
  last: { at: string; state: 'waiting' | 'written' | 'refused' | 'dropped'; answer: string; isSame: boolean } | null;
}

export interface OtherEnquiry {
  id: string;
  form: string;
  at: string;
  stage: string;
}
