import type { Sequelize } from 'sequelize';
import { checkNames, checkTags, queryOf, type LinkPlan } from '../../core/links';
import { meaningOf } from '../../core/plan';
import type { EffectView, SourceEffectView, TagsView } from '../../core/plan/view';
import { pick, selectRows, text, time, whole, type LinkRow, type PageCheckRow } from '../db';
import type { Cursor } from '../cursor';
import { links, pageChecks } from './table';
import { touchDays } from '../rollups/table';

/* Grouping and joining that the models cannot say. */

/** Links looked at when a rule is being changed. */
const mostLinks = 20_000;
const firstFew = 5;
const mostPlaces = 200;

/** The links in use that are looked at while a rule is being changed, the newest first. */
const readUsedLinks = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    pick(links, ['url', 'landing', 'tags', 'usedIn', 'place', 'owner']),
    `FROM links WHERE business_id = ? AND retired_at IS NULL ORDER BY id DESC LIMIT ${mostLinks}`,
    [businessId],
  );

/** The links that are on plan now and would no longer be. */
export async function linksOffPlan(
  db: Sequelize,
  businessId: string,
  before: LinkPlan,
  after: LinkPlan,
): Promise<EffectView['links']> {
  const rows = await readUsedLinks(db, businessId);
  const noLongerFits = rows.filter(({ tags, landing }) => {
    const [values, others] = [Object.entries(tags), queryOf(landing)];
    return checkTags(before, values, others).length === 0 && checkTags(after, values, others).length > 0;
  });
  return {
    total: rows.length,
    noLongerFits: noLongerFits.length,
    examples: noLongerFits.slice(0, firstFew).map(({ url }) => url),
  };
}

/** The links in use that say a tag under another name than the one that links are made with, by tag. */
export async function linksWithOldNames(
  db: Sequelize,
  businessId: string,
  plan: LinkPlan,
): Promise<TagsView['oldNames']> {
  if (Object.keys(plan.names).length === 0) return {};
  const rows = await readUsedLinks(db, businessId);
  const found: TagsView['oldNames'] = {};
  for (const { url, usedIn, place, owner } of rows)
    for (const { tag } of checkNames(plan, url)) {
      const own = (found[tag] ??= { links: 0, first: [] });
      own.links += 1;
      if (own.first.length < mostPlaces) own.first.push({ url, usedIn, place, owner });
    }
  return found;
}

/** Links in use behind a place, the newest first; those of one campaign where it is named. */
export const findLinks = (
  db: Sequelize,
  businessId: string,
  campaign: string | undefined,
  limit: number,
  after: Cursor | null,
) =>
  selectRows(
    db,
    pick(links, ['id', 'url', 'landing', 'tags', 'campaign', 'usedIn', 'place', 'owner', 'madeAt']),
    `FROM links WHERE business_id = ? AND retired_at IS NULL ${campaign === undefined ? '' : 'AND campaign = ?'}
       ${after ? 'AND (made_at, id) < (?, ?)' : ''} ORDER BY made_at DESC, id DESC LIMIT ?`,
    [businessId, ...(campaign === undefined ? [] : [campaign]), ...(after ? [after.at, after.id] : []), limit],
  );

/** The links in use that name a source, and those that do not fit what its rule says. */
export async function linksOfSource(
  db: Sequelize,
  businessId: string,
  plan: LinkPlan,
  source: string,
): Promise<SourceEffectView> {
  const rows = await readUsedLinks(db, businessId);
  const own = rows.filter(({ tags }) => meaningOf(plan, 'utm_source', tags.utm_source ?? '') === source);
  const misfits = own.flatMap(({ url, tags, landing }) => {
    const problem = checkTags(plan, Object.entries(tags), queryOf(landing)).find(
      ({ code }) => code === 'medium' || code === 'fixed',
    );
    return problem ? [{ url, words: problem.words }] : [];
  });
  return { links: own.length, misfits: misfits.length, first: misfits.slice(0, firstFew) };
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
