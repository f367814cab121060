/** What a pretend visitor's browser does to values, or its owner says. */
export const traits = ['strips_click_ids', 'caps_cookies', 'blocks_storage', 'no_consent', 'says_no_later'] as const;
export type Trait = (typeof traits)[number];

export const traitWords: Record<Trait, string> = {
  strips_click_ids: 'takes click IDs out of addresses',
  caps_cookies: 'ends script cookies after 7 days',
  blocks_storage: 'keeps no cookies',
  no_consent: 'says no to everything',
  says_no_later: 'agrees, and says no later',
};

/** Of two that say opposite things the later one holds. */
export const excludes: Partial<Record<Trait, readonly Trait[]>> = {
  no_consent: ['says_no_later'],
  says_no_later: ['no_consent'],
  blocks_storage: ['caps_cookies'],
  caps_cookies: ['blocks_storage'],
};

/** With one more trait, or without it. */
export const toggleTrait = (has: readonly Trait[], trait: Trait): Trait[] =>
  has.includes(trait)
    ? has.filter((one) => one !== trait)
    : [...has.filter((one) => !excludes[trait]?.includes(one)), trait];
