import { channelOfReferrer } from '../plan/channels';
import { readTagBy, type ReleaseContent } from '../releases';
import { makeBelonging } from '../strands/narrow';
import { stageWords, type CampaignStage } from '../plan/stages';
import { noValue, type Reading } from './dimensions';

/** The channel of what came by a link on a page that the channel map does not know. */
const referral = 'Referral';

/** A campaign of the register, with what it is there for. */
export interface RegisteredStage {
  name: string;
  stage: CampaignStage;
}

/**
 * How touches are read by what is live: aliases, letter case, channel map, and the sources of platforms.
 *
 * @param register campaigns, where anything is broken down by what they are there for
 */
export function readingOf(
  content: Pick<ReleaseContent, 'plan' | 'capture'>,
  register: readonly RegisteredStage[] = [],
): Reading {
  const tag = readTagBy({ content });
  const channels = new Map(content.plan.channels.map(({ medium, channel }) => [tag('utm_medium', medium), channel]));
  const { platformOf } = makeBelonging(tag, [], content.capture.keep.clickIds);
  const stages = new Map(register.map(({ name, stage }) => [tag('utm_campaign', name), stageWords[stage]]));
  return {
    tag,
    platformOf,
    stageOf: (campaign) => stages.get(campaign) ?? null,
    channelOf({ medium, referrerHost }) {
      const means = tag('utm_medium', medium);
      // A medium that the plan has no channel for stands for itself.
      if (means !== '') return channels.get(means) ?? means;
      return referrerHost === '' ? noValue : (channelOfReferrer(content.plan, referrerHost) ?? referral);
    },
  };
}
