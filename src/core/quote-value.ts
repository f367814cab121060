/**
 * A value between the marks by which sentences tell values from words. A mark that stands in the value itself, as one
 * that arrived from outside may have it, is shown by a sign that looks like it.
 */
export const quoteValue = (value: string): string => `\`${value.replaceAll('`', 'ˋ')}\``;
