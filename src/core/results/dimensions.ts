import type { ReadValue } from '../strands/clicks';

/** By what figures are broken down. Days are of the business's time zone: those of a visit, an enquiry, an outcome. */
export const dimensions = [
  ...(['channel', 'source', 'medium', 'campaign', 'content', 'term'] as const),
  ...(['stage', 'platform', 'referrer', 'landing', 'day', 'week', 'month', 'quarter'] as const),
];
export type Dimension = (typeof dimensions)[number];

export const dimensionWords = (dimension: Dimension): string => words[dimension] ?? dimension;
const words: Partial<Record<Dimension, string>> = { landing: 'landing page', stage: 'funnel stage' };

const times: readonly Dimension[] = ['day', 'week', 'month', 'quarter'];
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
  /** What a campaign, as it is read, is there for; null where it is not in the register. */
  stageOf(campaign: string): string | null;
}

/*
 * A cell is a value as it is read, or one of these words. No value begins with a tab, so that none can be taken for one of
 * them.
 */
export const direct = '\tdirect';
export const notKnown = '\tnot known';
export const noValue = '';
/** The funnel stage of a campaign that nobody planned. */
export const notPlanned = '\tnot in the plan';
/** What stands for the rest where only some are shown. */
export const allOthers = '\tall others';

/** A cell of a dimension, as words where it holds no value. */
export const cellWords = (cell: string): string =>
  cell === noValue ? 'no value' : cell.startsWith('\t') ? cell.slice(1) : cell;

/** A cell as it is shown: words, or a value that arrived. */
export interface CellView {
  text: string;
  isValue: boolean;
}
export const cellView = (dimension: Dimension, cell: string): CellView => ({
  text: cellWords(cell),
  isValue: cell !== noValue && !cell.startsWith('\t') && !inWords.includes(dimension),
});
const inWords: readonly Dimension[] = ['channel', 'stage', ...times];

/** The cell that something stands in. @param day such as `2027-02-15` */
export function cellOf(dimension: Dimension, origin: Origin, day: string, reading: Reading): string {
  switch (dimension) {
    case 'day':
      return day;
    case 'week':
      return mondayOf(day);
    case 'month':
      return day.slice(0, 7);
    case 'quarter':
      return quarterOf(day);
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
    case 'stage': {
      const campaign = reading.tag('utm_campaign', origin.campaign);
      return campaign === '' ? noValue : (reading.stageOf(campaign) ?? notPlanned);
    }
    default:
      return reading.tag(`utm_${dimension}`, origin[dimension]);
  }
}

/** The quarter of a day: `2027-Q1`. */
export const quarterOf = (day: string): string => `${day.slice(0, 4)}-Q${Math.ceil(Number(day.slice(5, 7)) / 3)}`;

/** The Monday of a day's week. */
export function mondayOf(day: string): string {
  const at = new Date(`${day}T00:00:00Z`);
  at.setUTCDate(at.getUTCDate() - ((at.getUTCDay() + 6) % 7));
  return at.toISOString().slice(0, 10);
}
