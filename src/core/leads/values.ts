/** The values that are followed from hop to hop. */
export const followedValues = ['click_id', 'source', 'medium', 'campaign', 'content', 'first_referrer'] as const;
export type FollowedValue = (typeof followedValues)[number];

export const valueWords: Record<FollowedValue, string> = {
  click_id: 'click ID',
  source: 'source',
  medium: 'medium',
  campaign: 'campaign',
  content: 'content',
  first_referrer: 'first referrer',
};
