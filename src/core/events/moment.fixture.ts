import { nothingKept, splitAddress, splitReferrer, type Kept } from '../capture';
import type { Moment } from './judge';
import { readValueOf, type Sources } from './readings';
import type { ReadingRule } from './schema';

/** What can be known of a moment, as data. */
export interface MomentData extends Omit<Moment, 'read' | 'meets' | 'page'> {
  referrer: string;
  source: string;
  /** Selectors that what was pressed, or came into view, meets. */
  met: string[];
}

/** A moment from its data. */
export function momentFrom(data: MomentData, readings: ReadingRule[]): Moment {
  const { referrer, source, met, ...rest } = data;
  const moment = { ...rest, page: splitAddress(rest.address), meets: (one: string) => met.includes(one) };
  const kept: Kept = { ...nothingKept(), ...(source ? { last: { source } as Kept['last'] } : {}) };
  const swaps: Sources['swaps'] = [
    { name: 'size', rows: [{ value: '12', gives: '540,00', take: '' }], otherwise: { gives: '', take: 'itself' } },
  ];
  return { ...moment, read: (id) => readValueOf(id, readings, { moment, from: splitReferrer(referrer), kept, swaps }) };
}
