import type { FillReport, TouchWhy } from '../../core/capture';
import type { CrmRecord } from '../../core/leads';
import type { Reason } from '../../core/reasons/codes';
import type { ReportBackState } from '../../core/reportbacks';
import type { ReleaseContent } from '../../core/releases';
import type { Evidence, Hop, HopState, StrandKind, WayIn } from '../../core/strands';

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
export interface RoleRow extends OfBusiness {
  personId: string;
  role: 'owner' | 'editor' | 'reader';
  mayRelease: boolean;
  seesPeople: boolean;
  seesMoney: boolean;
}
export interface WebsiteRow extends OfBusiness {
  host: string;
  registrable: string;
}
export interface ReleaseRow extends OfBusiness {
  number: number;
  name: string;
  note: string;
  content: ReleaseContent;
  hash: string;
  madeAt: Date;
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
export interface VisitRow extends OfBusiness {
  id: string;
  visitorId: string;
  startedAt: Date;
  endedAt: Date;
  pages: number;
  forms: number;
  touchId: string | null;
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
  visitorId: string;
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
