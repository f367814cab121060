import type { Crm } from '../crms/crm';

/**
 * Writes links into a campaign's field for them. What somebody else wrote there stays; of ours those that are no longer in
 * use go.
 *
 * @param ours every link ever made for the campaign, and those of them that are in use
 * @returns how many of ours stand there now; 0 where the CRM keeps no campaigns
 * @throws ServiceAway
 */
export async function writeCampaignLinks(
  { contract: { campaigns }, ask, tell }: Crm,
  id: string,
  ours: { all: string[]; used: string[] },
): Promise<number> {
  if (!campaigns) return 0;
  const { links } = await ask(campaigns.one(id));
  const own = new Set(ours.all);
  await tell(campaigns.writeLinks(id, [...links.filter((link) => !own.has(link)), ...ours.used]));
  return ours.used.length;
}
