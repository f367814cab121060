/* eslint-disable no-await-in-loop -- hits are read in pieces, so that memory holds one */
import type { Sequelize } from 'sequelize';
import { pick, selectOne, selectRows, uuid, whole } from '../db';
import type { Mark, RecordedHit } from '../../core/strands';
import { groupBy } from '../../core/group-by';
import { hits } from './table';

/** A browser with more hits than this, or more bytes of them, is derived from its first ones; no person has as many. */
const most = { hits: 5000, bytes: 16 * 2 ** 20 };
/** Hits that are held in memory and worked out at a time. */
const hitsAtOnce = 2000;
/** A browser with more is looked at for its bytes too. */
const manyHits = 500;

/** The first and the last ID of a business's hits: between them lie few of the monthly partitions. */
type Between = [first: string, last: string];

/** Visitors that are derived together, and how many hits are read of them at most. */
export interface VisitorPiece {
  visitorIds: string[];
  between: Between;
  mostHits: number;
}

/** Hits of some visitors. Left alone the database would read all hits of the business in the order of their IDs. */
const ofVisitors =
  'FROM hits FORCE INDEX (by_visitor) WHERE business_id = ? AND visitor_id IN (?) AND id BETWEEN ? AND ?';

/** Divides visitors into pieces that are bounded by their hits, so that a browser with thousands holds up nobody else. */
export async function pieceVisitors(db: Sequelize, businessId: string, visitorIds: string[]): Promise<VisitorPiece[]> {
  const { first, last } = await selectOne(
    db,
    { first: uuid().nullable().of('MIN(id)'), last: uuid().nullable().of('MAX(id)') },
    'FROM hits WHERE business_id = ?',
    [businessId],
  );
  if (visitorIds.length === 0 || first === null || last === null) return [];
  const between: Between = [first, last];
  const counted = await selectRows(
    db,
    { ...pick(hits, ['visitorId']), n: whole().of('COUNT(*)') },
    `${ofVisitors} GROUP BY visitor_id`,
    [businessId, visitorIds, ...between],
  );
  const hitsOf = new Map(counted.map(({ visitorId, n }) => [visitorId, n]));
  const many = visitorIds.filter((id) => (hitsOf.get(id) ?? 0) > manyHits);
  const pieces: VisitorPiece[] = [];
  for (const id of many)
    pieces.push({ visitorIds: [id], between, mostHits: await readable(db, businessId, id, between) });
  let piece: VisitorPiece = { visitorIds: [], between, mostHits: hitsAtOnce };
  let read = 0;
  for (const id of visitorIds.filter((one) => !many.includes(one))) {
    const own = hitsOf.get(id) ?? 0;
    if (read + own > hitsAtOnce) {
      pieces.push(piece);
      piece = { visitorIds: [], between, mostHits: hitsAtOnce };
      read = 0;
    }
    piece.visitorIds.push(id);
    read += own;
  }
  return piece.visitorIds.length > 0 ? [...pieces, piece] : pieces;
}

/** How many of a browser's first hits are within its bounds. */
async function readable(db: Sequelize, businessId: string, id: string, between: Between): Promise<number> {
  const rows = await selectRows(
    db,
    { size: whole().of('LENGTH(body)') },
    `${ofVisitors} ORDER BY id LIMIT ${most.hits}`,
    [businessId, [id], ...between],
  );
  let bytes = 0;
  const within = rows.findIndex(({ size }) => (bytes += size) > most.bytes);
  return Math.max(1, within < 0 ? rows.length : within);
}

/** The hits of each visitor of a piece, in the order of their IDs. */
export async function readVisitorHits(
  db: Sequelize,
  businessId: string,
  { visitorIds, between, mostHits }: VisitorPiece,
): Promise<Map<string, RecordedHit[]>> {
  const rows = await selectRows(
    db,
    pick(hits, ['visitorId', 'at', 'bot', 'ownNetwork', 'browser', 'body']),
    `${ofVisitors} ORDER BY visitor_id, id LIMIT ?`,
    [businessId, visitorIds, ...between, mostHits],
  );
  const recorded = rows.map((row) => ({
    visitorId: row.visitorId,
    at: row.at.getTime(),
    hit: row.body,
    browser: row.browser,
    mark: (row.bot ? 'bot' : row.ownNetwork ? 'network' : '') as Mark,
  }));
  return groupBy(recorded, (row) => row.visitorId);
}
