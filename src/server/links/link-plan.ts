import { linkPlan, type LinkPlan } from '../../core/links';
import type { Context } from '../context';
import { readCampaignNames } from '../plan/queries';
import type { Releases } from '../releases/releases';

/** What a business's links are held against: its live rules and the campaigns of its register. */
export type LinkPlanOf = (businessId: string) => Promise<LinkPlan>;

export const makeLinkPlans =
  ({ db }: Context, releases: Releases): LinkPlanOf =>
  async (businessId) => {
    const [{ content }, campaigns] = await Promise.all([releases.live(businessId), readCampaignNames(db, businessId)]);
    return linkPlan(content, campaigns);
  };
