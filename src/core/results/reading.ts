import { channelOfReferrer } from '../plan/channels';
import { readTagBy, type ReleaseContent } from '../releases';
import { makeBelonging } from '../strands/narrow';
import { noValue, type Reading } from './dimensions';

/** The channel of what came by a link on a page that the channel map does not know. */
const referral = 'Referral';

/** How touches are read by what is live: aliases, letter case, channel map, and the sources of platforms. */
export function readingOf(content: Pick<ReleaseContent, 'plan' | 'capture'>): Reading {
  const tag = readTagBy({ content });
  const channels = new Map(content.plan.channels.map(({ medium, channel }) => [tag('utm_medium', medium), channel]));
  const { platformOf } = makeBelonging(tag, [], content.capture.keep.clickIds);
  return {
    tag,
    platformOf,
    channelOf({ medium, referrerHost }) {
      const means = tag('utm_medium', medium);
      // A medium that the plan has no channel for stands for itself.
      if (means !== '') return channels.get(means) ?? means;
      return referrerHost === '' ? noValue : (channelOfReferrer(content.plan, referrerHost) ?? referral);
    },
  };
}
