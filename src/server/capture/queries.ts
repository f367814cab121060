import { QueryTypes, type Sequelize } from 'sequelize';

/** Pages (host and path) where the line was seen since a time: touches and forms tell which. */
export async function readPagesSeen(
  db: Sequelize,
  businessId: string,
  since: Date,
): Promise<{ page: string; arrivals: number; lastAt: Date }[]> {
  const rows = await db.query<{ page: string; arrivals: number; lastAt: Date }>(
    `SELECT REGEXP_REPLACE(JSON_VALUE(body, '$.address'), '^https?://([^/:?#]+)(:[0-9]+)?([^?#]*).*$', '\\\\1\\\\3') AS page,
       COUNT(*) AS arrivals, MAX(at) AS lastAt
     FROM hits WHERE business_id = ? AND kind = 'arrived' AND at >= ? GROUP BY page ORDER BY arrivals DESC LIMIT 500`,
    { replacements: [businessId, since], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, arrivals: Number(row.arrivals) }));
}
