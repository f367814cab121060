import { QueryTypes, type Sequelize } from 'sequelize';
import type { Hit } from '../../core/capture';
import type { Mark, RecordedHit } from '../../core/strands';
import { groupBy } from '../group-by';

/** A browser with more hits than this, or more bytes of them, is derived from its first ones; no person has as many. */
const most = { hits: 5000, bytes: 16 * 2 ** 20 };
/** Hits that are held in memory and worked out at a time. */
const hitsAtOnce = 2000;
/** A browser with more is looked at for its bytes too. */
const manyHits = 500;

/** Visitors that are derived together, and how many hits of each are read at most. */
export interface VisitorPiece {
  visitorIds: string[];
  mostHits: number;
}

/** Divides visitors into pieces that are bounded by their hits, so that a browser with thousands holds up nobody else. */
export async function pieceVisitors(db: Sequelize, businessId: string, visitorIds: string[]): Promise<VisitorPiece[]> {
  if (visitorIds.length === 0) return [];
  const counted = await db.query<{ id: string; hits: number }>(
    `SELECT visitor_id AS id, COUNT(*) AS hits FROM hits FORCE INDEX (by_visitor)
     WHERE business_id = ? AND visitor_id IN (?) GROUP BY visitor_id`,
    { replacements: [businessId, visitorIds], type: QueryTypes.SELECT },
  );
  const hitsOf = new Map(counted.map(({ id, hits }) => [id, Number(hits)]));
  const many = visitorIds.filter((id) => (hitsOf.get(id) ?? 0) > manyHits);
  const pieces: VisitorPiece[] = [];
  for (const id of many) pieces.push({ visitorIds: [id], mostHits: await readable(db, businessId, id) });
  let piece: VisitorPiece = { visitorIds: [], mostHits: hitsAtOnce };
  let hits = 0;
  for (const id of visitorIds.filter((one) => !many.includes(one))) {
    const own = hitsOf.get(id) ?? 0;
    if (hits + own > hitsAtOnce) {
      pieces.push(piece);
      piece = { visitorIds: [], mostHits: hitsAtOnce };
      hits = 0;
    }
    piece.visitorIds.push(id);
    hits += own;
  }
  return piece.visitorIds.length > 0 ? [...pieces, piece] : pieces;
}

/** How many of a browser's first hits are within its bounds. */
async function readable(db: Sequelize, businessId: string, id: string): Promise<number> {
  const rows = await db.query<{ bytes: number }>(
    `SELECT LENGTH(body) AS bytes FROM hits FORCE INDEX (by_visitor)
     WHERE business_id = ? AND visitor_id = ? ORDER BY id LIMIT ${most.hits}`,
    { replacements: [businessId, id], type: QueryTypes.SELECT },
  );
  let bytes = 0;
  const within = rows.findIndex((row) => (bytes += Number(row.bytes)) > most.bytes);
  return Math.max(1, within < 0 ? rows.length : within);
}

/** The hits of each visitor of a piece, in the order of their IDs. */
export async function readVisitorHits(
  db: Sequelize,
  businessId: string,
  { visitorIds, mostHits }: VisitorPiece,
): Promise<Map<string, RecordedHit[]>> {
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
     WHERE business_id = ? AND visitor_id IN (?) ORDER BY visitor_id, id LIMIT ?`,
    { replacements: [businessId, visitorIds, mostHits], type: QueryTypes.SELECT },
  );
  const recorded = rows.map((row) => ({
    ...{ visitorId: row.visitorId, at: row.at.getTime(), hit: row.body, browser: row.browser },
    mark: (row.bot ? 'bot' : row.ownNetwork ? 'network' : '') as Mark,
  }));
  return groupBy(recorded, (row) => row.visitorId);
}
