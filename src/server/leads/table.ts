import { defineTable, type RowOf, bytes, json, text, time, uuid, whole } from '../db/columns';
import type { FillReport } from '../../core/capture';
import type { CrmRecord } from '../../core/leads';
import type { KnownConsent, Mark } from '../../core/strands';

export const leads = defineTable('leads', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  accountId: uuid(),
  crmPerson: text(),
  name: text(),
  company: text(),
  mailHash: text(),
  /** Of its last digits; '' without a number, or since a time when none was read. */
  telephoneHash: text(),
  /** Where the mail address is from; the address itself is not stored. */
  mailDomain: text(),
  madeAt: time(),
});
export type LeadRow = RowOf<typeof leads>;

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
  joinedBy: text<'lead token' | 'click ID' | 'mail' | 'nothing'>().nullable(),
  accountId: uuid().nullable(),
  crmDeal: text().nullable(),
  crmRecord: json<CrmRecord>().nullable(),
  stage: text().nullable(),
  releaseNumber: whole(),
});
export type EnquiryRow = RowOf<typeof enquiries>;

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
