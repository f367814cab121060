import { QueryTypes } from 'sequelize';
import type { Hit } from '../../core/capture';
import { visitorRules, type Release } from '../../core/releases';
import { deriveVisitor, type DerivedVisitor, type RecordedHit } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction } from '../db';
import { groupBy } from '../group-by';
import type { Releases } from '../releases/releases';
import { storeVisitors } from './store-visitors';

/** A browser with more hits than this is derived from its first ones; no person has as many. */
const mostHits = 5000;

/** Derives visitors' visits, touches, strands, hops and enquiries from all their hits, and stores them. */
export function makeDeriveVisitors(context: Context, releases: Releases) {
  const { db } = context;

  /** @returns for each visitor when to derive it again because time alone changes a state, or null */
  return async function deriveAndStore(businessId: string, visitorIds: string[]): Promise<Map<string, Date | null>> {
    const hits = await readHits(businessId, visitorIds);
    const known = new Map<number, Release>();
    for (const number of new Set([...hits.values()].flat().map(({ hit }) => hit.release)))
      known.set(number, await releases.numbered(businessId, number));
    const rulesOf = (number: number) => visitorRules(known.get(number)!);
    const derived = new Map<string, DerivedVisitor>(
      visitorIds.map((id) => [id, deriveVisitor(businessId, id, hits.get(id) ?? [], rulesOf, nowMs())]),
    );
    await inTransaction(db, (transaction) => storeVisitors(context, businessId, derived, transaction));
    return new Map([...derived].map(([id, { again }]) => [id, again === null ? null : new Date(again)]));
  };

  /** The hits of each visitor. Where one of several has too many for a batch, each is read alone, up to its limit. */
  async function readHits(businessId: string, visitorIds: string[]): Promise<Map<string, RecordedHit[]>> {
    // Left alone the database would read all hits of the business in the order of their IDs.
    const rows = await db.query<{ visitorId: string; at: Date; bot: number; body: Hit }>(
      `SELECT visitor_id AS visitorId, at, bot, body FROM hits FORCE INDEX (by_visitor)
       WHERE business_id = ? AND visitor_id IN (?) ORDER BY visitor_id, id LIMIT ${mostHits}`,
      { replacements: [businessId, visitorIds], type: QueryTypes.SELECT },
    );
    if (rows.length === mostHits && visitorIds.length > 1) {
      const all = new Map<string, RecordedHit[]>();
      for (const id of visitorIds) all.set(id, (await readHits(businessId, [id])).get(id) ?? []);
      return all;
    }
    const recorded = rows.map((row) => ({
      ...{ visitorId: row.visitorId, at: row.at.getTime(), bot: Boolean(row.bot), hit: row.body },
    }));
    return groupBy(recorded, (row) => row.visitorId);
  }
}
