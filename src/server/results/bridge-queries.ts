import type { Sequelize } from 'sequelize';
import type { CrmRecord } from '../../core/leads/schema';
import type { SubjectKind } from '../../core/strands';
import { json, orNull, pick, selectRows, text, time, whole, yes, type Read } from '../db';
import { deals } from '../leads/table';
import { hops, strands } from '../strands/table';
import { outcomes } from '../outcomes/table';
import { reportBacks } from '../reportbacks/table';

/* What platforms, the website and the CRM count of one outcome. Joining and counting that the models cannot say; read in the pool. */

const click = orNull(pick(strands, ['kind', 'platform', 'source', 'medium', 'campaign', 'content', 'firstAt'], 's'));
const counted = {
  ...pick(outcomes, ['id', 'subjectKind', 'subjectId', 'happenedAt'], 'o'),
  isTakenBack: yes().of("o.worth_change = 'taken_back'"),
  ...click,
};
const isNone = yes().of("e.marked <> '' OR e.quality = 'no_enquiry'");
export type CountedRow = Read<typeof counted> & { isNone: boolean; startedAt: Date };

/** Outcomes of a code since some time, each with the click that brought what it is of. */
export async function readCounted(db: Sequelize, businessId: string, code: string, since: Date): Promise<CountedRow[]> {
  const of = (
    kind: SubjectKind,
    columns: { isNone: typeof isNone; startedAt: ReturnType<typeof time> },
    join: string,
  ) =>
    selectRows(
      db,
      { ...counted, ...columns },
      `FROM outcomes o ${join} WHERE o.business_id = ? AND o.code = ? AND o.happened_at >= ? AND o.subject_kind = '${kind}'`,
      [businessId, code, since],
    );
  const bought = (kind: SubjectKind, table: string) =>
    of(
      kind,
      { isNone: yes().of("b.marked <> ''"), startedAt: time().of('o.happened_at') },
      `JOIN ${table} b ON b.business_id = o.business_id AND b.id = o.subject_id
       LEFT JOIN strands s ON s.business_id = o.business_id AND s.id = JSON_VALUE(b.strands, '$[0]')`,
    );
  const found = await Promise.all([
    of(
      'enquiry',
      { isNone, startedAt: time().of('e.sent_at') },
      `JOIN enquiries e ON e.business_id = o.business_id AND e.id = o.subject_id
       LEFT JOIN strands s ON s.business_id = o.business_id AND s.id = e.strand_id`,
    ),
    bought('order', 'orders'),
    bought('subscription', 'subscriptions'),
    bought('conversion', 'conversions'),
  ]);
  return found.flat();
}

const told = {
  ...pick(reportBacks, ['outcomeId', 'account', 'state', 'reason', 'bookedOn'], 'r'),
  /** When (of the key that it is told by) the click was. */
  clickedAt: time().nullable().of('s.first_at'),
};
export type ToldOfRow = Read<typeof told>;

/** What became of telling some outcomes. */
export const readToldOf = (db: Sequelize, businessId: string, outcomeIds: string[]): Promise<ToldOfRow[]> =>
  selectRows(
    db,
    told,
    `FROM report_backs r LEFT JOIN strands s
       ON s.business_id = r.business_id AND s.platform = r.platform AND s.click_id = r.key_value AND r.key_kind = 'click_id'
     WHERE r.business_id = ? AND r.outcome_id IN (?) AND r.correction = 0`,
    [businessId, outcomeIds],
  );

const deal = {
  ...pick(deals, ['id', 'number', 'enquiryId', 'stage', 'goneAt'], 'd'),
  changes: json<CrmRecord['stageChanges']>().nullable().of("JSON_QUERY(d.record, '$.stageChanges')"),
};
export type StagedDeal = Read<typeof deal>;

/** The deals of some enquiries. */
export const readDealsOf = (db: Sequelize, businessId: string, enquiryIds: string[]): Promise<StagedDeal[]> =>
  selectRows(db, deal, 'FROM deals d WHERE d.business_id = ? AND d.enquiry_id IN (?)', [businessId, enquiryIds]);

/**
 * Deals that are, or were, at one of some stages, and of whose enquiry no outcome of a code was counted; with its click.
 *
 * @param since when they came to their last stage or, where nothing is known of their stages, when they were enquired about
 */
export const readUncounted = (db: Sequelize, businessId: string, code: string, stages: string[], since: Date) =>
  selectRows(
    db,
    {
      ...deal,
      ...click,
      isNone,
      startedAt: time().of('e.sent_at'),
      /** Whether one was counted of another enquiry of its lead. */
      isLeadCounted: yes().of(`EXISTS (SELECT 1 FROM enquiries f JOIN outcomes o ON o.business_id = f.business_id
        AND o.subject_id = f.id AND o.code = ? WHERE f.business_id = e.business_id AND f.lead_id = e.lead_id)`),
    },
    `FROM deals d JOIN enquiries e ON e.business_id = d.business_id AND e.id = d.enquiry_id
     LEFT JOIN strands s ON s.business_id = d.business_id AND s.id = e.strand_id
     WHERE d.business_id = ? AND d.gone_at IS NULL AND (d.staged_at >= ? OR d.staged_at IS NULL)
       AND (d.staged_at IS NOT NULL OR e.sent_at >= ?)
       AND (d.stage IN (?) OR JSON_OVERLAPS(JSON_EXTRACT(d.record, '$.stageChanges[*].stage'), ?))
       AND NOT EXISTS (SELECT 1 FROM outcomes o
         WHERE o.business_id = d.business_id AND o.subject_id = d.enquiry_id AND o.code = ?)`,
    [code, businessId, since.getTime(), since, stages, JSON.stringify(stages), code],
  );

export type UncountedRow = Awaited<ReturnType<typeof readUncounted>>[number];

/** How many an account says that it counted on some of its days, under a name. */
export async function readReported(
  db: Sequelize,
  businessId: string,
  accountId: string,
  name: string,
  firstDay: string,
  lastDay: string,
): Promise<number> {
  const [row] = await selectRows(
    db,
    { counted: whole().of('COALESCE(SUM(counted), 0)') },
    'FROM outcome_reports WHERE business_id = ? AND account_id = ? AND outcome = ? AND day BETWEEN ? AND ?',
    [businessId, accountId, name, firstDay, lastDay],
  );
  return row?.counted ?? 0;
}

/** Accounts that were told of what came to an outcome since some time, with the name that they know it by. */
export const readAccountsTold = (db: Sequelize, businessId: string, code: string, since: Date) =>
  selectRows(
    db,
    { account: text().of('r.account'), name: text().of('MAX(r.told_as)') },
    `FROM report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
     WHERE o.business_id = ? AND o.code = ? AND o.happened_at >= ? AND r.correction = 0 GROUP BY r.account`,
    [businessId, code, since],
  );

/** Why click IDs of some enquiries were lost on the way into the CRM. */
export const readLostReasons = (db: Sequelize, businessId: string, subjectIds: string[]) =>
  selectRows(
    db,
    pick(hops, ['subjectId', 'reason']),
    "FROM hops WHERE business_id = ? AND subject_id IN (?) AND hop = 'in_crm' AND state = 'lost'",
    [businessId, subjectIds],
  );
