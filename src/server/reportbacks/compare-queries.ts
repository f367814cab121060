import type { Sequelize } from 'sequelize';
import { readAmount } from '../../core/outcomes';
import type { TellingRule } from '../../core/outcomes/schema';
import type { ToldRow } from '../../core/reportbacks/compare';
import type { ComparedTelling } from '../../core/reportbacks/compare-view';
import { pick, selectRows, text, time, uuid } from '../db';
import { filedRows } from '../outcomes/filed/table';
import { outcomes } from '../outcomes/table';
import { worthNow } from '../outcomes/worth-now';
import { reportBacks } from './table';

/** Rows of each way that are read. */
export const mostRows = 20_000;

/** Our side of a comparison: what would be told, or is since it was switched over; and all that is counted. */
export interface Ours {
  told: (ToldRow & { clickedAt: number | null })[];
  known: Map<string, OurRow>;
  /** The days on which the platform booked what Avrix told it, one for each. */
  booked: string[];
}

const ourColumns = {
  ...pick(reportBacks, ['id', 'outcomeId', 'state', 'reason', 'keyValue', 'toldMinor', 'tellsMinor', 'bookedOn'], 'r'),
  ...pick(outcomes, ['happenedAt', 'worthMinor', 'correctedMinor', 'currency'], 'o'),
  clickedAt: time().nullable().of('s.first_at'),
  strandId: uuid().nullable().of('s.id'),
};
export type OurRow = Awaited<ReturnType<typeof readOurRows>>[number];

const readOurRows = (
  db: Sequelize,
  businessId: string,
  { outcome, account, rule }: Pick<ComparedTelling, 'outcome' | 'account'> & { rule: TellingRule },
  since: Date,
) =>
  selectRows(
    db,
    ourColumns,
    `FROM report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
     LEFT JOIN strands s ON s.business_id = r.business_id AND s.platform = ? AND s.click_id = r.key_value
     WHERE r.business_id = ? AND r.made_at >= ? AND r.account = ? AND o.code = ? AND r.correction = 0
       AND r.key_kind = 'click_id' AND o.happened_at >= ?
     ORDER BY o.happened_at DESC LIMIT ${mostRows}`,
    [rule.platform, businessId, since, account, outcome, since],
  );

const isTold = (state: OurRow['state']): boolean =>
  state === 'told' || state === 'confirmed' || state === 'waiting' || state === 'unsure';

/** What Avrix would tell, or told, since then; a report-back that is held is not told, and says why. */
export async function readOurs(
  db: Sequelize,
  businessId: string,
  telling: Pick<ComparedTelling, 'outcome' | 'account' | 'from'> & { rule: TellingRule },
  since: Date,
): Promise<Ours> {
  const rows = await readOurRows(db, businessId, telling, since);
  const { from } = telling;
  // What was told before it was only worked out is no part of the comparison.
  const isOurs = ({ state, reason, happenedAt }: OurRow) =>
    reason?.code === 'worked_out' || (isTold(state) && from !== '' && happenedAt.getTime() >= Date.parse(from));
  return {
    told: rows.filter(isOurs).map((row) => ({
      id: row.id,
      clickId: row.keyValue,
      at: row.happenedAt.getTime(),
      minor: Number(row.tellsMinor ?? row.toldMinor ?? worthNow(row).minor),
      currency: row.currency,
      clickedAt: row.clickedAt?.getTime() ?? null,
    })),
    known: new Map(rows.map((row) => [row.keyValue, row])),
    booked: rows.flatMap(({ state, bookedOn }) => (isTold(state) && bookedOn ? bookedOn : [])),
  };
}

/** What the other way told since then, as its files say. */
export async function readOld(db: Sequelize, businessId: string, fileIds: string[], since: Date): Promise<ToldRow[]> {
  if (fileIds.length === 0) return [];
  const rows = await selectRows(
    db,
    { ...pick(filedRows, ['fileId', 'line', 'clickId', 'amount', 'currency']), at: time() },
    `FROM filed_rows WHERE business_id = ? AND file_id IN (?) AND answer = 'taken' AND at >= ?
     ORDER BY at DESC LIMIT ${mostRows}`,
    [businessId, fileIds, since],
  );
  return rows.map(({ fileId, line, clickId, at, amount, currency }) => ({
    id: `${fileId} ${line}`,
    clickId,
    at: at.getTime(),
    minor: readAmount(amount, currency)?.minor ?? 0,
    currency,
  }));
}

/** The names by which an account's own report calls outcomes. */
export async function readReported(db: Sequelize, businessId: string, accountId: string): Promise<string[]> {
  const rows = await selectRows(
    db,
    { outcome: text() },
    'FROM outcome_reports WHERE business_id = ? AND account_id = ? GROUP BY outcome ORDER BY outcome LIMIT 200',
    [businessId, accountId],
  );
  return rows.map(({ outcome }) => outcome);
}
