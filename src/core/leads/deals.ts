import type { Stages } from '../outcomes';
import type { CrmRecord } from './schema';

/** A deal of an enquiry, as the CRM had it last. */
export interface Deal {
  record: CrmRecord;
  /** When (ms) the CRM had it no more, null while it has; and the number of the deal that it was merged into, '' for none. */
  goneAt: number | null;
  mergedInto: string;
}

/**
 * The deals of an enquiry, the one first that says how far it is: one that the CRM still has before one that is gone, one
 * that goes on before one that ended, then the furthest, then the oldest.
 */
export function inOrderOfProgress<D extends Deal>(deals: readonly D[], { inOrder, ended }: Stages): D[] {
  const rank = ({ record, goneAt }: D): [gone: number, ended: number, back: number, at: number] => [
    goneAt === null ? 0 : 1,
    ended.includes(record.stage) ? 1 : 0,
    -inOrder.indexOf(record.stage),
    record.madeAt,
  ];
  return [...deals].sort((a, b) => {
    const [one, other] = [rank(a), rank(b)];
    const differs = one.findIndex((value, i) => value !== other[i]);
    return differs >= 0 ? one[differs]! - other[differs]! : a.record.deal < b.record.deal ? -1 : 1;
  });
}
