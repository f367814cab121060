import { reasonWords } from '../reasons/words';
import type { WayIn } from '../ways-in';
import { followStrand } from './follow';
import { isAlone, onward, type HopRow, type Strand } from './types';
import type { TraceHop } from './view';

/**
 * How a strand stands at each hop of a way in, for Trace. What was not made at one hop counts at none after it, however its
 * own row is; of an enquiry or order alone nothing is known of what was before it.
 * @param rows those that speak for it
 */
export function traceHops(
  strand: Pick<Strand, 'kind'>,
  rows: HopRow[],
  way: WayIn,
  forms: (form: string) => string,
): TraceHop[] {
  const reached = isAlone(strand) ? way.hops.length : followStrand(rows, way).reached;
  return way.hops.map((hop, at) => {
    const row = rows.find((r) => r.hop === hop) ?? (hop === way.own ? rows.find((r) => r.hop === onward) : undefined);
    const cutOff = at > reached && row?.state === 'made_it';
    return {
      hop,
      state: row ? (cutOff ? 'waiting' : row.state) : 'none',
      at: row?.at ? new Date(row.at).toISOString() : null,
      why: row?.reason ? reasonWords(row.reason, forms, way).text : '',
      evidence: row?.evidence ?? 'none',
    };
  });
}
