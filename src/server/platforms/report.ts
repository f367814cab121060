import { TZDate } from '@date-fns/tz';
import { format, subDays } from 'date-fns';
import { Op, type Transaction } from 'sequelize';
import type { Question } from '../../core/outgoing';
import { destinationOf, type DestinationContract } from '../../core/destinations';
import { contractOf } from '../../core/platforms';
import { confirmedBy } from '../../core/reportbacks';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain } from '../db';
import type { Releases } from '../releases/releases';
import { costDaysBack, storeCosts } from '../results/store-costs';
import { markSubjects } from '../reportbacks/settle';
import type { Account, Accounts } from './accounts';
import { askAccount } from './call';

/** Platforms restate recent days, so the last ones are read again each time. */
const clickDaysBack = 35;
const betweenReads = 60_000;

/** Reads an account's own report and confirms the rows that stand in it. */
export function makeReadReport(context: Context, accounts: Accounts, releases: Releases) {
  const { db, tables } = context;

  /** @returns when to read again */
  return async function readReport(businessId: string, accountId: string): Promise<Date | null> {
    const account = await accounts.byId(businessId, accountId);
    const own = (await releases.live(businessId)).content.platforms;
    const contract = account && contractOf(account.kind, own);
    const counts = account && destinationOf(account.kind, own);
    if (account && counts?.report && !account.retiredAt && !account.pausedAt) return readCounts(account, counts);
    if (!account || account.retiredAt || !contract?.report) return null;
    if (account.pausedAt) return new Date(nowMs() + betweenReads);
    const { report, limits } = contract;
    const zone = account.settings.timeZone ?? 'UTC';
    const dayBack = (days: number) => format(subDays(new TZDate(nowMs(), zone), days), 'yyyy-MM-dd');
    const today = dayBack(0);
    const oldest = dayBack(limits.clickDays + limits.tellWithinDays + 1);
    const ask = async <T>({ request, read }: Question<T>) =>
      read(await askAccount(context, account, contract.authorised, request));
    const clicks = report.clicks && (await ask(report.clicks(dayBack(clickDaysBack), today)));
    const outcomes = await ask(report.outcomes(oldest, today));
    const costsFrom = dayBack(await costDaysBack(context, account));
    const costs = report.costs && (await ask(report.costs(costsFrom, today)));
    await inTransaction(db, async (transaction) => {
      if (clicks) await storeClicks(account, clicks, transaction);
      if (costs) await storeCosts(context, account, costsFrom, costs, transaction);
      await storeOutcomes(account, outcomes, transaction);
      if (report.confirms) await confirm(account, oldest, outcomes, transaction);
    });
    return new Date(nowMs() + betweenReads);
  };

  /** Reads how many events an account counted under each name; when that is looked at again, it is asked again. */
  async function readCounts(account: Account, place: DestinationContract): Promise<null> {
    const business = await tables.businesses.findOne({
      attributes: ['timeZone'],
      where: { id: account.businessId },
      rejectOnEmpty: true,
    });
    const zone = account.settings.timeZone ?? business.get({ plain: true }).timeZone;
    const dayBack = (days: number) => format(subDays(new TZDate(nowMs(), zone), days), 'yyyy-MM-dd');
    const { request, read } = place.report!(dayBack(clickDaysBack), dayBack(0), zone);
    const rows = read(await askAccount(context, account, place.authorised, request));
    await inTransaction(db, (transaction) => storeOutcomes(account, rows, transaction));
    return null;
  }

  async function storeClicks(
    account: Account,
    rows: { day: string; campaign: string; number: string; clicks: number }[],
    transaction: Transaction,
  ): Promise<void> {
    if (rows.length === 0) return;
    await db.query(
      `INSERT INTO click_reports (business_id, account_id, day, campaign, campaign_id, source, clicks, read_at)
       VALUES ${rows.map(() => '(?,?,?,?,?,?,?,?)').join(',')}
       ON DUPLICATE KEY UPDATE campaign_id = VALUES(campaign_id), clicks = VALUES(clicks), read_at = VALUES(read_at)`,
      {
        transaction,
        replacements: rows.flatMap((row) => [
          account.businessId,
          account.id,
          row.day,
          row.campaign,
          row.number,
          account.settings.source ?? account.kind,
          row.clicks,
          now(),
        ]),
      },
    );
  }

  async function storeOutcomes(
    account: Account,
    rows: { day: string; outcome: string; counted: number }[],
    transaction: Transaction,
  ): Promise<void> {
    if (rows.length === 0) return;
    await db.query(
      `INSERT INTO outcome_reports (business_id, account_id, day, outcome, counted, read_at)
       VALUES ${rows.map(() => '(?,?,?,?,?,?)').join(',')}
       ON DUPLICATE KEY UPDATE counted = VALUES(counted), read_at = VALUES(read_at)`,
      {
        transaction,
        replacements: rows.flatMap((row) => [account.businessId, account.id, row.day, row.outcome, row.counted, now()]),
      },
    );
  }

  async function confirm(
    { businessId, id }: Account,
    oldest: string,
    report: { day: string; outcome: string; counted: number }[],
    transaction: Transaction,
  ): Promise<void> {
    const taken = plain(
      await tables.reportBacks.findAll({
        where: {
          businessId,
          accountId: id,
          state: ['told', 'confirmed', 'unsure'],
          bookedOn: { [Op.gte]: oldest },
        },
        transaction,
      }),
    );
    const confirmed = confirmedBy(
      taken.map((row) => ({
        id: row.id,
        outcome: row.toldAs,
        day: row.bookedOn ?? '',
        confirmed: row.state === 'confirmed',
        unsure: row.state === 'unsure',
      })),
      report,
    );
    if (confirmed.length === 0) return;
    await tables.reportBacks.update(
      {
        state: 'confirmed',
        reason: null,
        confirmedAt: now(),
        answeredAt: db.fn('COALESCE', db.col('answered_at'), now()) as never,
      },
      { where: { businessId, id: confirmed, state: ['told', 'unsure'] }, transaction },
    );
    await markSubjects(
      db,
      businessId,
      taken.filter((row) => confirmed.includes(row.id)),
      transaction,
    );
  }
}
