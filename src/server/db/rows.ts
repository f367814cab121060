import type { Stopped } from '../../core/capture/stopped';
import type { FillReport, FormOnPage, Hit, TouchWhy } from '../../core/capture';
import type { UsedIn } from '../../core/links/uses';
import type { PageCheckResult } from '../../core/links/page-check';
import type { ShortLinkWins } from '../../core/links/open';
import type { CrmRecord } from '../../core/leads';
import type { Rights } from '../../core/people/rights';
import type { CampaignStage } from '../../core/plan/stages';
import type { Reason } from '../../core/reasons/codes';
import type { ReportBackState } from '../../core/reportbacks';
import type { ReleaseContent } from '../../core/releases';
import type { Evidence, Hop, HopState, KnownConsent, Mark, StrandKind, WayIn } from '../../core/strands';

/* The rows of each table. Times are UTC; every row of a business carries its ID. */

interface OfBusiness {
  businessId: string;
}

export interface Preferences {
  theme: 'avrix' | 'avrix-night' | 'system';
  singleKeys: boolean;
}
export interface PersonRow {
  id: string;
  mail: string;
  name: string;
  passwordHash: string;
  preferences: Preferences;
  createdAt: Date;
}
export interface SessionRow {
  id: string;
  tokenHash: string;
  personId: string;
  agent: string;
  createdAt: Date;
  seenAt: Date;
  expiresAt: Date;
  revokedAt: Date | null;
}
export interface BusinessRow {
  id: string;
  key: string;
  name: string;
  timeZone: string;
  currency: string;
  createdAt: Date;
}
export interface RoleRow extends OfBusiness, Rights {
  personId: string;
}
export interface TokenRow extends OfBusiness {
  id: string;
  personId: string;
  name: string;
  /** Its first characters, by which a person tells it from others. */
  begins: string;
  tokenHash: string;
  mayChange: boolean;
  seesPeople: boolean;
  seesMoney: boolean;
  madeAt: Date;
  usedAt: Date | null;
  expiresAt: Date;
  revokedAt: Date | null;
}
export interface WebsiteRow extends OfBusiness {
  host: string;
  registrable: string;
  /** Its place among the business's websites; the first one is meant where one has to be. */
  place: number;
}
export interface ReleaseRow extends OfBusiness {
  number: number;
  name: string;
  note: string;
  content: ReleaseContent;
  hash: string;
  madeAt: Date;
  /** null where it came with the business. */
  madeBy: string | null;
  /** The release whose changes it undoes. */
  takesBack: number | null;
}
export interface AccountRow extends OfBusiness {
  id: string;
  key: string;
  kind: string;
  name: string;
  endpoint: string;
  settings: Record<string, string>;
  /** Encrypted JSON (AES-256-GCM). */
  secrets: Buffer;
  createdAt: Date;
}
export interface HitRow extends OfBusiness {
  id: string;
  visitorId: string;
  kind: Hit['kind'];
  host: string;
  /** The page's time, corrected by the collector's; `pageAt` is the page's own. */
  at: Date;
  pageAt: Date;
  sentAt: Date;
  receivedAt: Date;
  releaseNumber: number;
  /** Host and path of the page. */
  page: string;
  /** The engine of the browser that sent it, '' where that is not known. */
  browser: string;
  bot: boolean;
  ownNetwork: boolean;
  body: Hit;
}
export interface ForeignHitRow extends OfBusiness {
  id: string;
  host: string;
  receivedAt: Date;
  body: Hit;
}
export interface VisitRow extends OfBusiness {
  id: string;
  visitorId: string;
  startedAt: Date;
  endedAt: Date;
  pages: number;
  forms: number;
  touchId: string | null;
  browser: string;
  /** Hours since the browser's visit before it ended; null where this is its first. */
  gapHours: number | null;
}
export interface TouchRow extends OfBusiness {
  id: string;
  visitorId: string;
  visitId: string;
  hitId: string;
  at: Date;
  source: string;
  medium: string;
  campaign: string;
  content: string;
  term: string;
  utmId: string;
  referrer: string;
  landing: string;
  platform: string;
  clickId: string;
  because: TouchWhy;
  pageBecause: TouchWhy;
  releaseNumber: number;
}
export interface StrandRow extends OfBusiness {
  id: string;
  kind: StrandKind;
  platform: string;
  clickId: string;
  firstAt: Date;
  source: string;
  medium: string;
  campaign: string;
  content: string;
  utmId: string;
  visitorId: string;
  marked: Mark;
  /** The same click ID was seen in a second browser. */
  shared: boolean;
  /** How far it came on the way in by form (core/strands/follow.ts), kept for counting. */
  formReached: number;
  formState: HopState | null;
  formReason: string | null;
}
export interface HopTableRow extends OfBusiness {
  strandId: string;
  wayIn: WayIn;
  subjectId: string;
  outcome: string;
  hop: Hop;
  state: HopState;
  reason: Reason | null;
  evidence: Evidence;
  at: Date | null;
  releaseNumber: number;
}
export interface LeadRow extends OfBusiness {
  id: string;
  accountId: string;
  crmPerson: string;
  name: string;
  company: string;
  mailHash: string;
  /** Where the mail address is from; the address itself is not stored. */
  mailDomain: string;
  madeAt: Date;
}
export interface EnquiryRow extends OfBusiness {
  id: string;
  leadToken: string | null;
  leadId: string | null;
  strandId: string | null;
  touchId: string | null;
  visitorId: string | null;
  hitId: string | null;
  form: string;
  page: string;
  sentAt: Date;
  visitNumber: number | null;
  fields: string[];
  fills: FillReport[] | null;
  marked: Mark;
  /** What this visitor agreed to, as the pages last said; null where they never did. */
  consent: KnownConsent | null;
  joinedBy: 'lead token' | 'click ID' | 'mail' | 'nothing' | null;
  accountId: string | null;
  crmDeal: string | null;
  crmRecord: CrmRecord | null;
  stage: string | null;
  releaseNumber: number;
}
export interface CrmEventRow extends OfBusiness {
  id: string;
  accountId: string;
  crmEvent: string;
  kind: string;
  deal: string;
  happenedAt: Date;
  receivedAt: Date;
  readAt: Date | null;
}
export interface OutcomeRow extends OfBusiness {
  id: string;
  code: string;
  version: number;
  dedupeKey: string;
  enquiryId: string;
  happenedAt: Date;
  stage: string;
  skipped: boolean;
  amountMinor: number;
  worthMinor: number;
  currency: string;
  winRate: string;
  countedAt: Date;
  releaseNumber: number;
}
export interface ReportBackRow extends OfBusiness {
  id: string;
  outcomeId: string;
  enquiryId: string;
  accountId: string;
  platform: string;
  state: ReportBackState;
  reason: Reason | null;
  clickId: string;
  dueAt: Date | null;
  answeredAt: Date | null;
  bookedOn: string | null;
  confirmedAt: Date | null;
  madeAt: Date;
}
export interface AttemptRow extends OfBusiness {
  id: string;
  reportBackId: string;
  startedAt: Date;
  endedAt: Date;
  status: string;
  sent: unknown;
  answer: string;
}

/** A page whose content security policy stopped the snippet in somebody's browser. */
export interface StoppedPageRow extends Stopped {
  businessId: string;
  firstAt: Date;
  lastAt: Date;
}

export interface DraftChangeRow extends OfBusiness {
  kind: string;
  ruleId: string;
  /** null where the rule is taken out. */
  value: unknown;
  changedBy: string;
  changedAt: Date;
}
export interface TouchTagRow extends OfBusiness {
  touchId: string;
  tag: string;
  /** As it arrived. */
  value: string;
  visitorId: string;
  at: Date;
  /** Host of the referrer, '' without one. */
  host: string;
  campaign: string;
}
/** What one arrival of a visitor showed of faults in links and pages; see core/capture/findings. */
/** An arrival of somebody who did not agree, counted and nothing else. */
export interface CountedLandingRow extends OfBusiness {
  id: string;
  at: Date;
  source: string;
  medium: string;
  campaign: string;
}
/** An entry of the no-customer list that holds for everything ever recorded. */
export interface NoCustomerPastRow extends OfBusiness {
  kind: 'host' | 'mail';
  value: string;
  appliedBy: string;
  appliedAt: Date;
}
export interface FindingRow extends OfBusiness {
  hitId: string;
  kind: string;
  name: string;
  visitorId: string;
  at: Date;
  page: string;
  campaign: string;
  detail: string;
}
/** A form on a page (host and path), as the newest hit that told of it has it. */
export interface FormSeenRow extends OfBusiness {
  form: string;
  page: string;
  fields: FormOnPage['fields'];
  fills: FormOnPage['fills'];
  releaseNumber: number;
  firstAt: Date;
  lastAt: Date;
}
export interface CampaignRow extends OfBusiness {
  id: string;
  name: string;
  friendly: string;
  stage: CampaignStage;
  startsOn: string | null;
  endsOn: string | null;
  budgetMinor: number | null;
  currency: string;
  owner: string;
  note: string;
  crmAccount: string | null;
  crmId: string | null;
  crmType: string;
  madeAt: Date;
  changedAt: Date;
  retiredAt: Date | null;
}

export interface LinkRow extends OfBusiness {
  id: string;
  /** The address without its tags. */
  landing: string;
  tags: Record<string, string>;
  url: string;
  urlHash: string;
  campaign: string;
  usedIn: UsedIn;
  place: string;
  owner: string;
  madeAt: Date;
  changedAt: Date;
  retiredAt: Date | null;
}
/** One find and replace over many links, so that it can be taken back. */
export interface LinkChangeRow extends OfBusiness {
  id: string;
  find: string;
  put: string;
  links: { id: string; before: string; after: string }[];
  changedBy: string;
  changedAt: Date;
  undoneAt: Date | null;
}
export interface TagSetRow extends OfBusiness {
  id: string;
  name: string;
  tags: Record<string, string[]>;
  usedIn: UsedIn;
  changedAt: Date;
  retiredAt: Date | null;
}
/** The columns that a platform's upload of links wants, in its order. */
export interface ColumnOrderRow extends OfBusiness {
  id: string;
  name: string;
  columnsWanted: string[];
}
export interface ShortLinkRow extends OfBusiness {
  id: string;
  path: string;
  destination: string;
  wins: ShortLinkWins;
  status: number;
  passwordHash: string | null;
  expiresAt: Date | null;
  madeAt: Date;
  changedAt: Date;
  retiredAt: Date | null;
  /** When it was last written, by the database's clock. */
  stamp: Date;
}
export interface ShortLinkDestinationRow extends OfBusiness {
  shortLinkId: string;
  since: Date;
  destination: string;
  changedBy: string | null;
}
export interface ShortClickRow extends OfBusiness {
  id: string;
  shortLinkId: string;
  at: Date;
  /** Day of the business. */
  day: string;
  bot: boolean;
  source: string;
  medium: string;
  campaign: string;
  content: string;
  /** Host and path, without its query. */
  referrer: string;
}
export interface PageCheckRow extends OfBusiness {
  id: string;
  url: string;
  urlHash: string;
  state: 'waiting' | 'good' | 'bad';
  result: PageCheckResult | null;
  askedAt: Date;
  checkedAt: Date | null;
}
