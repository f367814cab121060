/** What a link can be used in. */
export const usedIn = ['ad', 'mail', 'post', 'print', 'website', 'other'] as const;
export type UsedIn = (typeof usedIn)[number];

/** What people call it. */
export const usedInWords: Record<UsedIn, string> = {
  ad: 'an ad',
  mail: 'a mail',
  post: 'a post',
  print: 'print',
  website: 'a website',
  other: 'somewhere else',
};
