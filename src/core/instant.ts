/** The instant (ms) that a value says: RFC 3339, or seconds or milliseconds since 1970; null where it says none. */
export function readInstant(text: string): number | null {
  if (/^\d{9,10}(\.\d+)?$/.test(text)) return Math.round(Number(text) * 1000);
  if (/^\d{12,13}$/.test(text)) return Number(text);
  const at = /\d{4}/.test(text) ? Date.parse(text) : Number.NaN;
  return Number.isNaN(at) ? null : at;
}

/**
 * The instant (ms) of a time with its zone or without.
 * @param localTime the instant of a time without its zone, such as "2027-02-15 17:00"; null for what is none
 */
export const readMoment = (text: string, localTime: (text: string) => number | null): number | null =>
  /[zZ]$|[+-]\d\d:?\d\d$|^\d{9,13}(\.\d+)?$/.test(text) ? readInstant(text) : localTime(text);
