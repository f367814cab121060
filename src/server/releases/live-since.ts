import type { Sequelize } from 'sequelize';
import { json, selectRows, time } from '../db';

/** Since when rules are live, and since when those are not any more that were (ms), by their names. */
export interface Lives {
  since: Map<string, number>;
  until: Map<string, number>;
}

/**
 * When rules of a kind came into releases, and when they left them for good.
 * @param path of their names in a release's content, such as `$.outcomes[*].code`
 */
export async function readLives(db: Sequelize, businessId: string, path: string): Promise<Lives> {
  const rows = await selectRows(
    db,
    { at: time().of('made_at'), names: json<string[]>().nullable().of('JSON_EXTRACT(content, ?)') },
    'FROM releases WHERE business_id = ? ORDER BY number',
    [path, businessId],
  );
  const [since, until] = [new Map<string, number>(), new Map<string, number>()];
  for (const { at, names } of rows) {
    const there = new Set(names ?? []);
    for (const name of there) {
      if (!since.has(name)) since.set(name, at.getTime());
      until.delete(name);
    }
    for (const name of since.keys()) if (!there.has(name) && !until.has(name)) until.set(name, at.getTime());
  }
  return { since, until };
}
