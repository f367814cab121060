/** A text as LIKE finds it anywhere: what would be a wildcard stands for itself. */
export const likeText = (text: string): string => `%${text.replace(/[\\%_]/g, '\\$&')}%`;
