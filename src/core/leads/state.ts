import type { FillReport } from '../capture/schema';
import type { Strand } from '../strands/types';
import type { EnquiryState } from './hops';

/** What the hops of an enquiry need to know of it. @param sentAt ms */
export function enquiryState(
  {
    id,
    form,
    fills,
    sentAt,
    wayIn,
  }: Pick<EnquiryState, 'id' | 'form' | 'sentAt' | 'wayIn'> & { fills: readonly FillReport[] | null },
  strand: Strand,
  release: number,
  { sentOn = null, wasNone = '' }: Partial<Pick<EnquiryState, 'sentOn' | 'wasNone'>> = {},
): EnquiryState {
  const reading = strand.kind === 'click' ? 'click_id' : 'last_source';
  const sent = fills?.find((line) => line.reading === reading && line.value !== '');
  const [sentField, sentValue] = [sent?.field ?? '', sent?.value ?? ''];
  return { id, sentAt, strand, form, sentField, sentValue, release, wayIn, sentOn, wasNone };
}
