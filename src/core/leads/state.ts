import type { FillReport } from '../capture/schema';
import type { Strand } from '../strands/types';
import type { EnquiryState } from './hops';

/** What the hops of an enquiry need to know of it. @param sentAt ms */
export function enquiryState(
  { id, form, fills, sentAt }: { id: string; form: string; fills: readonly FillReport[] | null; sentAt: number },
  strand: Strand,
  release: number,
): EnquiryState {
  const reading = strand.kind === 'click' ? 'click_id' : 'last_source';
  const sent = fills?.find((line) => line.reading === reading && line.value !== '');
  return { id, sentAt, strand, form, sentField: sent?.field ?? '', sentValue: sent?.value ?? '', release };
}
