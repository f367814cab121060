import { reasonWords } from '../reasons/words';
import type { WayIn } from '../ways-in';
import { onward, type HopRow } from './types';
import type { TraceHop } from './view';

/**
 * How a strand stands at each hop of a way in, for Trace. What was not made at one hop counts at none after it, however its
 * own row is.
 * @param reached how many hops were made without a break
 */
export const traceHops = (rows: HopRow[], way: WayIn, reached: number, forms: (form: string) => string): TraceHop[] =>
  way.hops.map((hop, at) => {
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
