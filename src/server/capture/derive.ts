/* eslint-disable no-await-in-loop -- visitors go in pieces, so that memory holds one */
import { setImmediate } from 'node:timers/promises';
import { visitorRules, type Release } from '../../core/releases';
import { deriveVisitor, type DerivedVisitor, type VisitorRules } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction } from '../db';
import type { Releases } from '../releases/releases';
import { pieceVisitors, readVisitorHits, type VisitorPiece } from './hits';
import { readOwnMail, readPast } from './no-customer';
import { storeVisitors } from './store-visitors';

const withPast = (rules: VisitorRules, hosts: string[]): VisitorRules => ({
  ...rules,
  noCustomerHosts: [...rules.noCustomerHosts, ...hosts],
});

/** Hits that are worked out in one go, some milliseconds. */
const hitsBetweenRests = 200;

/** Derives visitors' visits, touches, strands, hops and enquiries from all their hits, and stores them. */
export function makeDeriveVisitors(context: Context, releases: Releases) {
  const { db } = context;

  /** @returns for each visitor when to derive it again because time alone changes a state, or null */
  return async function deriveAndStore(businessId: string, visitorIds: string[]): Promise<Map<string, Date | null>> {
    const again = new Map<string, Date | null>();
    for (const piece of await pieceVisitors(db, businessId, visitorIds))
      for (const [id, at] of await derivePiece(businessId, piece)) again.set(id, at);
    return again;
  };

  async function derivePiece(businessId: string, piece: VisitorPiece): Promise<Map<string, Date | null>> {
    const { visitorIds } = piece;
    const hits = await readVisitorHits(db, businessId, piece);
    const known = new Map<number, Release>();
    for (const number of new Set([...hits.values()].flat().map(({ hit }) => hit.release)))
      known.set(number, await releases.numbered(businessId, number));
    const past = await readPast(context, businessId);
    const rules = new Map([...known].map(([number, release]) => [number, withPast(visitorRules(release), past.hosts)]));
    const rulesOf = (number: number) => rules.get(number)!;
    const ownMail = await readOwnMail(db, businessId, visitorIds, async (number) => [
      ...past.mailDomains,
      ...(await releases.numbered(businessId, number)).content.noCustomer.mailDomains,
    ]);
    const derived = new Map<string, DerivedVisitor>();
    let since = 0;
    for (const id of visitorIds) {
      const own = hits.get(id) ?? [];
      derived.set(id, deriveVisitor(businessId, id, own, rulesOf, nowMs(), ownMail.has(id) ? 'mail' : ''));
      since += own.length;
      if (since < hitsBetweenRests) continue;
      // Others are answered meanwhile.
      await setImmediate();
      since = 0;
    }
    const moments = [...hits.values()].flatMap((own) => own.map(({ at }) => at));
    await inTransaction(db, (transaction) => storeVisitors(context, businessId, derived, moments, transaction));
    return new Map([...derived].map(([id, { again }]) => [id, again === null ? null : new Date(again)]));
  }
}
