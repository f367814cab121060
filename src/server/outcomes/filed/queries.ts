import type { Sequelize, Transaction } from 'sequelize';
import type { FiledAnswer, FiledListQuery } from '../../../core/outcomes/filed';
import { likeText, pick, selectOne, selectRows, text, whole, type Read } from '../../db';
import type { Part } from '../../lists';
import { reportBacks } from '../../reportbacks/table';
import { outcomes } from '../table';
import { filedRows } from './table';

export const noAnswers: Record<FiledAnswer, number> = { taken: 0, repeated: 0, refused: 0 };

/** How many rows of a file there are of each answer. */
export async function countAnswers(db: Sequelize, businessId: string, fileId: string, transaction: Transaction) {
  const rows = await selectRows(
    db,
    { ...pick(filedRows, ['answer']), n: whole().of('COUNT(*)') },
    'FROM filed_rows WHERE business_id = ? AND file_id = ? GROUP BY answer',
    [businessId, fileId],
    transaction,
  );
  return { ...noAnswers, ...Object.fromEntries(rows.map(({ answer, n }) => [answer, n])) };
}

type Filter = Pick<FiledListQuery, 'find' | 'answer'>;

function conditionOf(businessId: string, fileId: string, { find, answer }: Filter) {
  const like = likeText(find);
  return {
    where: `business_id = ? AND file_id = ?${answer ? ' AND answer = ?' : ''}${
      find ? ' AND (click_id LIKE ? OR order_id LIKE ? OR says LIKE ? OR why LIKE ?)' : ''
    }`,
    values: [businessId, fileId, ...(answer ? [answer] : []), ...(find ? [like, like, like, like] : [])],
  };
}

export async function countFiledRows(db: Sequelize, businessId: string, fileId: string, filter: Filter) {
  const { where, values } = conditionOf(businessId, fileId, filter);
  return (await selectOne(db, { n: whole().of('COUNT(*)') }, `FROM filed_rows WHERE ${where}`, values)).n;
}

/** Rows of a file in its order. @param after the line behind which they begin */
export async function readFiledRows(
  db: Sequelize,
  businessId: string,
  fileId: string,
  filter: Filter,
  { limit, offset = 0 }: Part,
  after = 0,
) {
  const { where, values } = conditionOf(businessId, fileId, filter);
  return selectRows(
    db,
    filedRows.columns,
    `FROM filed_rows WHERE ${where} AND line > ? ORDER BY line LIMIT ? OFFSET ?`,
    [...values, after, limit, offset],
  );
}

/** Rows of a file that are taken, behind a line: as they are needed to store what they say. */
export const readTaken = (db: Sequelize, businessId: string, fileId: string, after: number, limit: number) =>
  selectRows(
    db,
    pick(filedRows, [
      ...(['line', 'conversionId', 'strandId', 'platform', 'clickId', 'says'] as const),
      ...(['at', 'amount', 'currency', 'orderId', 'revision'] as const),
    ]),
    "FROM filed_rows WHERE business_id = ? AND file_id = ? AND answer = 'taken' AND line > ? ORDER BY line LIMIT ?",
    [businessId, fileId, after, limit],
  );
export type TakenRow = Awaited<ReturnType<typeof readTaken>>[number];

const standing = {
  ...pick(outcomes, ['code', 'subjectId'], 'o'),
  account: text().nullable().of('r.account'),
  state: reportBacks.columns.state.nullable().of('r.state'),
};
export type FiledStanding = Read<typeof standing>;

/** What became of conversions: the outcome that each reached, and how far each account was told of it. */
export async function readStandings(
  db: Sequelize,
  businessId: string,
  conversionIds: string[],
): Promise<FiledStanding[]> {
  if (conversionIds.length === 0) return [];
  return selectRows(
    db,
    standing,
    `FROM outcomes o LEFT JOIN report_backs r ON r.business_id = o.business_id AND r.outcome_id = o.id AND r.correction = 0
     WHERE o.business_id = ? AND o.subject_kind = 'conversion' AND o.subject_id IN (?) ORDER BY r.account`,
    [businessId, conversionIds],
  );
}
