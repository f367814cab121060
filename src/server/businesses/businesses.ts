import type { Context } from '../context';
import type { BusinessRow, WebsiteRow } from '../db';
import { makeLastKnown } from '../last-known';

export interface KnownBusiness extends BusinessRow {
  websites: WebsiteRow[];
}
export type Businesses = ReturnType<typeof makeBusinesses>;

/** Businesses by the key that stands in addresses. */
export function makeBusinesses({ tables }: Context) {
  const byKey = makeLastKnown(async (key): Promise<KnownBusiness | null> => {
    const row = (await tables.businesses.findOne({ where: { key } }))?.get({ plain: true }) ?? null;
    const websites = row
      ? await tables.websites.findAll({ where: { businessId: row.id }, order: [['place', 'ASC']], limit: 200 })
      : [];
    return row && { ...row, websites: websites.map((website) => website.get({ plain: true })) };
  });
  /** By a first-party host of the edge, such as `t.larkmoor.example`; '' where no business has it. */
  const keyByHost = makeLastKnown(async (host): Promise<string> => {
    const registrable = host.replace(/^t\./, '');
    const website = await tables.websites.findOne({ where: { registrable } });
    const row =
      website && (await tables.businesses.findOne({ where: { id: website.get({ plain: true }).businessId } }));
    return row?.get({ plain: true }).key ?? '';
  });
  return {
    byKey: byKey.get,
    async byHost(host: string): Promise<KnownBusiness | null> {
      const key = await keyByHost.get(host);
      return key ? byKey.get(key) : null;
    },
  };
}
