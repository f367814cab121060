/* eslint-disable no-await-in-loop -- rows go in batches, in one transaction */
import { Op, type Transaction, type WhereOptions } from 'sequelize';
import { AvrixError, fieldsWrong } from '../../core/errors';
import {
  checkNames,
  checkTags,
  pageFaultWords,
  partsOf,
  queryOf,
  readLanding,
  replaceInLinks,
  tagLink,
  makeRows,
  type LinkPlan,
  type MadeRow,
  type NewLink,
  type Replaced,
} from '../../core/links';
import type { LinkListQuery, LinkUseWanted, ReplaceWanted } from '../../core/links/list-schema';
import type { LinkListRow, LinkListView } from '../../core/links/view';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, inTransaction, likeText, markWork, plain, type LinkRow, type PageCheckRow } from '../db';
import { newId } from '../ids';
import { pageSize } from '../lists';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import { sha256 } from '../secrets';
import type { LinkPlanOf } from './link-plan';
import { readLinkTraffic, readNewestChecks, type Traffic } from './queries';

const mostReplaced = 20_000;

/** The register of links. */
export function makeLinks({ db, tables }: Context, planOf: LinkPlanOf) {
  /** A link of the register as it is stored. @throws AVX_FIELD_WRONG naming the row's landing page */
  function toRow(businessId: string, plan: LinkPlan, { landing, tags, ...rest }: NewLink, index: number): LinkRow {
    const read = readLanding(landing);
    if ('problem' in read) {
      const { was, fix } = read.problem;
      throw fieldsWrong([{ field: `links.${index}.landing`, was, fix }]);
    }
    const names = [...new Set([...plan.tags.map(({ tag }) => tag), ...Object.keys(tags)])];
    const url = tagLink(
      read.url,
      names.flatMap((tag) => (tags[tag] === undefined ? [] : [[tag, tags[tag]]])),
      plan.names,
    );
    const parts = partsOf(new URL(url), names, plan.names);
    return {
      businessId,
      id: newId(),
      url,
      urlHash: sha256(url),
      landing: parts.landing,
      ...rest,
      tags: Object.fromEntries(parts.tags),
      campaign: Object.fromEntries(parts.tags).utm_campaign ?? '',
      madeAt: now(),
      changedAt: now(),
      retiredAt: null,
    };
  }

  function whereOf(businessId: string, { find, show }: Pick<LinkListQuery, 'find' | 'show'>): WhereOptions<LinkRow> {
    const like = { [Op.like]: likeText(find) };
    return {
      businessId,
      retiredAt: show === 'retired' ? { [Op.not]: null } : null,
      ...(find ? { [Op.or]: [{ url: like }, { place: like }, { owner: like }] } : {}),
    } as WhereOptions<LinkRow>;
  }

  return {
    /**
     * Puts links into the register; one that is there already stays as it is. The pages of new ones are checked in the
     * background, and each week from then on.
     * @returns how many were new
     * @throws AVX_FIELD_WRONG naming the first landing page that cannot be read; nothing is stored then
     */
    async add(membership: Membership, wanted: NewLink[]): Promise<{ added: number; known: number }> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const plan = await planOf(businessId);
      const rows = wanted.map((link, index) => toRow(businessId, plan, link, index));
      const added = await inTransaction(db, async (transaction) => {
        for (let from = 0; from < rows.length; from += 2000)
          await insertRows(tables.links, rows.slice(from, from + 2000), [], transaction);
        const id = rows.map((row) => row.id);
        const fresh = plain(await tables.links.findAll({ attributes: ['id'], where: { businessId, id }, transaction }));
        await markChecks(
          businessId,
          fresh.map((row) => row.id),
          transaction,
        );
        return fresh.length;
      });
      return { added, known: wanted.length - added };
    },

    /** Makes one link and puts it into the register. @throws AVX_FIELD_WRONG */
    async make(membership: Membership, wanted: NewLink): Promise<{ made: MadeRow; added: number }> {
      const plan = await planOf(membership.business.id);
      const { added } = await this.add(membership, [wanted]);
      return { made: makeRows(plan, [wanted])[0]!, added };
    },

    /** The links of a business with what came by them and what is wrong with them. */
    async list({ business }: Membership, query: LinkListQuery, limit = pageSize): Promise<LinkListView> {
      const where = whereOf(business.id, query);
      const [found, total, all, plan] = await Promise.all([
        tables.links.findAll({
          where,
          order: [
            [
              { made_at: 'madeAt', url: 'url', campaign: 'campaign', owner: 'owner' }[query.sort],
              query.descending === 'yes' ? 'DESC' : 'ASC',
            ],
            ['id', 'DESC'],
          ],
          limit,
          offset: (query.page - 1) * pageSize,
        }),
        tables.links.count({ where }),
        tables.links.count({ where: { businessId: business.id, retiredAt: null } }),
        planOf(business.id),
      ]);
      const rows = plain(found);
      const [traffic, checks] = await Promise.all([
        readLinkTraffic(db, business.id, rows),
        readNewestChecks(
          db,
          business.id,
          rows.map(({ urlHash }) => urlHash),
        ),
      ]);
      return {
        sentence: listSentence(query, all, total),
        rows: rows.map((row) => listRow(row, plan, traffic.get(row.id), checks.get(row.urlHash))),
        total,
        pageSize,
        timeZone: business.timeZone,
      };
    },

    /** Takes links out of use, or back into it, which checks their pages; they are kept either way. */
    async retire(membership: Membership, ids: string[], retired: boolean): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const set = { retiredAt: retired ? now() : null, changedAt: now() };
      await inTransaction(db, async (transaction) => {
        await tables.links.update(set, { where: { businessId, id: ids }, transaction });
        if (!retired) await markChecks(businessId, ids, transaction);
      });
    },

    /** Says where links are used and whose they are. */
    async use(membership: Membership, { links: ids, ...use }: LinkUseWanted): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id: ids };
      await tables.links.update({ ...use, changedAt: now() }, { where });
    },

    /** What a find and replace would do; nothing is changed. */
    async previewReplace({ business }: Membership, { find, put }: ReplaceWanted): Promise<Replaced[]> {
      const rows = await tables.links.findAll({
        attributes: ['id', 'url'],
        where: {
          ...whereOf(business.id, { find: '', show: 'used' }),
          url: { [Op.like]: likeText(find) },
        } as WhereOptions<LinkRow>,
        order: [['madeAt', 'DESC']],
        limit: mostReplaced,
      });
      return replaceInLinks(plain(rows), find, put);
    },

    /**
     * Finds and replaces in all links; those whose new address would be none, or is there already, stay as they are.
     * The pages of the new addresses are checked.
     * @returns the change's ID, by which it can be undone, and how many were changed and left
     */
    async replace(
      membership: Membership,
      personId: string,
      wanted: ReplaceWanted,
    ): Promise<{ change: string; changed: number; left: number }> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const preview = await this.previewReplace(membership, wanted);
      const plan = await planOf(businessId);
      const good = preview.filter(({ wrong }) => wrong === '');
      const change = newId();
      const links = await inTransaction(db, async (transaction) => {
        const urls = new Map(good.map(({ id, after }) => [id, after]));
        const moved = await moveLinks(businessId, plan, urls, transaction);
        const done = good.flatMap(({ id, before, after }) => (moved.has(id) ? [{ id, before, after }] : []));
        await tables.linkChanges.create(
          { ...wanted, businessId, id: change, links: done, changedBy: personId, changedAt: now(), undoneAt: null },
          { transaction },
        );
        await markChecks(businessId, [...moved], transaction);
        return done;
      });
      return { change, changed: links.length, left: preview.length - links.length };
    },

    /** Takes a find and replace back, once. @throws AVX_NOT_FOUND where there is none to take back */
    async undoReplace(membership: Membership, change: string): Promise<number> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const plan = await planOf(businessId);
      return inTransaction(db, async (transaction) => {
        const found = await tables.linkChanges.findOne({
          where: { businessId, id: change, undoneAt: null },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        if (!found) throw new AvrixError('AVX_NOT_FOUND', { what: 'change to take back' });
        const { links } = found.get({ plain: true });
        const moved = await moveLinks(
          businessId,
          plan,
          new Map(links.map(({ id, before }) => [id, before])),
          transaction,
        );
        await found.update({ undoneAt: now() }, { transaction });
        return moved.size;
      });
    },
  };

  /** Has the pages of links checked, now and each week. */
  async function markChecks(businessId: string, ids: string[], transaction: Transaction): Promise<void> {
    for (let from = 0; from < ids.length; from += 2000)
      await markWork(db, 'link_check', businessId, ids.slice(from, from + 2000), now(), transaction);
  }

  /**
   * Gives links other addresses, with everything that follows from these. One whose address another link has stays.
   * @returns the links that were moved
   */
  async function moveLinks(
    businessId: string,
    plan: LinkPlan,
    urls: Map<string, string>,
    transaction: Transaction,
  ): Promise<Set<string>> {
    const hashes = new Map([...urls].map(([id, url]) => [sha256(url), id]));
    const where = { businessId, [Op.or]: [{ id: [...urls.keys()] }, { urlHash: [...hashes.keys()] }] };
    const rows = plain(await tables.links.findAll({ where, transaction, lock: transaction.LOCK.UPDATE }));
    const taken = new Set(rows.filter(({ id }) => !urls.has(id)).map(({ urlHash }) => urlHash));
    const names = plan.tags.map(({ tag }) => tag);
    const moved = rows.flatMap((row) => {
      const url = urls.get(row.id) ?? '';
      const urlHash = sha256(url);
      if (url === '' || taken.has(urlHash) || hashes.get(urlHash) !== row.id) return [];
      const parts = partsOf(new URL(url), names, plan.names);
      const tags = Object.fromEntries(parts.tags);
      const { landing } = parts;
      return [{ ...row, url, urlHash, landing, tags, campaign: tags.utm_campaign ?? '', changedAt: now() }];
    });
    for (let from = 0; from < moved.length; from += 2000)
      await insertRows(
        tables.links,
        moved.slice(from, from + 2000),
        ['url', 'urlHash', 'landing', 'tags', 'campaign', 'changedAt'],
        transaction,
      );
    return new Set(moved.map(({ id }) => id));
  }
}

function listRow(
  row: LinkRow,
  plan: LinkPlan,
  traffic: Traffic | undefined,
  check: PageCheckRow | undefined,
): LinkListRow {
  const { id, url, landing, tags, campaign, usedIn, place, owner } = row;
  return {
    id,
    url,
    landing,
    tags,
    campaign,
    usedIn,
    place,
    owner,
    madeAt: row.madeAt.toISOString(),
    retired: row.retiredAt !== null,
    arrivals: traffic?.arrivals ?? 0,
    firstAt: traffic?.firstAt.toISOString() ?? null,
    lastAt: traffic?.lastAt.toISOString() ?? null,
    problems: [...checkNames(plan, url), ...checkTags(plan, Object.entries(tags), queryOf(landing))].map(
      ({ words }) => words,
    ),
    check: check
      ? {
          state: check.state,
          at: check.checkedAt?.toISOString() ?? null,
          words: (check.result?.faults ?? []).map(pageFaultWords),
        }
      : null,
  };
}

function listSentence({ find, show }: LinkListQuery, all: number, total: number) {
  const what = show === 'retired' ? 'out of use' : 'in use';
  if (find)
    return {
      title: `${counted(total, 'link', 'links')} ${what} with “${find}”.`,
      under: `${counted(all, 'link is', 'links are')} in use in all.`,
    };
  if (show === 'retired')
    return {
      title: `${counted(total, 'link is', 'links are')} out of use.`,
      under: 'What came by them stays counted.',
    };
  if (all === 0) return { title: 'No link is made yet.', under: 'Make the first from a page and the plan.' };
  return {
    title: `${counted(all, 'link is', 'links are')} in use.`,
    under: 'Each with where it is used, whose it is, what came by it, and whether its page answers.',
  };
}
