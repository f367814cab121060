import { visitorRules, type Release } from '../../core/releases';
import { deriveVisitor, type DerivedVisitor } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction } from '../db';
import type { Releases } from '../releases/releases';
import { readVisitorHits } from './hits';
import { storeVisitors } from './store-visitors';

/** Derives visitors' visits, touches, strands, hops and enquiries from all their hits, and stores them. */
export function makeDeriveVisitors(context: Context, releases: Releases) {
  const { db } = context;

  /** @returns for each visitor when to derive it again because time alone changes a state, or null */
  return async function deriveAndStore(businessId: string, visitorIds: string[]): Promise<Map<string, Date | null>> {
    const hits = await readVisitorHits(db, businessId, visitorIds);
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
}
