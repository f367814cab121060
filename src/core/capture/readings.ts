import type { Reading } from './schema';

/** How readings are called. */
export const readingWords: Record<Reading, string> = {
  click_id: 'the click ID',
  first_source: 'the first source',
  first_medium: 'the first medium',
  first_campaign: 'the first campaign',
  first_content: 'the first content',
  first_term: 'the first term',
  first_id: 'the first campaign ID',
  first_referrer: 'the first referrer',
  first_landing: 'the first landing page',
  last_source: 'the source',
  last_medium: 'the medium',
  last_campaign: 'the campaign',
  last_content: 'the content',
  last_term: 'the term',
  last_id: 'the campaign ID',
  last_referrer: 'the referrer',
  last_landing: 'the landing page',
  first_referrer_host: 'the first referrer’s host',
  last_referrer_host: 'the referrer’s host',
  kept_value: 'the kept value',
};
