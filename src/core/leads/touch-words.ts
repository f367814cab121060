import { swapValue } from '../capture/swap';
import type { SwapTable } from '../capture/schema';
import { originWords, type Release } from '../releases';
import type { TouchPart } from './part-words';

/** One arrival with where it came from, as far as it says. */
export interface TouchValues {
  source: string;
  medium: string;
  campaign: string;
  content: string;
  term: string;
  utmId: string;
  referrer: string;
  landing: string;
  clickId: string;
}

/** A tag's value as people read it: "hill-video" as "hill video". */
const spoken = (value: string): string => value.replace(/[-_+]+/g, ' ').trim();

/**
 * What of a touch a rule writes. In words: where it came from by the channel map, the campaign by its friendly name, the ad
 * by its content, such as "Paid search on Quillsearch, Winterproof, hill video".
 *
 * @param campaignName a campaign's friendly name; '' where the register has none
 */
export function touchValue(
  rule: { part: TouchPart; swap: string },
  touch: TouchValues,
  release: Release,
  campaignName: (campaign: string) => string,
): string {
  const table = release.content.capture.swaps.find(({ name }) => name === rule.swap);
  if (rule.part !== 'words') return through(table, plainPart(rule.part, touch, release, campaignName), touch);
  const from = originWords(release, touch.source, touch.medium, touch.referrer);
  // A swap table of codes says what the ad is called.
  const ad = table ? through(table, touch.content, touch) : spoken(touch.content);
  return [from === 'not known' ? '' : from, campaignWords(touch, campaignName), ad].filter(Boolean).join(', ');
}

const through = (table: SwapTable | undefined, value: string, touch: TouchValues): string =>
  table ? swapValue(table, value, (reading) => readingOf(touch, reading)) : value;

/** Another reading of the same touch, as a row of a swap table names it. */
function readingOf(touch: TouchValues, reading: string): string {
  const part = reading.replace(/^(first|last)_/, '');
  if (part === 'referrer_host') return touch.referrer.split('/')[0] ?? '';
  if (part === 'id') return touch.utmId;
  if (part === 'click_id') return touch.clickId;
  return part in touch ? touch[part as keyof TouchValues] : '';
}
const campaignWords = ({ campaign }: TouchValues, campaignName: (campaign: string) => string): string =>
  campaign === '' ? '' : campaignName(campaign) || campaign;

function plainPart(
  part: Exclude<TouchPart, 'words'>,
  touch: TouchValues,
  release: Release,
  campaignName: (campaign: string) => string,
): string {
  switch (part) {
    case 'origin': {
      const from = originWords(release, touch.source, touch.medium, touch.referrer);
      return from === 'not known' ? '' : from;
    }
    case 'campaign_words':
      return campaignWords(touch, campaignName);
    case 'campaign_id':
      return touch.utmId;
    case 'click_id':
      return touch.clickId;
    default:
      return touch[part];
  }
}
