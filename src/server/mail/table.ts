import type { MailTemplate } from '../../core/leads/routines/mail-text';
import { bytes, defineTable, json, text, time, uuid, whole, type RowOf } from '../db/columns';

/** Emails as they are written down. */
export const mailTemplates = defineTable('mail_templates', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  body: json<MailTemplate>(),
  madeAt: time(),
  changedAt: time(),
  retiredAt: time().nullable(),
});
export type MailTemplateRow = RowOf<typeof mailTemplates>;

/** The mail server of a business. */
export const mailSettings = defineTable('mail_settings', ['businessId'], {
  businessId: uuid(),
  host: text(),
  port: whole(),
  security: text<'tls' | 'starttls' | 'none'>(),
  user: text(),
  /** Encrypted (AES-256-GCM). */
  password: bytes().nullable(),
  fromName: text(),
  fromAddress: text(),
  replyTo: text(),
  perMinute: whole(),
  /** What those who pass replies on prove themselves by, encrypted; null while none are taken. */
  repliesSecret: bytes().nullable(),
  lastReplyAt: time().nullable(),
  changedAt: time(),
});
export type MailSettingsRow = RowOf<typeof mailSettings>;

/** Addresses, hashed, to which nothing is sent any more. */
export const mailStops = defineTable('mail_stops', ['businessId', 'hash'], {
  businessId: uuid(),
  hash: text(),
  how: text<'link' | 'hand' | 'bounced'>(),
  at: time(),
  byName: text(),
});
export type MailStopRow = RowOf<typeof mailStops>;

/** Addresses, encrypted (AES-256-GCM), from records of CRMs that cannot be asked for them; kept while routines are in use. */
export const leadAddresses = defineTable('lead_addresses', ['businessId', 'leadId'], {
  businessId: uuid(),
  leadId: uuid(),
  mail: bytes(),
});
