import { QueryTypes } from 'sequelize';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork } from '../db';
import { newId } from '../ids';
import type { Accounts } from '../platforms/accounts';
import { readChanges } from './oakledger';

const betweenPolls = 5 * 60_000;
/** A webhook has this long (ms) to come by itself. */
const patience = 60_000;
/** How far back (ms) each poll looks beyond the last one, for changes that the CRM showed late. */
const overlap = 10 * 60_000;

/**
 * Finds what a webhook missed: asks the CRM which deals changed, and has those read whose record here is older. Reading
 * one again that is known changes nothing.
 */
export function makeCrmPoll({ db, http }: Context, accounts: Accounts) {
  /** @returns when to poll again */
  return async function poll(businessId: string, accountId: string): Promise<Date | null> {
    const account = await accounts.byId(businessId, accountId);
    if (!account) return null;
    const until = nowMs() - patience;
    const [last] = await db.query<{ polledTo: Date }>(
      'SELECT polled_to AS polledTo FROM polls WHERE business_id = ? AND account_id = ?',
      { replacements: [businessId, accountId], type: QueryTypes.SELECT },
    );
    const since = (last?.polledTo.getTime() ?? account.createdAt.getTime()) - overlap;
    const { deals, more } = await readChanges(http, account, since);
    const due = deals.filter((change) => change.changed_at <= until);
    const known = await knownChanges(
      businessId,
      accountId,
      due.map((change) => change.deal),
    );
    const missed = due.filter((change) => change.changed_at > (known.get(change.deal) ?? 0));
    const polledTo = more ? deals.at(-1)!.changed_at : until;

    await inTransaction(db, async (transaction) => {
      for (const { deal, changed_at } of missed) {
        const id = newId();
        await db.query(
          `INSERT INTO crm_events (business_id, id, account_id, crm_event, kind, deal, happened_at, received_at)
           VALUES (?,?,?,?,'found by poll',?,?,?) ON DUPLICATE KEY UPDATE id = VALUES(id), read_at = NULL`,
          {
            transaction,
            replacements: [
              ...[businessId, id, accountId, `poll ${deal}`, deal],
              ...[new Date(changed_at), new Date(nowMs())],
            ],
          },
        );
        await markWork(db, 'crm_event', businessId, [id], new Date(nowMs()), transaction);
      }
      await db.query(
        `INSERT INTO polls (business_id, account_id, polled_to) VALUES (?,?,?)
         ON DUPLICATE KEY UPDATE polled_to = GREATEST(polled_to, VALUES(polled_to))`,
        { transaction, replacements: [businessId, accountId, new Date(polledTo)] },
      );
    });
    return new Date(more ? nowMs() : nowMs() + betweenPolls);
  };

  /** When (ms) each deal had last changed when its record was read. */
  async function knownChanges(businessId: string, accountId: string, deals: string[]): Promise<Map<string, number>> {
    if (deals.length === 0) return new Map();
    const rows = await db.query<{ deal: string; changedAt: string | null }>(
      `SELECT crm_deal AS deal, JSON_VALUE(crm_record, '$.changedAt') AS changedAt FROM enquiries
       WHERE business_id = ? AND account_id = ? AND crm_deal IN (?)`,
      { replacements: [businessId, accountId, deals], type: QueryTypes.SELECT },
    );
    return new Map(rows.map((row) => [row.deal, Number(row.changedAt ?? 0)]));
  }
}
