import type { Option } from '../rules/says';
import type { RangeView } from '../strands';

/** The days that can be chosen in a sentence. */
export const daysOptions = ({ cycleDays, release }: Pick<RangeView, 'cycleDays' | 'release'>): Option[] => [
  ['week', 'in 1 week'],
  ['weeks4', 'in 4 weeks'],
  ...(cycleDays === null
    ? []
    : [['cycle', `in one sales cycle (${cycleDays} ${cycleDays === 1 ? 'day' : 'days'})`] as const]),
  ['weeks13', 'in 13 weeks'],
  ['release', `since release ${release}`],
  ['own', 'in chosen days'],
];
