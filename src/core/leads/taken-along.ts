import { eventIdOf } from '../events/event-id';

/** An event of whoever enquired, with what it took along. `at` in ms. */
export interface EventReadings {
  eventId: string;
  name: string;
  at: number;
  readings: readonly { reading: string; value: string }[];
}

/**
 * A reading as it is written for an enquiry: as the enquiry's own event took it along, which its lead token names; else as
 * the newest event before it that had a value. What was read after it was sent belongs to another.
 *
 * @param events of the visitor who enquired, the oldest first
 * @param leadToken of the enquiry; null where it came with none
 * @param sentAt in ms
 * @returns '' where no event took it along with a value
 */
export function takenAlong(
  events: readonly EventReadings[],
  { leadToken, sentAt }: { leadToken: string | null; sentAt: number },
  reading: string,
): string {
  const valueIn = ({ readings }: EventReadings) => readings.find((one) => one.reading === reading)?.value ?? '';
  const isOwn = ({ eventId, name }: EventReadings) => leadToken !== null && eventId === eventIdOf(name, leadToken);
  const own = events.find((one) => isOwn(one) && valueIn(one) !== '');
  const before = events.findLast((one) => one.at <= sentAt && valueIn(one) !== '');
  const taken = own ?? before;
  return taken ? valueIn(taken) : '';
}
