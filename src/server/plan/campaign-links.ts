import { AvrixError } from '../../core/errors';
import type { CampaignLinks } from '../../core/plan/campaign-view';
import type { Context } from '../context';
import { plain, type CampaignRow } from '../db';
import type { Membership } from '../people/people';
import type { Crms } from '../crms/crm';
import { requireEditor } from '../releases/draft';
import { writeCampaignLinks } from './crm-campaigns';

const mostLinks = 1000;

/** The finished links of a campaign, handed on. */
export function makeCampaignLinks({ tables }: Context, crms: Crms) {
  /** @throws AVX_NOT_FOUND */
  async function one(businessId: string, id: string): Promise<CampaignRow> {
    const row = await tables.campaigns.findOne({ where: { businessId, id } });
    if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'campaign' });
    return row.get({ plain: true });
  }

  const linksOf = async (businessId: string, campaign: string) =>
    plain(
      await tables.links.findAll({
        attributes: ['url', 'place', 'retiredAt'],
        where: { businessId, campaign },
        order: [['madeAt', 'DESC']],
        limit: mostLinks,
      }),
    );

  return {
    /** The links in use that name a campaign, the newest first. @throws AVX_NOT_FOUND */
    async view({ business }: Membership, id: string): Promise<CampaignLinks> {
      const { name } = await one(business.id, id);
      const links = await linksOf(business.id, name);
      return { links: links.filter(({ retiredAt }) => retiredAt === null).map(({ url, place }) => ({ url, place })) };
    },

    /**
     * Writes the links that name a campaign into the CRM's field for them.
     * @throws AVX_NOT_FOUND, AVX_SERVICE_AWAY
     */
    async handOn(membership: Membership, id: string): Promise<{ written: number }> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const { name, crmId } = await one(businessId, id);
      const crm = await crms.of(businessId);
      if (!crm || !crmId) throw new AvrixError('AVX_NOT_FOUND', { what: 'campaign in a CRM' });
      const links = await linksOf(businessId, name);
      const used = links.filter(({ retiredAt }) => retiredAt === null).map(({ url }) => url);
      const all = links.map(({ url }) => url);
      const written = await writeCampaignLinks(crm, crmId, { all, used }).catch((error: Error) => {
        throw new AvrixError('AVX_SERVICE_AWAY', { why: error.message });
      });
      return { written };
    },
  };
}
