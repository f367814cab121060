/* eslint-disable no-await-in-loop -- outcomes and accounts are few */
import type { Transaction } from 'sequelize';
import { groupBy } from '../../core/group-by';
import { brakeOf, type DayOfTellings } from '../../core/reportbacks';
import { brakeIdOf } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, insertRows, markWork, pick, plain, selectRows, whole, type BrakeRow, type Read } from '../db';
import { makeLastKnown } from '../last-known';
import { outcomes } from '../outcomes/table';
import { markSubjects } from './settle';
import { reportBacks } from './table';

const day = 86_400_000;
const weeks = 8;
/** How long (ms) what was usual is taken as known. */
const usualFor = 60_000;

/** An outcome that an account is told of. */
export interface BrakeKey {
  outcome: string;
  version: number;
  account: string;
  /** Whether the first ones wait for a look. */
  firstLook: boolean;
}
export type Brakes = ReturnType<typeof makeBrakes>;
const nameOf = ({ outcome, account }: Pick<BrakeKey, 'outcome' | 'account'>) => `${outcome} ${account}`;

/** What is known of tellings together: how many, what they are worth, how old their clicks were. */
const together = {
  ...pick(outcomes, ['code'], 'o'),
  ...pick(reportBacks, ['account'], 'r'),
  count: whole().of('COUNT(*)'),
  worth: whole().of('COALESCE(SUM(COALESCE(o.corrected_minor, o.worth_minor)), 0)'),
  clickHours: whole().of('ROUND(AVG(TIMESTAMPDIFF(HOUR, s.first_at, o.happened_at)))').nullable(),
};
/**
 * Tellings by outcome and account. What somebody withdrew, or had to look at because it was far outside, is none of them:
 * it is not usual, else one such afternoon would hide the next, and it is not looked at twice.
 */
const tellings = `FROM report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
  LEFT JOIN strands s ON s.business_id = r.business_id AND s.platform = r.platform AND s.click_id = r.key_value
  WHERE r.business_id = ? AND r.made_at > ? AND r.correction = 0 AND r.state <> 'withdrawn'
    AND NOT EXISTS (SELECT 1 FROM brakes b WHERE b.business_id = r.business_id AND b.outcome = o.code
      AND b.account = r.account AND b.because <> 'new' AND r.made_at > b.since
      AND r.made_at <= COALESCE(b.ended_at, r.made_at))
  GROUP BY o.code, r.account`;
const asDay = ({
  count,
  worth,
  clickHours,
}: Pick<Read<typeof together>, 'count' | 'worth' | 'clickHours'>): DayOfTellings => ({
  count,
  worth,
  clickDays: clickHours === null ? null : clickHours / 24,
});

/**
 * The brake: what is far outside of what is usual, and the first of a new outcome, is held as one until somebody looked at
 * it. One that was let go holds nothing more of what came before that.
 */
export function makeBrakes(context: Context) {
  const { db, tables } = context;

  /** What came on each day of the last weeks but the newest, by outcome and account. */
  const usual = makeLastKnown(async (businessAndDay) => {
    const [businessId] = businessAndDay.split(' ');
    const rows = await selectRows(
      db,
      { back: whole().of('FLOOR(TIMESTAMPDIFF(SECOND, r.made_at, ?) / 86400)'), ...together },
      `${tellings}, back`,
      [now(), businessId, new Date(nowMs() - weeks * 7 * day)],
    );
    return groupBy(
      rows.filter(({ back }) => back > 0),
      ({ code, account }) => nameOf({ outcome: code, account }),
    );
  }, usualFor);

  const usualOf = (businessId: string) => usual.get(`${businessId} ${Math.floor(nowMs() / day)}`);

  const readOpen = async (businessId: string, transaction: Transaction): Promise<BrakeRow[]> =>
    plain(await tables.brakes.findAll({ where: { businessId, endedAt: null }, transaction }));

  /** Holds the first ones of an outcome that was never told to an account, unless somebody looked at them. */
  async function holdFirst(businessId: string, key: BrakeKey, transaction: Transaction): Promise<BrakeRow[]> {
    const { outcome, version, account } = key;
    const id = brakeIdOf(businessId, outcome, version, account);
    const known = await tables.brakes.count({ where: { businessId, id }, transaction });
    if (known > 0) return [];
    const [told] = await selectRows(
      db,
      pick(reportBacks, ['id'], 'r'),
      `FROM report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
       WHERE r.business_id = ? AND r.account = ? AND o.code = ? AND o.version = ? AND r.answered_at IS NOT NULL LIMIT 1`,
      [businessId, account, outcome, version],
      transaction,
    );
    if (told) return [];
    const row: BrakeRow = {
      businessId,
      id,
      outcome,
      version,
      account,
      because: 'new',
      is: 0,
      usual: 0,
      since: new Date(0),
      madeAt: now(),
      endedAt: null,
      endedBy: '',
    };
    await insertRows(tables.brakes, [row], [], transaction);
    return [row];
  }

  return {
    /** The brakes that hold report-backs of these outcomes and accounts, by both. */
    async open(businessId: string, keys: BrakeKey[], transaction: Transaction): Promise<Map<string, BrakeRow>> {
      const open = await readOpen(businessId, transaction);
      for (const key of keys)
        if (key.firstLook && !open.some((one) => nameOf(one) === nameOf(key)))
          open.push(...(await holdFirst(businessId, key, transaction)));
      return new Map(open.map((one) => [nameOf(one), one]));
    },

    /** Has what was just made looked at, once it is stored: what others make at this moment counts with it. */
    mark: (businessId: string, transaction: Transaction) =>
      markWork(db, 'brake', businessId, [businessId], now(), transaction),

    /** Looks at once where something was made that nothing looked at: before anything of it is told. */
    async lookFirst(businessId: string): Promise<void> {
      const isMarked = await tables.work.count({ where: { businessId, kind: 'brake', subject: businessId } });
      if (isMarked > 0) await look(businessId);
    },
    look,
  };

  /**
   * Looks at the report-backs of the last day: where those of an outcome and account are far outside of what is usual, all
   * of them that nobody began to tell are held.
   */
  async function look(businessId: string): Promise<null> {
    const days = await usualOf(businessId);
    const since = new Date(nowMs() - day);
    const lately = await selectRows(db, { version: whole().of('MAX(o.version)'), ...together }, tellings, [
      businessId,
      since,
    ]);
    for (const { code: outcome, version, account, ...one } of lately) {
      const brake = brakeOf(asDay(one), (days.get(nameOf({ outcome, account })) ?? []).map(asDay));
      if (!brake) continue;
      const id = brakeIdOf(businessId, outcome, version, account, since.getTime());
      const key = { businessId, id, outcome, version, account };
      const row: BrakeRow = { ...key, ...brake, since, madeAt: now(), endedAt: null, endedBy: '' };
      await inTransaction(db, async (transaction) => {
        await insertRows(tables.brakes, [row], [], transaction);
        await hold(row, transaction);
      });
    }
    return null;
  }

  /** Holds what waits of a group, as far as nobody began to tell it. */
  async function hold({ businessId, outcome, account, because, since }: BrakeRow, transaction: Transaction) {
    const rows = await selectRows(
      db,
      {
        ...pick(reportBacks, ['id', 'subjectKind', 'subjectId'], 'r'),
      },
      `FROM report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
       WHERE r.business_id = ? AND o.code = ? AND r.account = ? AND r.correction = 0 AND r.state = 'waiting'
         AND r.made_at > ? AND NOT EXISTS (SELECT 1 FROM attempts a WHERE a.business_id = r.business_id AND a.report_back_id = r.id)
       ORDER BY r.id FOR UPDATE`,
      [businessId, outcome, account, since],
      transaction,
    );
    if (rows.length === 0) return;
    await tables.reportBacks.update(
      { state: 'held', reason: { code: 'brake', because }, dueAt: null },
      { where: { businessId, id: rows.map(({ id }) => id) }, transaction },
    );
    await markSubjects(db, businessId, rows, transaction);
  }
}
