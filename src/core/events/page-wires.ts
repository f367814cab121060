import type { Cleaning, PageContract } from '../destinations/contract';
import { faceOf } from '../destinations/faces';
import type { OwnPlatform } from '../platforms/schema';
import type { HashedReading } from './mail-hash';
import type { EventRules, WireRule } from './schema';
import { tellersOf } from './wires';

/** A wire as pages tell it: with what of its destination they need to know. */
export interface PageWire extends Pick<WireRule, 'event' | 'account' | 'purpose' | 'named' | 'fields'> {
  cleaning: Cleaning | null;
  /** Whose click a visitor must have brought; '' where that does not matter. */
  clicksOf: string;
  call: string;
  writes: PageContract['writes'];
}

/** What pages need of a release's wires: those that they tell. @param own platforms that the business describes itself */
export const pageWires = (wires: readonly WireRule[], own: readonly OwnPlatform[]): PageWire[] =>
  wires
    .filter((wire) => tellersOf(wire).includes('page'))
    .flatMap(({ event, account, kind, purpose, named, fields }): PageWire[] => {
      const face = faceOf(kind, own);
      if (!face?.page) return [];
      const clicksOf = face.toldOf === 'every event' ? '' : kind;
      const { call, writes } = face.page;
      return [{ event, account, purpose, named, fields, cleaning: face.named.cleaning, clicksOf, call, writes }];
    });

/**
 * The readings that pages hash: those that wires tell destinations that take them, each with what the wires are for.
 * One that no such wire needs is not read at all.
 */
export function hashedReadings(
  { readings, wires }: Pick<EventRules, 'readings' | 'wires'>,
  own: readonly OwnPlatform[],
): HashedReading[] {
  return readings
    .filter(({ as }) => as === 'mail_hash')
    .map(({ id }) => ({
      id,
      purposes: wires
        .filter(({ kind, fields }) => fields.some((field) => field.reading === id && takesHash(kind, field.name, own)))
        .map(({ purpose }) => purpose),
    }))
    .filter(({ purposes }) => purposes.length > 0);
}

const takesHash = (kind: string, field: string, own: readonly OwnPlatform[]): boolean =>
  faceOf(kind, own)?.fields.some(({ name, isHash }) => isHash && name === field) === true;
