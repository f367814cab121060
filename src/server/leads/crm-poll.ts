/* eslint-disable no-await-in-loop -- each answer says where the next one begins */
import type { Transaction } from 'sequelize';
import type { AskedCrm } from '../../core/crms';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { pick, selectRows, text, time, whole, inTransaction, markWork } from '../db';
import { newId } from '../ids';
import type { Crm, Crms } from '../crms/crm';
import type { CrmArrivals } from './arrivals';
import { polls } from './table';

const betweenPolls = 5 * 60_000;
/** A webhook has this long (ms) to come by itself. */
const patience = 60_000;
/** How far back (ms) each poll looks beyond the last one, for changes that the CRM showed late. */
const overlap = 10 * 60_000;
/** One poll reads at most this many answers; the next one goes on from there. */
const mostAnswers = 200;

interface Change {
  deal: string;
  changedAt: number;
}

/**
 * Finds what a webhook missed: asks the CRM which deals changed, and has those read whose record here is older. Reading
 * one again that is known changes nothing.
 */
export function makeCrmPoll({ db }: Context, crms: Crms, arrivals: CrmArrivals) {
  /** Keeps up to when (ms) all changes are known. */
  const storePoll = (businessId: string, accountId: string, to: number, until: number, transaction: Transaction) =>
    db.query(
      `INSERT INTO polls (business_id, account_id, polled_to) VALUES (?,?,?)
       ON DUPLICATE KEY UPDATE polled_to = GREATEST(LEAST(polled_to, ?), VALUES(polled_to))`,
      { transaction, replacements: [businessId, accountId, new Date(to), new Date(until)] },
    );

  /** @returns when to poll again */
  return async function poll(businessId: string, accountId: string): Promise<Date | null> {
    const crm = await crms.ofAccount(businessId, accountId);
    if (!crm || crm.account.retiredAt) return null;
    if (crm.account.pausedAt) return new Date(nowMs() + betweenPolls);
    const until = nowMs() - patience;
    const [last] = await selectRows(
      db,
      pick(polls, ['polledTo']),
      'FROM polls WHERE business_id = ? AND account_id = ?',
      [businessId, accountId],
    );
    // A mark that lies in the future was set while a clock was wrong.
    const since = Math.min(last?.polledTo.getTime() ?? crm.account.createdAt.getTime(), until) - overlap;
    if (crm.contract.gives === 'records') {
      const readTo = await arrivals.readList(crm, since);
      if (readTo === null) return null;
      await inTransaction(db, (transaction) =>
        storePoll(businessId, accountId, Math.min(until, readTo), until, transaction),
      );
      return new Date(nowMs() + betweenPolls);
    }
    const { deals, readTo } = await readAllChanges(crm.contract, crm.ask, since);
    const due = deals.filter((change) => change.changedAt <= until);
    const known = await knownChanges(
      businessId,
      accountId,
      due.map((change) => change.deal),
    );
    const missed = due.filter((change) => change.changedAt > (known.get(change.deal) ?? 0));
    const polledTo = Math.min(until, readTo);

    await inTransaction(db, async (transaction) => {
      if (missed.length > 0) await storeMissed(businessId, accountId, missed, transaction);
      await storePoll(businessId, accountId, polledTo, until, transaction);
    });
    return new Date(nowMs() + betweenPolls);
  };

  /** All changes from `since` (ms) on, answer by answer; `readTo` is up to when (ms) they are complete. */
  async function readAllChanges(contract: AskedCrm, ask: Crm['ask'], since: number) {
    const all: Change[] = [];
    let from = since;
    for (let answers = 0; answers < mostAnswers; answers++) {
      const { changes, more } = await ask(contract.changes(from));
      all.push(...changes);
      if (!more) return { deals: all, readTo: Infinity };
      from = Math.max(from + 1, changes.at(-1)!.changedAt);
    }
    return { deals: all, readTo: from };
  }

  /** Stores what was missed as events of the CRM, to be read back like those that came by webhook. */
  async function storeMissed(businessId: string, accountId: string, missed: Change[], transaction: Transaction) {
    const found = missed.map((change) => ({ ...change, id: newId() }));
    await db.query(
      `INSERT INTO crm_events (business_id, id, account_id, crm_event, kind, deal, happened_at, received_at)
       VALUES ${found.map(() => "(?,?,?,?,'found by poll',?,?,?)").join(',')}
       ON DUPLICATE KEY UPDATE id = VALUES(id), happened_at = VALUES(happened_at), read_at = NULL`,
      {
        transaction,
        replacements: found.flatMap(({ id, deal, changedAt }) => [
          ...[businessId, id, accountId, `poll ${deal}`, deal],
          ...[new Date(changedAt), now()],
        ]),
      },
    );
    const ids = found.map((event) => event.id);
    await markWork(db, 'crm_event', businessId, ids, now(), transaction, accountId);
  }

  /** When (ms) each deal had last changed when its record was read, or since when it is gone. */
  async function knownChanges(businessId: string, accountId: string, deals: string[]): Promise<Map<string, number>> {
    if (deals.length === 0) return new Map();
    const rows = await selectRows(
      db,
      {
        deal: text().of('number'),
        changedAt: whole().of("JSON_VALUE(record, '$.changedAt')"),
        goneAt: time().nullable(),
      },
      'FROM deals WHERE business_id = ? AND account_id = ? AND number IN (?)',
      [businessId, accountId, deals],
    );
    return new Map(rows.map(({ deal, changedAt, goneAt }) => [deal, goneAt?.getTime() ?? changedAt]));
  }
}
