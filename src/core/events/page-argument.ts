import { writePointer } from '../capture/pointer';
import type { KeptClick } from '../capture/schema';
import { shortEventId } from './event-id';
import type { PageWire } from './page-wires';
import { valueIn, wireFields, wireName } from './wires';

/** The click that a wire is told by: the newest that the visitor brought; '' where it needs none, null where there is none. */
export function clickFor(clicksOf: string, clicks: readonly KeptClick[]): string | null {
  if (clicksOf === '') return '';
  const own = clicks.filter(({ platform }) => platform === clicksOf).sort((a, b) => b.at - a.at);
  return own[0]?.clickId ?? null;
}

/** What the function of a destination's opener is called with for an event. @param at ms */
export function pageArgument(
  { named, fields, cleaning, writes }: Pick<PageWire, 'named' | 'fields' | 'cleaning' | 'writes'>,
  event: { eventId: string; at: number; clickId: string; reads: { reading: string; value: string }[] },
): unknown {
  const valueOf = valueIn(event.reads);
  const told = new Map(wireFields(fields, valueOf));
  return writes.reduce<unknown>((argument, [at, value]) => {
    const is =
      value === 'event_id'
        ? shortEventId(event.eventId)
        : value === 'click_id'
          ? event.clickId
          : value === 'name'
            ? wireName(named, cleaning, valueOf)
            : value === 'moment'
              ? new Date(event.at).toISOString()
              : (told.get(value.replace(/^\w+ /, '')) ?? '');
    return is === '' ? argument : writePointer(argument, at, value.startsWith('number ') ? Number(is) : is);
  }, {});
}
