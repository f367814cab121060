import type { ReadValue } from '../strands/clicks';

/** By what figures are broken down. Days are of the business's time zone: those of a visit, an enquiry, an outcome. */
export const dimensions = [
  ...(['channel', 'source', 'medium', 'campaign', 'content', 'term'] as const),
  ...(['platform', 'referrer', 'landing', 'day', 'week', 'month'] as const),
];
export type Dimension = (typeof dimensions)[number];

export const dimensionWords = (dimension: Dimension): string => (dimension === 'landing' ? 'landing page' : dimension);

const times: readonly Dimension[] = ['day', 'week', 'month'];
export const isTime = (dimension: Dimension): boolean => times.includes(dimension);

/** What a touch came with, as it arrived. */
export interface TouchValues {
  source: string;
  medium: string;
  campaign: string;
  content: string;
  term: string;
  platform: string;
  referrerHost: string;
  landing: string;
}

/** Where something came from: a touch; no touch, which is direct; or nobody knows, which is never direct. */
export type Origin = TouchValues | 'direct' | 'not known';

/** How touches are read: by the aliases, the channel map and the sources that are live. */
export interface Reading {
  tag: ReadValue;
  channelOf(touch: TouchValues): string;
  platformOf(touch: TouchValues): string;
}

/*
 * A cell is a value as it is read, or one of these words. No value begins with a tab, so that none can be taken for one of
 * them.
 */
export const direct = '\tdirect';
export const notKnown = '\tnot known';
export const noValue = '';
/** What stands for the rest where only some are shown. */
export const allOthers = '\tall others';

/** A cell of a dimension, as words where it holds no value. */
export const cellWords = (cell: string): string =>
  cell === noValue ? 'no value' : cell.startsWith('\t') ? cell.slice(1) : cell;

/** The cell that something stands in. @param day such as `2027-02-15` */
export function cellOf(dimension: Dimension, origin: Origin, day: string, reading: Reading): string {
  switch (dimension) {
    case 'day':
      return day;
    case 'week':
      return mondayOf(day);
    case 'month':
      return day.slice(0, 7);
  }
  if (origin === 'direct') return direct;
  if (origin === 'not known') return notKnown;
  switch (dimension) {
    case 'channel':
      return reading.channelOf(origin);
    case 'platform':
      return reading.platformOf(origin);
    case 'referrer':
      return origin.referrerHost;
    case 'landing':
      return origin.landing;
    default:
      return reading.tag(`utm_${dimension}`, origin[dimension]);
  }
}

/** The Monday of a day's week. */
export function mondayOf(day: string): string {
  const at = new Date(`${day}T00:00:00Z`);
  at.setUTCDate(at.getUTCDate() - ((at.getUTCDay() + 6) % 7));
  return at.toISOString().slice(0, 10);
}
