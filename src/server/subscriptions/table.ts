import type { KnownConsent, Mark } from '../../core/strands';
import { defineTable, json, text, time, uuid, whole, type RowOf } from '../db/columns';

/** Sendings of forms by which people subscribe, each once by its lead token. */
export const signUps = defineTable('sign_ups', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  leadToken: text(),
  visitorId: uuid(),
  hitId: uuid(),
  form: text(),
  page: text(),
  at: time(),
  visitNumber: whole(),
  /** The clicks it may be counted for, the newest first; see core/strands/visitor-orders. */
  strands: json<string[]>(),
  lastPaid: uuid().nullable(),
  marked: text<Mark>(),
  consent: json<KnownConsent>().nullable(),
  releaseNumber: whole(),
});
export type SignUpRow = RowOf<typeof signUps>;

/** Subscriptions that postbacks named, each once by its number. */
export const subscriptions = defineTable('subscriptions', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  number: text(),
  /** Of its sign-up, and of the click that brought it, as a postback named them; '' where none did. */
  leadToken: text(),
  clickId: text(),
  /** When the first thing that was posted of it happened. */
  firstAt: time(),
  /** What it was found to be counted for, why it is no customer's, and when it was paid for first; empty while not known. */
  strands: json<string[]>(),
  marked: text<Mark>(),
  paidAt: time().nullable(),
});
export type SubscriptionRow = RowOf<typeof subscriptions>;
