import { QueryTypes, type Sequelize } from 'sequelize';
import type { ArrivedValue } from '../../core/plan';

/* Grouping that the models cannot say. */

/** Distinct values looked at, the commonest first; a business with more has a tag that is no tag. */
export const mostValues = 20_000;

/** How often each value of each tag arrived since a day, without where from. */
export async function readArrivedCounts(db: Sequelize, businessId: string, since: string): Promise<ArrivedValue[]> {
  const rows = await db.query<{ tag: string; value: string; arrivals: number; firstAt: Date; lastAt: Date }>(
    `SELECT tag, value, SUM(arrivals) AS arrivals, MIN(first_at) AS firstAt, MAX(last_at) AS lastAt FROM tag_days
     WHERE business_id = ? AND zone = '' AND day >= ? GROUP BY tag, value ORDER BY arrivals DESC, tag, value LIMIT ${mostValues}`,
    { replacements: [businessId, since], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({
    ...{ tag: row.tag, value: row.value, arrivals: Number(row.arrivals), host: '', campaign: '' },
    ...{ firstAt: row.firstAt.getTime(), lastAt: row.lastAt.getTime() },
  }));
}

/** The same values with the host they came from and the campaign beside them most often. */
export async function addUsualOrigin<V extends ArrivedValue>(
  db: Sequelize,
  businessId: string,
  since: string,
  values: V[],
): Promise<V[]> {
  if (values.length === 0) return [];
  const rows = await db.query<{ tag: string; value: string; host: string; campaign: string }>(
    `SELECT tag, value, host, campaign FROM tag_days
     WHERE business_id = ? AND zone = '' AND day >= ? AND (tag, value) IN (${values.map(() => '(?,?)').join(',')})
     GROUP BY tag, value, host, campaign ORDER BY SUM(arrivals)`,
    { replacements: [businessId, since, ...values.flatMap(({ tag, value }) => [tag, value])], type: QueryTypes.SELECT },
  );
  // The commonest comes last and stays.
  const origins = new Map(rows.map((row) => [`${row.tag} ${row.value}`, row]));
  return values.map((one) => {
    const { host = '', campaign = '' } = origins.get(`${one.tag} ${one.value}`) ?? {};
    return { ...one, host, campaign };
  });
}

/** When tags were first recorded, or null where none ever were. */
export async function firstRecorded(db: Sequelize, businessId: string): Promise<Date | null> {
  const [row] = await db.query<{ at: Date | null }>(
    `SELECT MIN(first_at) AS at FROM tag_days WHERE business_id = ? AND zone = '' AND day =
       (SELECT MIN(day) FROM tag_days WHERE business_id = ? AND zone = '')`,
    {
      replacements: [businessId, businessId],
      type: QueryTypes.SELECT,
    },
  );
  return row!.at;
}
