import type { Happening } from './happening';
import type { CountedOnceFor, OutcomeRule, PretendGiven } from './schema';
import { countedOnceFor } from './schema';
import { readAmount } from './worth';

/** What somebody pretends, as far as a kind of outcome asks for it. */
export interface PretendAsked {
  /** The value of a field, or the path of a page; missing where nothing is asked for. */
  what?: { words: string; value: string };
  /** Readings that the event takes along, each with a value that its condition wants. */
  reads: { reading: string; value: string }[];
  /** The amount that its worth is made of; '' where it needs none. */
  amount: string;
}

/** What has to be said of a pretend hit, with what would reach the outcome as far as that can be told from its rule. */
export function askedOfPretend({ reachedBy, worth }: OutcomeRule): PretendAsked {
  const amount = 'field' in worth ? worth.field : '';
  switch (reachedBy.kind) {
    case 'page':
      return { what: { words: 'the path', value: reachedBy.text }, reads: [], amount };
    case 'field':
      return { what: { words: reachedBy.name, value: reachedBy.text }, reads: [], amount };
    case 'event':
      return {
        reads: reachedBy.conditions.map(({ reading, not, text }) => ({ reading, value: not ? '' : text })),
        amount,
      };
    default:
      return { reads: [], amount };
  }
}

/** What would have happened, with a key of every kind: it is counted nowhere. @param at ms */
export function pretendHappening(
  { outcome: rule, what, reads, amount, currency }: PretendGiven,
  at: number,
): Happening {
  const keys = Object.fromEntries(countedOnceFor.map((kind) => [kind, 'pretend'])) as Record<CountedOnceFor, string>;
  const named = 'field' in rule.worth ? rule.worth.field : '';
  const money = named === '' ? null : readAmount(amount, currency);
  return {
    subject: { kind: subjectOf(rule), id: 'pretend' },
    at,
    what: happened(rule, what),
    keys,
    fields: reads,
    amounts: money ? { [named]: money } : {},
  };
}

/** What an outcome is of, by what reaches it. */
export function subjectOf({ reachedBy: { kind } }: OutcomeRule): 'enquiry' | 'order' | 'conversion' {
  if (kind === 'stage' || kind === 'field') return 'enquiry';
  return kind === 'order' || kind === 'postback' ? 'order' : 'conversion';
}

function happened({ reachedBy }: OutcomeRule, what: string): Happening['what'] {
  switch (reachedBy.kind) {
    case 'stage':
      return { kind: 'stage', stage: reachedBy.stage, before: [], by: '' };
    case 'field':
      return { kind: 'field', name: reachedBy.name, value: what };
    case 'order':
      return { kind: 'order' };
    case 'postback':
      return { ...reachedBy, payment: '', undoes: false };
    case 'event':
      return { kind: 'event', event: reachedBy.event };
    case 'page':
      return { kind: 'page', path: what };
    case 'file':
      return reachedBy;
  }
}
