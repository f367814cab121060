import { Op } from 'sequelize';
import { AvrixError, fieldsWrong } from '../../core/errors';
import type { ColumnOrder, TagSet } from '../../core/links';
import type { MakingView } from '../../core/links/view';
import { mayChange } from '../../core/people/rights';
import { mediumOf, type Plan } from '../../core/plan';
import { counted } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { plain } from '../db';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor, type Draft } from '../releases/draft';
import type { Releases } from '../releases/releases';
import type { LinkPlanOf } from './link-plan';
import { readUsualSources } from './queries';

/** Campaigns that ended longer ago (ms) are not offered for new links. */
const lately = 60 * 86_400_000;

/** What making links needs: the plan, campaigns, sets of tags, and in which order files want their columns. */
export function makeLinkBuilder({ db, tables }: Context, releases: Releases, planOf: LinkPlanOf, draft: Draft) {
  return {
    async view({ business, role }: Membership): Promise<MakingView> {
      const { id: businessId } = business;
      const where = { businessId };
      const [plan, { content }, sets, campaigns, newest, links, orders, edited, accounts, websites, usual] =
        await Promise.all([
          planOf(businessId),
          releases.live(businessId),
          tables.tagSets.findAll({ where: { businessId, retiredAt: null }, order: [['name', 'ASC']], limit: 500 }),
          tables.campaigns.findAll({
            where: {
              businessId,
              retiredAt: null,
              endsOn: { [Op.or]: [null, { [Op.gte]: new Date(nowMs() - lately).toISOString().slice(0, 10) }] },
            },
            order: [['changedAt', 'DESC']],
            limit: 500,
          }),
          tables.links.findAll({ attributes: ['landing'], where, order: [['madeAt', 'DESC']], limit: 400 }),
          tables.links.count({ where: { businessId, retiredAt: null } }),
          tables.columnOrders.findAll({ where, order: [['name', 'ASC']], limit: 100 }),
          draft.content(businessId),
          tables.accounts.findAll({ attributes: ['kind'], where, limit: 200 }),
          tables.websites.findAll({ where, order: [['place', 'ASC']], limit: 50 }),
          readUsualSources(db, businessId),
        ]);
      const landings = [...new Set(plain(newest).map(({ landing }) => landing))].slice(0, 50);
      return {
        sentence: makingSentence(links, content.plan),
        plan,
        tagSets: plain(sets).map(({ id, name, tags, usedIn }) => ({ id, name, tags, usedIn })),
        campaigns: plain(campaigns).map(({ name, friendly, crmType }) => ({
          name,
          friendly,
          medium: mediumOf(plan, crmType),
        })),
        usual,
        carry: edited.draft.capture.carry,
        landings: landings.length > 0 ? landings : plain(websites).map(({ host }) => `https://${host}/`),
        columnOrders: plain(orders).map(({ name, columnsWanted }) => ({ name, columns: columnsWanted })),
        platforms: plain(accounts).map(({ kind }) => kind),
        mayChange: mayChange(role),
        currency: business.currency,
        timeZone: business.timeZone,
      };
    },

    /**
     * Saves in which order a platform's upload wants its columns; one that is there is changed only where it is named.
     * @throws AVX_FIELD_WRONG
     */
    async saveColumnOrder(membership: Membership, { name, columns, replaces }: ColumnOrder): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const known = await tables.columnOrders.findOne({ where: { businessId, name } });
      if (known && replaces !== name) throw nameTaken(name);
      if (known) await known.update({ columnsWanted: columns });
      else await tables.columnOrders.create({ businessId, id: newId(), name, columnsWanted: columns });
    },

    /**
     * Saves a tag set: a new one, or one that is there where its ID is given. One out of use gives its name away.
     * @throws AVX_FIELD_WRONG
     */
    async saveTagSet(membership: Membership, { id, name, tags, usedIn }: TagSet): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const known = await tables.tagSets.findOne({ where: { businessId, name } });
      const row = { name, tags, usedIn, changedAt: now(), retiredAt: null };
      const { id: knownId = null, retiredAt = null } = known?.get({ plain: true }) ?? {};
      if (known && retiredAt === null && knownId !== id) throw nameTaken(name);
      if (known) await known.update(row);
      else await tables.tagSets.create({ businessId, id: newId(), ...row });
    },

    /** @throws AVX_NOT_FOUND */
    async retireTagSet(membership: Membership, id: string): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id };
      const [changed] = await tables.tagSets.update({ retiredAt: now() }, { where });
      if (changed === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'tag set' });
    },
  };
}

const nameTaken = (name: string) =>
  fieldsWrong([
    { field: 'name', was: `“${name}” is taken`, fix: 'Choose another name, or say that it is to be replaced.' },
  ]);

function makingSentence(links: number, plan: Plan) {
  const planned = plan.tags.some(({ values, named }) => values.length > 0 || named);
  if (links === 0)
    return {
      title: 'Make the first link: paste the page it leads to.',
      under: planned
        ? 'Its tags are picked from the plan; what does not fit is named before anybody clicks it.'
        : 'Its tags are typed until the plan lists values to pick from.',
    };
  return {
    title: 'Paste a page to tag it, or any link to read it.',
    under: `${counted(links, 'link is', 'links are')} in the register; values of the plan are picked, not typed.`,
  };
}
