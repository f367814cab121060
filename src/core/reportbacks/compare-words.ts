import { count, counted } from '../counted';
import type { Sentence } from '../strands/sentence';
import { sumsOf } from './compare';
import type { ComparedTelling, CompareView } from './compare-view';

/** Days that are compared. */
export const comparedDays = 28;

/**
 * What matters of a comparison, and what to do next.
 *
 * @param chosen null where nothing is compared
 * @param now ms
 * @param dayWords a moment (ms) in words
 */
export function compareSentence(
  chosen: ComparedTelling | null,
  by: CompareView['against'],
  { days, differing, stillTold }: Pick<CompareView, 'days' | 'differing' | 'stillTold'>,
  /** What there is to compare with. */
  has: { files: boolean; report: boolean },
  now: number,
  dayWords: (at: number) => string,
): Sentence {
  if (!chosen)
    return {
      title: 'Nothing is only worked out.',
      under:
        'Before Avrix tells a platform what another way tells it now, let its rule in Outcomes or Events say that it is only worked out. Then both are compared here.',
    };
  const { of, outcome, accountName, from, isLive } = chosen;
  const howMany = (n: number) =>
    of === 'event' ? counted(n, 'event', 'events') : counted(n, 'conversion', 'conversions');
  if (!isLive)
    return {
      title: `${accountName} is still told of ${outcome} by Avrix.`,
      under: 'That it is only worked out is not live yet. Make it live, then both ways are compared here.',
    };
  const { ours, old, same } = sumsOf(days);
  const isOver = from !== '' && Date.parse(from) <= now;
  if (!has[by === 'file' ? 'files' : 'report'])
    return {
      title: `Avrix would tell ${accountName} of ${howMany(ours)} in ${comparedDays} days.`,
      under:
        by === 'report'
          ? `${accountName} has no report of its own to compare with.`
          : `Import what the other way told ${accountName}, as a file, to compare both row by row.`,
    };
  const title = `Avrix ${isOver ? 'tells' : 'would tell'} ${count(ours)} of ${outcome}, the other way ${by === 'file' ? 'told' : 'counts'} ${count(old)}.`;
  if (stillTold > 0)
    return {
      title,
      under: `${accountName} counts ${howMany(stillTold)}${of === 'event' ? '' : ' of clicks'} since then that Avrix did not tell: is the other way still telling?`,
    };
  if (isOver) return { title, under: `Switched over on ${dayWords(Date.parse(from))}.` };
  if (ours + old === 0) return { title, under: `Nothing happened in ${comparedDays} days that either would tell.` };
  if (differing === 0)
    return { title, under: 'They agree. Set the time from which Avrix tells, and stop the other way then.' };
  return {
    title,
    under:
      by === 'file'
        ? `${counted(same, 'row agrees', 'rows agree')} in ${comparedDays} days, ${counted(differing, 'differs', 'differ')}; each says why.`
        : `They differ on ${counted(differing, 'day', 'days')}${of === 'event' ? '' : ' of the click'}, in ${comparedDays} days.`,
  };
}
