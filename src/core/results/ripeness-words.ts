import { partsOf, type Option, type Piece } from '../rules/says';
import { count, counted, type Sentence } from '../strands';
import { dimensionWords } from './dimensions';
import type { Verdict } from './ripeness';
import { ripeShare } from './ripeness';
import {
  ripenessDimensions,
  type LimitView,
  type Measured,
  type Ripe,
  type RipenessQuery,
  type RipenessView,
  type RipeningWeek,
} from './ripeness-view';

/* How long outcomes take, as a sentence whose parts are changed in place: How long after their click Fleet assessed comes, by source. */

export function ripenessPieces({ outcomes }: Pick<RipenessView, 'outcomes'>): Piece<RipenessQuery>[] {
  const { choice } = partsOf<RipenessQuery>();
  return [
    'How long after its click ',
    choice(
      'outcome',
      'Outcome',
      outcomes.map(({ code, words }): Option => [code, `${words} (${code})`]),
    ),
    ' comes, by ',
    choice(
      'by',
      'By what',
      ripenessDimensions.map((one): Option => [one, dimensionWords(one)]),
    ),
    '.',
  ];
}

export const ripenessAddress = ({ outcome, by }: RipenessQuery): string =>
  new URLSearchParams({ outcome, by }).toString();

/** "9 days"; none whole is within a day. */
export const withinDays = (n: number): string => (n === 0 ? 'a day' : counted(n, 'day', 'days'));

/** "Half of FLT-QUAL come within 9 days, nine in ten within 31." */
export function ripenessSentence(
  outcome: string,
  all: Pick<Measured, 'count' | 'half' | 'nine'>,
  weeks: readonly RipeningWeek[],
): Sentence {
  if (all.half === null || all.nine === null)
    return {
      title: `Too few ${outcome} have come to say how long they take.`,
      under: all.count === 0 ? 'None came from a click that is known.' : `${count(all.count)} came so far.`,
    };
  const unripe = weeks.filter(({ complete }) => complete !== null && complete < ripeShare);
  const complete = completenessOfWeeks(unripe);
  return {
    title:
      all.half === all.nine
        ? `Nine in ten ${outcome} come within ${withinDays(all.nine)}.`
        : `Half of ${outcome} come within ${withinDays(all.half)}, nine in ten within ${all.nine}.`,
    under:
      complete === null
        ? 'What clicks of the last weeks bring has come.'
        : `What clicks of the last ${unripe.length === 1 ? 'week' : `${unripe.length} weeks`} bring is about ${percent(complete)} complete.`,
  };
}

/** How complete what clicks of some weeks bring is by now, by their visits; null where that is not known. */
export function completenessOfWeeks(weeks: readonly Pick<RipeningWeek, 'visits' | 'complete'>[]): number | null {
  const known = weeks.filter(({ complete }) => complete !== null);
  const visits = known.reduce((sum, one) => sum + one.visits, 0);
  return visits === 0 ? null : known.reduce((sum, one) => sum + one.visits * one.complete!, 0) / visits;
}

/** "Half of FLT-QUAL come within 9 days of the click, nine in ten within 31. Of what these days’ clicks will bring, about 86 % has come." */
export const ripeWords = (outcome: string, { half, nine, complete }: Ripe): string =>
  `Half of ${outcome} come within ${withinDays(half)} of the click, nine in ten within ${nine}. Of what these days’ clicks will bring, about ${percent(complete)} has come.`;

export const percent = (share: number): string => `${Math.round(share * 100)} %`;

export const verdictWords: Record<Verdict, string> = {
  more: 'more than usual',
  fewer: 'fewer than usual',
  'as usual': 'as usual',
  'too early': 'too early',
};

/** "3 of 90 came later." and what to count as well. */
export function limitWords({ late, of, earlier, isStaged, days }: LimitView): { text: string; advice: string } {
  if (of === 0) return { text: 'No click is old enough yet to say.', advice: '' };
  if (late === 0) return { text: `None of ${count(of)} came later.`, advice: '' };
  return {
    text: `${count(late)} of ${count(of)} came later.`,
    advice: earlier
      ? `Count “${earlier.stage}” as well: ${earlier.count === late ? (late === 1 ? 'that one had' : `all ${count(late)} had`) : `${count(earlier.count)} of them had`} reached it within ${withinDays(days)}.`
      : isStaged
        ? 'No earlier stage came in time.'
        : '',
  };
}
