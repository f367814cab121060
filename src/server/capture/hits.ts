import { QueryTypes, type Sequelize } from 'sequelize';
import type { Hit } from '../../core/capture';
import type { Mark, RecordedHit } from '../../core/strands';
import { groupBy } from '../group-by';

/** A browser with more hits than this is derived from its first ones; no person has as many. */
const mostHits = 5000;

/** The hits of each visitor. Where one of several has too many for a batch, each is read alone, up to its limit. */
export async function readVisitorHits(
  db: Sequelize,
  businessId: string,
  visitorIds: string[],
): Promise<Map<string, RecordedHit[]>> {
  if (visitorIds.length === 0) return new Map();
  // Left alone the database would read all hits of the business in the order of their IDs.
  const rows = await db.query<{
    visitorId: string;
    at: Date;
    bot: number;
    ownNetwork: number;
    browser: string;
    body: Hit;
  }>(
    `SELECT visitor_id AS visitorId, at, bot, own_network AS ownNetwork, browser, body FROM hits FORCE INDEX (by_visitor)
     WHERE business_id = ? AND visitor_id IN (?) ORDER BY visitor_id, id LIMIT ${mostHits}`,
    { replacements: [businessId, visitorIds], type: QueryTypes.SELECT },
  );
  if (rows.length === mostHits && visitorIds.length > 1) {
    const all = new Map<string, RecordedHit[]>();
    for (const id of visitorIds) all.set(id, (await readVisitorHits(db, businessId, [id])).get(id) ?? []);
    return all;
  }
  const recorded = rows.map((row) => ({
    ...{ visitorId: row.visitorId, at: row.at.getTime(), hit: row.body, browser: row.browser },
    mark: (row.bot ? 'bot' : row.ownNetwork ? 'network' : '') as Mark,
  }));
  return groupBy(recorded, (row) => row.visitorId);
}
