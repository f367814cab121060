import type { Sequelize } from 'sequelize';
import { checkTags } from '../../core/links';
import type { EffectView } from '../../core/plan/view';
import type { Plan } from '../../core/plan';
import { pick, selectRows, text, time, whole, type LinkRow, type PageCheckRow } from '../db';
import { links, pageChecks } from './table';
import { touchDays } from '../rollups/table';

/* Grouping and joining that the models cannot say. */

/** Links looked at when a rule is being changed. */
const mostLinks = 20_000;
const firstFew = 5;

/** The links that are on plan now and would no longer be. */
export async function linksOffPlan(
  db: Sequelize,
  businessId: string,
  before: Plan,
  after: Plan,
): Promise<EffectView['links']> {
  const rows = await selectRows(
    db,
    pick(links, ['url', 'tags']),
    `FROM links WHERE business_id = ? AND retired_at IS NULL ORDER BY id DESC LIMIT ${mostLinks}`,
    [businessId],
  );
  const noLongerFits = rows.filter(({ tags }) => {
    const values = Object.entries(tags);
    return checkTags(before, values).length === 0 && checkTags(after, values).length > 0;
  });
  return {
    total: rows.length,
    noLongerFits: noLongerFits.length,
    examples: noLongerFits.slice(0, firstFew).map(({ url }) => url),
  };
}

export interface Traffic {
  arrivals: number;
  firstAt: Date;
  lastAt: Date;
}

/** The five values by which a tagged visit is told to belong to a link, as deriving stores them. */
const trafficKey = (landing: string, values: string[]) => [landing, ...values.map((v) => v.toLowerCase())].join('\n');

/** Host and path of an address, as touches store their landing page. */
const placeOf = (url: string): string => {
  const { hostname, pathname } = new URL(url);
  return hostname + pathname;
};

/** The tagged visits that each link brought, told by its page and its first five tags; lower case letters count as capitals. */
export async function readLinkTraffic(
  db: Sequelize,
  businessId: string,
  rows: LinkRow[],
): Promise<Map<string, Traffic>> {
  if (rows.length === 0) return new Map();
  const places = [...new Set(rows.map(({ landing }) => placeOf(landing)))];
  const brought = await selectRows(
    db,
    {
      ...pick(touchDays, ['landing', 'source', 'medium', 'campaign', 'content', 'term']),
      arrivals: whole().of('SUM(touches)'),
      firstAt: time().of('MIN(first_at)'),
      lastAt: time().of('MAX(last_at)'),
    },
    `FROM touch_days WHERE business_id = ? AND landing IN (?) AND untagged = FALSE
     GROUP BY landing, source, medium, campaign, content, term`,
    [businessId, places],
  );
  const found = new Map(
    brought.map((row) => [
      trafficKey(row.landing, [row.source, row.medium, row.campaign, row.content, row.term]),
      { arrivals: row.arrivals, firstAt: row.firstAt, lastAt: row.lastAt },
    ]),
  );
  return new Map(
    rows.flatMap(({ id, landing, tags }) => {
      const values = ['utm_source', 'utm_medium', 'utm_campaign', 'utm_content', 'utm_term'].map(
        (tag) => tags[tag] ?? '',
      );
      const traffic = found.get(trafficKey(placeOf(landing), values));
      return traffic ? [[id, traffic] as const] : [];
    }),
  );
}

/** The newest page check of each address. */
export async function readNewestChecks(
  db: Sequelize,
  businessId: string,
  urlHashes: string[],
): Promise<Map<string, PageCheckRow>> {
  if (urlHashes.length === 0) return new Map();
  const rows = await selectRows(
    db,
    pick(pageChecks, ['businessId', 'id', 'url', 'urlHash', 'state', 'result', 'askedAt', 'checkedAt'], 'c'),
    `FROM page_checks c WHERE c.business_id = ? AND c.url_hash IN (?) AND c.id =
       (SELECT n.id FROM page_checks n WHERE n.business_id = c.business_id AND n.url_hash = c.url_hash
        ORDER BY n.asked_at DESC, n.id DESC LIMIT 1)`,
    [businessId, urlHashes],
  );
  return new Map(rows.map((row) => [row.urlHash, row]));
}

/** For each medium the source that links in the register mostly have with it. */
export async function readUsualSources(db: Sequelize, businessId: string): Promise<Record<string, string>> {
  const rows = await selectRows(
    db,
    { medium: text().of("JSON_VALUE(tags, '$.utm_medium')"), source: text().of("JSON_VALUE(tags, '$.utm_source')") },
    `FROM links
     WHERE business_id = ? AND retired_at IS NULL GROUP BY medium, source
     HAVING medium IS NOT NULL AND source IS NOT NULL ORDER BY COUNT(*)`,
    [businessId],
  );
  // The commonest comes last and stays.
  return Object.fromEntries(rows.map(({ medium, source }) => [medium, source]));
}
