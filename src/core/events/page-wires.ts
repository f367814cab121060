import type { Cleaning, PageContract } from '../destinations/contract';
import { faceOf } from '../destinations/faces';
import type { OwnPlatform } from '../platforms/schema';
import type { WireRule } from './schema';
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
