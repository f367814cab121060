import { splitAddress, splitReferrer, nothingKept, type SwapTable } from '../capture';
import { isToldAgain } from '../capture/touch';
import type { Hit } from '../capture/schema';
import type { Moment } from './judge';
import { meetsSelector } from './press';
import { readValueOf, type Sources } from './readings';
import type { MomentKind } from './reasons';
import type { CueKind, ReadingRule } from './schema';

/** Kinds of hits that say what a cue waits for; cues without one cannot be judged by what was recorded before. */
export const recordedBy: Partial<Record<CueKind, Hit['kind']>> = {
  arrives: 'arrived',
  presses: 'pressed',
  presses_words: 'pressed',
  leaves_for: 'pressed',
  sends: 'form_sent',
  orders: 'ordered',
};

const momentKinds: Partial<Record<Hit['kind'], MomentKind>> = {
  arrived: 'arrived',
  pressed: 'pressed',
  form_sent: 'sent',
  ordered: 'ordered',
};

/**
 * What happened by a recorded hit; null where it says nothing that could set an event off. Readings that are taken from the
 * page itself are not known.
 */
export function recordedMoment(hit: Hit, readings: readonly ReadingRule[], swaps: readonly SwapTable[]): Moment | null {
  const kind = momentKinds[hit.kind];
  if (!kind) return null;
  const { address, id, visit, visitor, kept } = hit;
  const moment: Omit<Moment, 'read'> = { kind, address, page: splitAddress(address), ids: { hit: id, visit, visitor } };
  if (hit.kind === 'arrived') moment.isAgain = isToldAgain(hit.navigation);
  if (hit.kind === 'ordered') moment.order = hit.number;
  if (hit.kind === 'form_sent') Object.assign(moment, { form: hit.form, leadToken: hit.leadToken });
  if (hit.kind === 'pressed') {
    moment.press = hit.press;
    moment.meets = (selector) => meetsSelector(hit.press, selector);
  }
  // Most moments are judged by their kind and page alone.
  let sources: Sources | undefined;
  const read = (reading: string) =>
    readValueOf(
      reading,
      readings,
      (sources ??= {
        moment,
        from: splitReferrer(hit.referrer),
        kept: { ...nothingKept(), ...kept, values: kept.values ?? [] },
        swaps,
      }),
    );
  return Object.assign(moment, { read });
}
