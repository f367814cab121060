import type { DestinationFace, EventRow } from '../destinations/contract';
import { cleanValue } from '../events/clean-value';
import { nameReading } from '../events/name-reading';
import { writeAmount } from './worth';
import type { Money, OutcomeRule } from './schema';

/** Whether a kind of place counts goals: it is told of everything that happens, and under any name. */
export const takesGoals = ({ toldOf, named }: DestinationFace): boolean =>
  toldOf === 'every event' && named.cleaning !== null;

/** What a goal is called there, made of the outcome's code and nothing else, so that the two cannot differ: `goal/flt-qual`. */
export const goalName = (code: string, { named }: Pick<DestinationFace, 'named'>): string =>
  `goal${named.between}${named.cleaning ? cleanValue(code, named.cleaning) : code}`;

/** An outcome of what a place counts under a name: what is told there under that name, and nothing else, however its wire changes. */
export const outcomeNamed = (event: string, account: string, name: string): OutcomeRule => ({
  code: '',
  version: 1,
  words: '',
  kind: 'interest',
  reachedBy: {
    kind: 'event',
    event,
    conditions: [{ reading: nameReading(account), test: 'equals', not: false, text: name }],
  },
  worth: { kind: 'none' },
  countedOnceFor: 'click',
  clickDays: 90,
});

/**
 * An outcome as a place is offered it. It is known there by the outcome's ID.
 * @param worth null where it has none
 */
export function goalRow(
  outcome: { id: string; code: string; happenedAt: number; worth: Money | null },
  face: Pick<DestinationFace, 'named' | 'fieldProblem'>,
): EventRow {
  const { worth } = outcome;
  const fields: [string, string][] = worth
    ? [
        ['worth', writeAmount(worth)],
        ['currency', worth.currency],
      ]
    : [];
  return {
    eventId: outcome.id,
    name: goalName(outcome.code, face),
    happenedAt: outcome.happenedAt,
    fields: fields.filter(([name]) => face.fieldProblem(name) === ''),
    clickId: '',
  };
}
