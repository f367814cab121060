import type { WrittenPart } from './schema';

/** How the parts of a touch are called that can be written into the CRM. */
export const partWords: Record<WrittenPart, string> = {
  words: 'the source, campaign and ad in words',
  origin: 'the source in words',
  campaign_words: 'the campaign in words',
  source: 'the source',
  medium: 'the medium',
  campaign: 'the campaign',
  content: 'the content',
  term: 'the term',
  campaign_id: 'the campaign ID',
  referrer: 'the referrer',
  landing: 'the landing page',
  click_id: 'the click ID',
};
