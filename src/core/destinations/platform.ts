import { shortEventId } from '../events/event-id';
import { readNumber } from '../events/numbers';
import { minorDigits, readAmount } from '../outcomes/worth';
import type { PlatformContract, TellingRow } from '../platforms/contract';
import type { Money } from '../outcomes/schema';
import type { DestinationContract, EventRow } from './contract';
import { platformFace } from './platform-face';

/** An event as a platform is told an outcome; null where what it is worth is no amount. */
function tellingRow({ eventId, name, happenedAt, fields, clickId }: EventRow, currency: string): TellingRow | null {
  const fieldOf = (wanted: string) => fields.find(([field]) => field === wanted)?.[1] ?? '';
  const worth = amountOf(fieldOf('worth'), fieldOf('currency') || currency);
  if (!worth) return null;
  return {
    eventId: shortEventId(eventId),
    key: { kind: 'click_id', value: clickId },
    outcome: name,
    happenedAt,
    worth,
    fields: fields.filter(([field]) => field !== 'worth' && field !== 'currency'),
  };
}

/** What a text says something is worth, nothing where it says nothing; null where it is no amount of that currency. */
function amountOf(text: string, currency: string): Money | null {
  if (text === '') return { minor: 0, currency };
  const number = readNumber(text);
  return number === null ? null : readAmount(number.toFixed(minorDigits(currency)), currency);
}

/**
 * A platform as a place that takes events. Its windows are kept by what it answers: the click's age is its own to judge.
 *
 * @param takesMore see `platformFace`
 */
export const destinationOfPlatform = (contract: PlatformContract, takesMore: boolean): DestinationContract => ({
  ...platformFace(contract, takesMore),
  authorised: contract.authorised,
  limits: {
    rowsPerCall: contract.limits.rowsPerCall,
    callsPerMinute: contract.limits.callsPerMinute,
    tellWithinHours: contract.limits.tellWithinDays * 24,
  },
  repeatsHours: contract.repeats === 'nothing' ? 0 : (contract.repeatsHours ?? null),
  ...(contract.catalogue ? { catalogue: contract.catalogue } : {}),
  problem: (row, currency) =>
    contract.clickParameter !== '' && row.clickId === ''
      ? `no click of ${contract.words} is known of the visitor`
      : tellingRow(row, currency)
        ? ''
        : 'what it is worth is no amount',
  writeBatch: (rows, currency) => contract.writeBatch(rows.map((row) => tellingRow(row, currency)!)),
  readAnswer(answer, rows) {
    const eventIdOf = new Map(rows.map(({ eventId }) => [shortEventId(eventId), eventId]));
    const told = rows.map((row) => ({ ...tellingRow(row, 'XXX')!, eventId: shortEventId(row.eventId) }));
    const said = contract.readAnswer(answer, told);
    if (said.kind !== 'rows') return said;
    return {
      kind: 'rows',
      rows: said.rows.flatMap((row) => {
        const eventId = eventIdOf.get(row.eventId);
        return eventId === undefined ? [] : [{ ...row, eventId }];
      }),
    };
  },
});
