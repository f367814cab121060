/** Where in a person's way to us a campaign works. */
export const campaignStages = ['noticed', 'asking', 'buying', 'staying'] as const;
export type CampaignStage = (typeof campaignStages)[number];

export const stageWords: Record<CampaignStage, string> = {
  noticed: 'get noticed',
  asking: 'win enquiries',
  buying: 'sell',
  staying: 'keep customers',
};
