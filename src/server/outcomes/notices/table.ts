import type { NoticeReading } from '../../../core/outcomes/notices';
import type { SenderGiven } from '../../../core/outcomes/notices/schema';
import { bigint, bytes, defineTable, json, text, time, uuid, yes, type RowOf } from '../../db/columns';

/** Outside programs that post what became of orders and subscriptions. What they mean holds at once. */
export const senders = defineTable('senders', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  /** Its part of the address that it posts to; outcomes name it by this. */
  key: text(),
  name: text(),
  /** What it proves itself with, encrypted (AES-256-GCM); null until one was made. */
  secret: bytes().nullable(),
  proof: text<SenderGiven['proof']>(),
  header: text(),
  reading: json<NoticeReading>(),
  steps: json<SenderGiven['steps']>(),
  refundSays: text<SenderGiven['refundSays']>(),
  inMinor: yes(),
  currency: text(),
  /** When it last posted something, what that was, encrypted, and what was wrong with it; '' where nothing was. */
  lastAt: time().nullable(),
  lastSent: bytes().nullable(),
  lastProblem: text(),
  madeAt: time(),
  retiredAt: time().nullable(),
});
export type SenderRow = RowOf<typeof senders>;

/** What was posted, each once by its number. What a step means says its sender. */
export const notices = defineTable('notices', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  senderId: uuid(),
  number: text(),
  step: text(),
  aboutKind: text<'order' | 'subscription'>(),
  aboutNumber: text(),
  payment: text(),
  /** Null where it names no amount. */
  amountMinor: bigint().nullable(),
  currency: text(),
  happenedAt: time(),
  receivedAt: time(),
  leadToken: text(),
  clickId: text(),
  isTest: yes(),
});
export type NoticeRow = RowOf<typeof notices>;
