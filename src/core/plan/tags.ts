/** The six tags of the open UTM convention, in the order in which they are written. */
export const utmTags = ['utm_source', 'utm_medium', 'utm_campaign', 'utm_content', 'utm_term', 'utm_id'] as const;
