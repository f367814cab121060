import type { WrittenPart } from './schema';

/** What can be written of a touch; the rest is of the enquiry itself. */
export type TouchPart = Exclude<WrittenPart, 'reading' | 'card' | 'link'>;
export const isOfTouch = (part: WrittenPart): part is TouchPart => !['reading', 'card', 'link'].includes(part);

/** How the parts are called that can be written into the CRM. */
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
  reading: 'the reading',
  card: 'what sales reads first, as one text',
  link: 'a link to the lead in Avrix',
};
