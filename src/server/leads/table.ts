import { defineTable, type RowOf, bytes, json, text, time, uuid, whole, yes } from '../db/columns';
import type { FillReport } from '../../core/capture';
import type { CrmRecord, IdentityKind, JoinedBy, Quality, SetQuality, WorkingHours } from '../../core/leads';
import type { EnquiryWayIn, KnownConsent, Mark } from '../../core/strands';

/** Records about people; those of one person name the same one of them. */
export const leads = defineTable('leads', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  crmPerson: text(),
  name: text(),
  company: text(),
  companyId: uuid().nullable(),
  /** Where the mail address is from; the address itself is not stored. */
  mailDomain: text(),
  madeAt: time(),
  /** The record by whose ID the person goes: this one, where nothing joins it to another. */
  personId: uuid(),
  joinedBy: text<JoinedBy | ''>(),
  joinedAt: time().nullable(),
});
export type LeadRow = RowOf<typeof leads>;

/** By what people are known: a record's number, a mail address, a telephone number, each hashed. */
export const identities = defineTable('identities', ['businessId', 'kind', 'hash', 'leadId'], {
  businessId: uuid(),
  kind: text<IdentityKind>(),
  hash: text(),
  leadId: uuid(),
});
export type IdentityRow = RowOf<typeof identities>;

/** Records that somebody keeps apart or joins by hand, the lesser ID first. */
export const leadPairs = defineTable('lead_pairs', ['businessId', 'leadId', 'otherId'], {
  businessId: uuid(),
  leadId: uuid(),
  otherId: uuid(),
  kind: text<'apart' | 'joined'>(),
  byName: text(),
  at: time(),
});

export const companies = defineTable('companies', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  /** Its number in the CRM; '' where it has none there and is known by its name. */
  number: text(),
  name: text(),
});
export type CompanyRow = RowOf<typeof companies>;

export const deals = defineTable('deals', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  /** Its number in the CRM. */
  number: text(),
  enquiryId: uuid(),
  leadId: uuid(),
  companyId: uuid().nullable(),
  /** As it was last read back. */
  record: json<CrmRecord>(),
  stage: text(),
  madeAt: time(),
  /** Since when the CRM has it no more; null while it has. */
  goneAt: time().nullable(),
  /** The number of the deal that the CRM merged it into; '' where it was deleted, or is still there. */
  mergedInto: text(),
});
export type DealRow = RowOf<typeof deals>;

export const enquiries = defineTable('enquiries', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  leadToken: uuid().nullable(),
  leadId: uuid().nullable(),
  strandId: uuid().nullable(),
  touchId: uuid().nullable(),
  visitorId: uuid().nullable(),
  hitId: uuid().nullable(),
  form: text(),
  page: text(),
  sentAt: time(),
  visitNumber: whole().nullable(),
  fields: json<string[]>(),
  fills: json<FillReport[]>().nullable(),
  marked: text<Mark>(),
  /** What this visitor agreed to, as the pages last said; null where they never did. */
  consent: json<KnownConsent>().nullable(),
  joinedBy: text<'lead token' | 'click ID' | 'person' | 'nothing'>().nullable(),
  /** Of its deals the one that says how far it is; null where the CRM has none of it. */
  dealId: uuid().nullable(),
  /** The stage of that deal. */
  stage: text().nullable(),
  releaseNumber: whole(),
  wayIn: text<EnquiryWayIn>(),
  quality: text<Quality>(),
  qualityReason: text(),
  /** When it was first answered, null while it was not; by '' where the CRM alone says so. */
  answeredAt: time().nullable(),
  answeredBy: text(),
  /** What somebody said of it; '' where nobody did, or took it back. */
  saidQuality: text<SetQuality | ''>(),
  saidReason: text(),
  saidBy: text(),
  saidAt: time().nullable(),
  /** The first time that somebody said it was answered. */
  saidAnsweredAt: time().nullable(),
  saidAnsweredBy: text(),
  /** When its person was erased: it counts on, and is followed no more. */
  erasedAt: time().nullable(),
});
export type EnquiryRow = RowOf<typeof enquiries>;

/** When businesses answer; one that never said has the usual hours. */
export const workingHours = defineTable('working_hours', ['businessId'], {
  businessId: uuid(),
  hours: json<WorkingHours>(),
  changedAt: time(),
});
export type WorkingHoursRow = RowOf<typeof workingHours>;

/** Accounts of platforms whose own forms' leads are fetched. */
export const leadPulls = defineTable('lead_pulls', ['businessId', 'accountId'], {
  businessId: uuid(),
  accountId: uuid(),
  /** What was sent before is not taken; null: all that the platform still keeps is. */
  takesFrom: time().nullable(),
  /** The UTM medium that these leads count as. */
  medium: text(),
  /** Whether each is handed over to the CRM from here; else the CRM gets them by itself. */
  handsOver: yes(),
  /** Whether people agree on the form that platforms are told what comes of it. */
  agreed: yes(),
  /** The number of the last lead that was taken; '' before the first. */
  pulledTo: text(),
  pulledAt: time().nullable(),
  byName: text(),
  begunAt: time(),
  endedAt: time().nullable(),
});
export type LeadPullRow = RowOf<typeof leadPulls>;

/** What people sent with platforms' own forms; and, without an account, leads that somebody brought in from a list. */
export const platformLeads = defineTable('platform_leads', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  /** Its number on the platform. */
  number: text(),
  leadId: uuid(),
  enquiryId: uuid(),
  form: text(),
  ad: text(),
  campaign: text(),
  place: text(),
  sentAt: time(),
  /** Null where the platform kept it no longer. */
  fetchedAt: time().nullable(),
  isTest: yes(),
  /** What was sent, encrypted (AES-256-GCM), until the CRM has it; then, and of a test lead, null. */
  answers: bytes().nullable(),
  /** `no`: the CRM gets it by itself, or nothing is to be handed over; `asked`: the CRM was asked and has not answered. */
  handed: text<'no' | 'waiting' | 'asked' | 'made' | 'refused'>(),
  askedAt: time().nullable(),
  answer: text(),
  /** The number of the record that the CRM made; '' while it has none. */
  deal: text(),
});
export type PlatformLeadRow = RowOf<typeof platformLeads>;

/** Fields of one record that were, or are to be, written by one call; a note, or a stage, is one field without a name. */
export const crmWrites = defineTable('crm_writes', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  enquiryId: uuid(),
  dealId: uuid(),
  /** The record's number in the CRM. */
  number: text(),
  cause: text<'rule' | 'repair' | 'note' | 'routine' | 'stage'>(),
  fields: json<WrittenField[]>(),
  /** What the fields held when the record was read back after it; null where it was not yet. */
  found: json<Record<string, string>>().nullable(),
  /** `dropped`: somebody had changed the field before it was written. */
  state: text<'waiting' | 'written' | 'refused' | 'dropped'>(),
  answer: text(),
  /** Who had it written; '' where a rule did. */
  byName: text(),
  madeAt: time(),
  writtenAt: time().nullable(),
  releaseNumber: whole(),
});
export type CrmWriteRow = RowOf<typeof crmWrites>;

/** That somebody had rules written into the records that were there before them. */
export const crmWriteRuns = defineTable('crm_write_runs', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  /** Their own names. */
  rules: json<string[]>(),
  byName: text(),
  madeAt: time(),
});

/** A field with what it held before, and by which rule. */
export interface WrittenField {
  rule: string;
  field: string;
  was: string;
  becomes: string;
}

export const crmEvents = defineTable('crm_events', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  crmEvent: text(),
  kind: text(),
  deal: text(),
  happenedAt: time(),
  receivedAt: time(),
  readAt: time().nullable(),
});
export type CrmEventRow = RowOf<typeof crmEvents>;

/** The last records that an own CRM sent or that were found in its list, as they came. */
export const crmArrivals = defineTable('crm_arrivals', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  receivedAt: time(),
  cameBy: text<'webhook' | 'list' | 'file'>(),
  /** Encrypted JSON (AES-256-GCM). */
  record: bytes(),
  /** The record's number; '' where it could not be read. */
  deal: text(),
  /** Why it was not read; '' where it was. */
  problem: text(),
});
export type CrmArrivalRow = RowOf<typeof crmArrivals>;

/** Up to when an account's changes were asked for. */
export const polls = defineTable('polls', ['businessId', 'accountId'], {
  businessId: uuid(),
  accountId: uuid(),
  polledTo: time(),
});
