import { col, fn, Op, where } from 'sequelize';
import { foundWords, type FoundRow, type FoundView } from '../../core/find/view';
import { linksOf, platformName } from '../../core/platforms/links';
import { quoteValue } from '../../core/quote-value';
import { originWords, type Release } from '../../core/releases';
import type { LatestRow } from '../../core/strands';
import type { Context } from '../context';
import { likeText, pick, plain, selectRows } from '../db';
import { readLeadFinding } from '../leads/find';
import { toListRow } from '../leads/list';
import { findEnquiries, readEnquiries } from '../leads/queries';
import { listOrders } from '../orders/latest';
import { listSubscriptions } from '../subscriptions/latest';
import type { Membership } from '../people/people';
import type { Releases } from '../releases/releases';
import { strands } from '../strands/table';

/** Rows of each kind that are shown. */
const mostOfKind = 5;
/** The newest leads of which those come first that are called so themselves, not only what they came by. */
const mostLeads = 25;

/** Finds anything of a business by what somebody pastes: an email, a telephone number, a click ID, an order, a name. */
export function makeFind({ db, tables, config }: Context, releases: Releases) {
  return async function find({ business, role }: Membership, text: string): Promise<FoundView> {
    const release = await releases.live(business.id);
    const found = await Promise.all([
      findLeads(business.id, role.seesPeople, release, text),
      findOrders(business.id, release, text),
      findSubscriptions(business.id, release, text),
      findClicks(business.id, release, text),
      findCampaigns(business.id, text),
      findShortLinks(business.id, text),
      findLinks(business.id, text),
    ]);
    const kinds = Object.keys(foundWords);
    // What is named by the text as a whole comes before what only holds it.
    const named = found.flat().find(({ isNamed }) => isNamed);
    const placeOf = (kind: FoundRow['kind']) => (named && kind === named.kind ? -1 : kinds.indexOf(kind));
    const rows = found.flat().sort((a, b) => placeOf(a.kind) - placeOf(b.kind));
    // A click that an enquiry came of is found by its lead already.
    const leads = new Set(rows.flatMap(({ kind, strand }) => (kind === 'lead' ? (strand ?? []) : [])));
    return {
      rows: rows
        .filter(({ kind, id }) => kind !== 'click' || !leads.has(id))
        .map(({ strand: _, isNamed: __, ...row }): FoundRow => row),
      timeZone: business.timeZone,
    };
  };

  /** `isNamed`: the text is its name. */
  type Row = FoundRow & { strand?: string | null; isNamed?: boolean };

  async function findLeads(businessId: string, seesPeople: boolean, release: Release, text: string): Promise<Row[]> {
    const finding = await readLeadFinding(db, businessId, release, text, config.secretKey);
    const newest = { sort: 'sentAt', descending: 'yes' } as const;
    const ids = await findEnquiries(
      db,
      businessId,
      newest,
      finding,
      seesPeople,
      { limit: mostLeads },
      { quality: 'any' },
    );
    const rows = await readEnquiries(db, businessId, ids);
    const isCalled = ({ name, company }: (typeof rows)[number]) =>
      `${name ?? ''}\n${company ?? ''}`.toLowerCase().includes(text.toLowerCase());
    const [called, others] = [rows.filter(isCalled), rows.filter((row) => !isCalled(row))];
    return [...called, ...others].slice(0, mostOfKind).map((row): Row => {
      const { id, name, company, cameFrom, sentAt, lastHop, why, state } = toListRow(row, release, seesPeople);
      return {
        kind: 'lead',
        id,
        title: name && name !== company ? `${company} · ${name}` : company,
        answer: cameFrom,
        at: sentAt,
        standing: why ? `${lastHop}, ${why}` : lastHop,
        isLost: state === 'lost',
        path: `/leads/${id}`,
        strand: row.strandId,
      };
    });
  }

  async function findOrders(businessId: string, release: Release, number: string): Promise<Row[]> {
    const rows = await listOrders(db, businessId, release, { number, limit: mostOfKind });
    return rows.map((row) => toBoughtRow('order', row));
  }

  async function findSubscriptions(businessId: string, release: Release, number: string): Promise<Row[]> {
    const rows = await listSubscriptions(db, businessId, release, { number, limit: mostOfKind });
    return rows.map((row) => toBoughtRow('subscription', row));
  }

  /** By the whole click ID, as it came: it is found among millions by its index. */
  async function findClicks(businessId: string, release: Release, clickId: string): Promise<Row[]> {
    const platforms = linksOf(release.content.platforms).map(({ kind }) => kind);
    const rows = await selectRows(
      db,
      pick(strands, ['id', 'platform', 'clickId', 'firstAt', 'source', 'medium', 'campaign']),
      `FROM strands WHERE business_id = ? AND platform IN (?) AND click_id = ? LIMIT ${mostOfKind}`,
      [businessId, platforms, clickId],
    );
    return rows.map(({ id, platform, clickId: value, firstAt, source, medium, campaign }): Row => ({
      kind: 'click',
      id,
      title: `Click ${quoteValue(value)}`,
      at: firstAt.toISOString(),
      answer: `${originWords(release, source, medium)}${campaign ? `, ${quoteValue(campaign)}` : ''}`,
      standing: `of ${platformName(platform, release.content.platforms)}`,
      isLost: false,
      path: `/strands/${id}`,
    }));
  }

  async function findCampaigns(businessId: string, text: string): Promise<Row[]> {
    const holds = (column: 'name' | 'friendly') =>
      where(fn('LOWER', col(column)), { [Op.like]: likeText(text.toLowerCase()) });
    const rows = plain(
      await tables.campaigns.findAll({
        where: { businessId, [Op.or]: [holds('name'), holds('friendly'), { crmId: text }] },
        order: [
          [fn('LENGTH', col('name')), 'ASC'],
          ['startsOn', 'DESC'],
        ],
        limit: mostOfKind,
      }),
    );
    return rows.map(({ id, name, friendly, owner, retiredAt }): Row => ({
      kind: 'campaign',
      id,
      title: friendly || quoteValue(name),
      answer: quoteValue(name),
      at: '',
      standing: retiredAt ? 'retired' : owner,
      isLost: false,
      path: `/plan/campaigns?campaign=${id}`,
      isNamed: [name, friendly].some((one) => one.toLowerCase() === text.toLowerCase()),
    }));
  }

  async function findShortLinks(businessId: string, text: string): Promise<Row[]> {
    const like = { [Op.like]: likeText(text.replace(/^\/?go\//, '')) };
    const rows = plain(
      await tables.shortLinks.findAll({
        where: { businessId, [Op.or]: [{ path: like }, { destination: like }] },
        order: [['changedAt', 'DESC']],
        limit: mostOfKind,
      }),
    );
    return rows.map(({ id, path, destination, madeAt, retiredAt }): Row => ({
      kind: 'link',
      id,
      title: `Short link ${quoteValue(path)}`,
      answer: quoteValue(destination),
      at: madeAt.toISOString(),
      standing: retiredAt ? 'retired' : '',
      isLost: false,
      path: `/links/short?path=${encodeURIComponent(path)}`,
    }));
  }

  async function findLinks(businessId: string, text: string): Promise<Row[]> {
    const like = { [Op.like]: likeText(text) };
    const rows = plain(
      await tables.links.findAll({
        where: { businessId, [Op.or]: [{ url: like }, { place: like }] },
        order: [['madeAt', 'DESC']],
        limit: mostOfKind,
      }),
    );
    return rows.map(({ id, url, place, madeAt, retiredAt }): Row => ({
      kind: 'link',
      id,
      title: quoteValue(url),
      answer: place,
      at: madeAt.toISOString(),
      standing: retiredAt ? 'retired' : '',
      isLost: false,
      path: `/links/made?${new URLSearchParams({ find: url, ...(retiredAt ? { show: 'retired' } : {}) }).toString()}`,
    }));
  }
}

const boughtWords = { order: 'Order', subscription: 'Subscription' } as const;

const toBoughtRow = (
  kind: keyof typeof boughtWords,
  { id, path, title, at, cameFrom, lastHop, why, state }: LatestRow,
): FoundRow => ({
  kind,
  id,
  title: `${boughtWords[kind]} ${quoteValue(title)}`,
  answer: cameFrom,
  at,
  standing: [lastHop, why].filter(Boolean).join(', '),
  isLost: state === 'lost',
  path: path ?? `?way=${kind}`,
});
