import type { Context } from './context';
import type { BusinessRow, WebsiteRow } from './db';

/** How long (ms) a business's row and hosts are taken as known. */
const freshFor = 2000;

export interface KnownBusiness extends BusinessRow {
  websites: WebsiteRow[];
}
export type Businesses = ReturnType<typeof makeBusinesses>;

/** Businesses by the key that stands in addresses. */
export function makeBusinesses({ tables }: Context) {
  const known = new Map<string, { business: KnownBusiness | null; asked: number }>();

  async function byKey(key: string): Promise<KnownBusiness | null> {
    const cached = known.get(key);
    if (cached && performance.now() - cached.asked < freshFor) return cached.business;
    const row = (await tables.businesses.findOne({ where: { key } }))?.get({ plain: true }) ?? null;
    const websites = row ? await tables.websites.findAll({ where: { businessId: row.id }, limit: 200 }) : [];
    const business = row && { ...row, websites: websites.map((w) => w.get({ plain: true })) };
    if (known.size > 1000) known.clear();
    known.set(key, { business, asked: performance.now() });
    return business;
  }

  return {
    byKey,
    async byId(id: string): Promise<BusinessRow | null> {
      return (await tables.businesses.findByPk(id))?.get({ plain: true }) ?? null;
    },
  };
}
