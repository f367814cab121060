import type { Context } from './context';
import type { BusinessRow, WebsiteRow } from './db';
import { makeLastKnown } from './last-known';

export interface KnownBusiness extends BusinessRow {
  websites: WebsiteRow[];
}
export type Businesses = ReturnType<typeof makeBusinesses>;

/** Businesses by the key that stands in addresses. */
export function makeBusinesses({ tables }: Context) {
  const byKey = makeLastKnown(async (key): Promise<KnownBusiness | null> => {
    const row = (await tables.businesses.findOne({ where: { key } }))?.get({ plain: true }) ?? null;
    const websites = row ? await tables.websites.findAll({ where: { businessId: row.id }, limit: 200 }) : [];
    return row && { ...row, websites: websites.map((website) => website.get({ plain: true })) };
  });
  return { byKey: byKey.get };
}
