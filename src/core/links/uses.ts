/** What a link can be used in. */
export const usedIn = ['ad', 'mail', 'post', 'print', 'website', 'other'] as const;
export type UsedIn = (typeof usedIn)[number];
