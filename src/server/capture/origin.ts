import type { Sequelize } from 'sequelize';
import { selectRows, text } from '../db';
import { observationStart } from '../plan/plan';

/** Where a website opens: as one of its newest arrivals was addressed, for some have no https, or a port; else https. */
export async function readOrigin(db: Sequelize, businessId: string, host: string): Promise<string> {
  const [newest] = await selectRows(
    db,
    { address: text().of("JSON_VALUE(body, '$.address')") },
    `FROM (SELECT host, body FROM hits USE INDEX (by_time)
       WHERE business_id = ? AND at >= ? AND kind = 'arrived' ORDER BY at DESC LIMIT 500) AS newest
     WHERE host = ? LIMIT 1`,
    [businessId, observationStart(), host],
  );
  return newest ? new URL(newest.address).origin : `https://${host}`;
}
