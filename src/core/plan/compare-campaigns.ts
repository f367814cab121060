import { campaignSchema, type Campaign } from './campaign';
import type { CampaignDifference, DifferenceRow } from './campaign-view';
import { quoteValue } from '../quote-value';

/** A row from outside, as it was read: every field a text, not checked yet. */
export type OutsideCampaign = Record<keyof Campaign, string>;

/** The fields of a campaign, in the order in which files have them. */
export const campaignFields = Object.keys(campaignSchema.shape) as (keyof Campaign)[];

/**
 * Holds campaigns from a CRM or a file against the register: matched by the CRM's number, else by tracking
 * name. Nothing is taken yet.
 *
 * @param all true where the list is whole, so that what is missing in it has vanished
 */
export function compareCampaigns(register: Campaign[], outside: OutsideCampaign[], all: boolean): CampaignDifference {
  const byNumber = new Map(register.filter(({ crmId }) => crmId).map((one) => [one.crmId, one]));
  const byName = new Map(register.map((one) => [one.name, one]));
  const difference: CampaignDifference = { fresh: [], changed: [], vanished: [], same: 0, refused: [] };
  const seen = new Set<Campaign>();
  const names = new Set<string>();
  for (const [index, given] of outside.entries()) {
    const row = given.crmId || given.name || `row ${index + 1}`;
    const parsed = campaignSchema.safeParse(given);
    if (!parsed.success) {
      for (const issue of parsed.error.issues)
        difference.refused.push({ row, field: issue.path.join('.'), was: issue.message, fix: 'Fix it there.' });
      continue;
    }
    const campaign = parsed.data;
    if (names.has(campaign.name)) {
      const was = `${quoteValue(campaign.name)} is there twice`;
      difference.refused.push({ row, field: 'name', was, fix: 'Give each campaign a tracking name of its own.' });
      continue;
    }
    names.add(campaign.name);
    const known = (campaign.crmId && byNumber.get(campaign.crmId)) || byName.get(campaign.name);
    const key = campaign.crmId || campaign.name;
    if (!known) {
      difference.fresh.push({ key, campaign, changes: [] });
      continue;
    }
    seen.add(known);
    const changes = changesOf(known, campaign);
    if (changes.length === 0) difference.same += 1;
    else difference.changed.push({ key, campaign, changes });
  }
  if (all)
    for (const known of register)
      if (known.crmId && !seen.has(known)) difference.vanished.push({ key: known.crmId, campaign: known, changes: [] });
  return difference;
}

const changesOf = (known: Campaign, will: Campaign): DifferenceRow['changes'] =>
  campaignFields.flatMap((field) =>
    known[field] === will[field] ? [] : [{ field, was: String(known[field]), will: String(will[field]) }],
  );
