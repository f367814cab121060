import type { Transaction } from 'sequelize';
import { AvrixError } from '../../../core/errors';
import { recordsIn } from '../../../core/crms/own';
import { groupBy } from '../../../core/group-by';
import { documentOf, readNotice, type Notice } from '../../../core/outcomes/notices';
import { noticeIdOf, orderIdOf, subscriptionIdOf } from '../../../core/strands';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import { instantIn } from '../../days';
import { inTransaction, insertRows, markWork, plain, type SubscriptionRow } from '../../db';
import { isProvenBy, sameText, seal, unseal } from '../../secrets';
import type { NoticeRow, SenderRow } from './table';

/** What was posted last is kept as it came up to so many bytes. */
const largestKept = 3500;

/** A postback as it came: its body, or where it has none its query, with what proves its sender. */
export interface Posted {
  body: string;
  /** The secret in its address; '' for none. */
  secret: string;
  header(name: string): string;
}
/** What became of what was posted. */
export interface TakenNotices {
  taken: number;
  /** How many were posted before. */
  known: number;
  refused: { at: number; field: string; was: string; fix: string }[];
}

function isProven(sender: SenderRow, key: Buffer, { body, secret, header }: Posted): boolean {
  if (!sender.secret) return false;
  const own = String(unseal(key, sender.secret));
  if (sender.proof === 'address') return sameText(secret, own);
  return isProvenBy(sender.proof, own, body, header(sender.header.toLowerCase()));
}

/** Takes postbacks in: each is stored once by its number, and what it is about followed anew. */
export function makeTakeNotices(context: Context) {
  const { db, tables, config } = context;

  async function store(businessId: string, sender: SenderRow, given: Notice[]): Promise<number> {
    const rows = new Map(given.map((notice) => [notice.number, toRow(businessId, sender.id, notice)]));
    const id = [...rows.values()].map((row) => row.id);
    return inTransaction(db, async (transaction) => {
      const known = await tables.notices.count({ where: { businessId, id }, transaction });
      await insertRows(tables.notices, [...rows.values()], [], transaction);
      const orders = [...rows.values()]
        .filter(({ aboutKind }) => aboutKind === 'order')
        .map(({ aboutNumber }) => orderIdOf(businessId, aboutNumber));
      await markWork(db, 'order', businessId, [...new Set(orders)].sort(), now(), transaction);
      const subscriptions = await storeSubscriptions(businessId, [...rows.values()], transaction);
      await markWork(db, 'subscription', businessId, subscriptions, now(), transaction);
      return rows.size - known;
    });
  }

  /**
   * Keeps the subscriptions that notices name, each with the first sign-up and click that one of them named.
   * @returns their IDs, in order
   */
  async function storeSubscriptions(
    businessId: string,
    given: NoticeRow[],
    transaction: Transaction,
  ): Promise<string[]> {
    const noticesOf = groupBy(
      given.filter(({ aboutKind }) => aboutKind === 'subscription'),
      ({ aboutNumber }) => subscriptionIdOf(businessId, aboutNumber),
    );
    const id = [...noticesOf.keys()].sort();
    const lock = transaction.LOCK.UPDATE;
    const stored = plain(
      await tables.subscriptions.findAll({ where: { businessId, id }, order: [['id', 'ASC']], transaction, lock }),
    );
    const known = new Map(stored.map((row) => [row.id, row]));
    const rows = [...noticesOf].map(([one, notices]): SubscriptionRow => {
      const before = known.get(one);
      const first = notices.reduce((least, { happenedAt }) => Math.min(least, happenedAt.getTime()), Infinity);
      return {
        businessId,
        id: one,
        number: notices[0]!.aboutNumber,
        leadToken: before?.leadToken || (notices.find(({ leadToken }) => leadToken)?.leadToken ?? ''),
        clickId: before?.clickId || (notices.find(({ clickId }) => clickId)?.clickId ?? ''),
        firstAt: new Date(Math.min(first, before?.firstAt.getTime() ?? Infinity)),
        strands: before?.strands ?? [],
        marked: before?.marked ?? '',
        paidAt: before?.paidAt ?? null,
      };
    });
    await insertRows(tables.subscriptions, rows, ['leadToken', 'clickId', 'firstAt'], transaction);
    return id;
  }

  const toRow = (businessId: string, senderId: string, notice: Notice): NoticeRow => ({
    businessId,
    id: noticeIdOf(businessId, senderId, notice.number),
    senderId,
    number: notice.number,
    step: notice.step,
    aboutKind: notice.about.kind,
    aboutNumber: notice.about.number,
    payment: notice.payment,
    amountMinor: notice.money ? notice.money.minor : null,
    currency: notice.money?.currency ?? '',
    happenedAt: new Date(notice.at),
    receivedAt: now(),
    leadToken: notice.leadToken,
    clickId: notice.clickId,
    isTest: notice.isTest,
  });

  /**
   * Takes what a sender posts: one thing that happened, or a list of them.
   * @throws AVX_NOT_FOUND, AVX_SEAL_WRONG, AVX_POSTBACK_UNREAD, AVX_RECORD_UNREAD where none could be read
   */
  return async function takeNotices(
    business: { id: string; timeZone: string },
    key: string,
    posted: Posted,
  ): Promise<TakenNotices> {
    const found = await tables.senders.findOne({ where: { businessId: business.id, key, retiredAt: null } });
    const sender = found?.get({ plain: true });
    if (!found || !sender?.secret) throw new AvrixError('AVX_NOT_FOUND', { what: 'address for postbacks' });
    if (!isProven(sender, config.secretKey, posted)) throw new AvrixError('AVX_SEAL_WRONG');
    const document = documentOf(posted.body);
    if (document === null) throw new AvrixError('AVX_POSTBACK_UNREAD');
    const documents = recordsIn(document, '');
    const read: Notice[] = [];
    const refused: TakenNotices['refused'] = [];
    for (const [at, one] of documents.entries()) {
      const result = readNotice(sender, one, nowMs(), (text) => instantIn(business.timeZone, text));
      if (result.ok) read.push(result.notice);
      else refused.push({ at, field: result.field, was: result.was, fix: result.fix });
    }
    const taken = read.length > 0 ? await store(business.id, sender, read) : 0;
    const [first] = refused;
    const last = documents[0] ?? document;
    const fits = Buffer.byteLength(JSON.stringify(last)) <= largestKept;
    await found.update({
      lastAt: now(),
      lastSent: fits ? seal(config.secretKey, last) : null,
      lastProblem: first ? `${first.was}. ${first.fix}`.slice(0, 500) : '',
    });
    if (first && read.length === 0) throw new AvrixError('AVX_RECORD_UNREAD', { was: first.was, fix: first.fix });
    return { taken, known: read.length - taken, refused };
  };
}
