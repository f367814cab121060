/** Where in a person's way to us a campaign works. */
export const campaignStages = ['noticed', 'asking', 'buying', 'staying'] as const;
export type CampaignStage = (typeof campaignStages)[number];

export const stageWords: Record<CampaignStage, string> = {
  noticed: 'being noticed',
  asking: 'asking',
  buying: 'buying',
  staying: 'staying',
};
