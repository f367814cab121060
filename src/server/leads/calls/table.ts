import type { CallCounts, CallReading, CallSettingsReading } from '../../../core/leads/calls';
import { bytes, defineTable, json, text, time, uuid, whole, yes, type RowOf } from '../../db/columns';

/** How a business's calls are read and counted. One that never said has the usual ones, and takes no webhook. */
export const callSettings = defineTable('call_settings', ['businessId'], {
  businessId: uuid(),
  /** What the telephone system proves itself with, encrypted (AES-256-GCM); null where it sends nothing. */
  secret: bytes().nullable(),
  /** `token`: the secret itself stands in the header; `hmac`: HMAC-SHA256 of the body in hex. */
  proof: text<'token' | 'hmac'>(),
  header: text(),
  reading: json<CallSettingsReading>(),
  /** Where the parts are in the columns of files, as the last one had them. */
  columnsRead: json<CallReading>().nullable(),
  shortest: whole(),
  missedCount: yes(),
  sameDays: whole(),
  /** When something was last sent, what it was, encrypted, and what was wrong with it; '' where nothing was. */
  lastAt: time().nullable(),
  lastSent: bytes().nullable(),
  lastProblem: text(),
  changedAt: time(),
});
export type CallSettingsRow = RowOf<typeof callSettings>;

/** Telephone numbers of the business; calls to one that has a source count as coming from it. */
export const callNumbers = defineTable('call_numbers', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  number: text(),
  /** By which it is compared, see `dialKey`. */
  dialKey: text(),
  name: text(),
  /** '' where it is the number of everybody, and a call's visit is known by its reference code alone. */
  source: text(),
  medium: text(),
  campaign: text(),
  content: text(),
  madeAt: time(),
  retiredAt: time().nullable(),
});
export type CallNumberRow = RowOf<typeof callNumbers>;

export const calls = defineTable('calls', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  /** The telephone system's own number for it. */
  number: text(),
  dialled: text(),
  /** By which the same caller is known; '' where the number was withheld. */
  callerHash: text(),
  /** The caller's number, encrypted, until the CRM has a record of the enquiry; then, and where it was withheld, null. */
  caller: bytes().nullable(),
  startedAt: time(),
  seconds: whole(),
  answered: yes(),
  reference: text(),
  cameBy: text<'webhook' | 'file' | 'hand'>(),
  receivedAt: time(),
  /** `again`: it is of an enquiry that an earlier call began; `waiting`: not looked at yet. */
  became: text<CallCounts | 'again' | 'waiting'>(),
  /** What its visit or source was found by. `unknown code`: a code was said that stands for nobody. */
  found: text<'code' | 'number' | 'nothing' | 'unknown code'>(),
  enquiryId: uuid().nullable(),
});
export type CallRow = RowOf<typeof calls>;
