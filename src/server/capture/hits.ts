/* eslint-disable no-await-in-loop -- hits are read in pieces, so that memory holds one */
import type { Sequelize } from 'sequelize';
import { pick, selectRows, whole } from '../db';
import type { Mark, RecordedHit } from '../../core/strands';
import { groupBy } from '../group-by';
import { hits } from './table';

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
  const counted = await selectRows(
    db,
    { ...pick(hits, ['visitorId']), n: whole().of('COUNT(*)') },
    'FROM hits FORCE INDEX (by_visitor) WHERE business_id = ? AND visitor_id IN (?) GROUP BY visitor_id',
    [businessId, visitorIds],
  );
  const hitsOf = new Map(counted.map(({ visitorId, n }) => [visitorId, n]));
  const many = visitorIds.filter((id) => (hitsOf.get(id) ?? 0) > manyHits);
  const pieces: VisitorPiece[] = [];
  for (const id of many) pieces.push({ visitorIds: [id], mostHits: await readable(db, businessId, id) });
  let piece: VisitorPiece = { visitorIds: [], mostHits: hitsAtOnce };
  let read = 0;
  for (const id of visitorIds.filter((one) => !many.includes(one))) {
    const own = hitsOf.get(id) ?? 0;
    if (read + own > hitsAtOnce) {
      pieces.push(piece);
      piece = { visitorIds: [], mostHits: hitsAtOnce };
      read = 0;
    }
    piece.visitorIds.push(id);
    read += own;
  }
  return piece.visitorIds.length > 0 ? [...pieces, piece] : pieces;
}

/** How many of a browser's first hits are within its bounds. */
async function readable(db: Sequelize, businessId: string, id: string): Promise<number> {
  const rows = await selectRows(
    db,
    { size: whole().of('LENGTH(body)') },
    `FROM hits FORCE INDEX (by_visitor) WHERE business_id = ? AND visitor_id = ? ORDER BY id LIMIT ${most.hits}`,
    [businessId, id],
  );
  let bytes = 0;
  const within = rows.findIndex(({ size }) => (bytes += size) > most.bytes);
  return Math.max(1, within < 0 ? rows.length : within);
}

/** The hits of each visitor of a piece, in the order of their IDs. */
export async function readVisitorHits(
  db: Sequelize,
  businessId: string,
  { visitorIds, mostHits }: VisitorPiece,
): Promise<Map<string, RecordedHit[]>> {
  // Left alone the database would read all hits of the business in the order of their IDs.
  const rows = await selectRows(
    db,
    pick(hits, ['visitorId', 'at', 'bot', 'ownNetwork', 'browser', 'body']),
    `FROM hits FORCE INDEX (by_visitor)
     WHERE business_id = ? AND visitor_id IN (?) ORDER BY visitor_id, id LIMIT ?`,
    [businessId, visitorIds, mostHits],
  );
  const recorded = rows.map((row) => ({
    ...{ visitorId: row.visitorId, at: row.at.getTime(), hit: row.body, browser: row.browser },
    mark: (row.bot ? 'bot' : row.ownNetwork ? 'network' : '') as Mark,
  }));
  return groupBy(recorded, (row) => row.visitorId);
}
