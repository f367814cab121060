import { z } from 'zod';
import { marks } from '../../../core/capture/no-customer';
import type { Reason } from '../../../core/reasons/codes';
import {
  lineAnswerSchema,
  rangeQueryShape,
  strandAnswerSchema,
  traceAnswerSchema,
} from '../../../core/strands/answers';
import { allHops, type Hop, type TraceView, type TracedValue } from '../../../core/strands';
import { listOf, operation, pageOf, readPage, type Operation } from '../operation';

const rangeQuery = z
  .strictObject(rangeQueryShape)
  .refine((range) => range.range !== 'own' || (range.from && range.to), {
    path: ['from'],
    message: 'must be given, with `to`, where range is own',
  });

/** A trace as the API gives it: the hops, the values at each of them, and what happened. */
export function traceAnswer({ title, under, hops: made, values, events }: TraceView) {
  return {
    title,
    under,
    hops: made,
    events: events.map(({ at, text, seenBy, of }) => ({ at, text, seenBy, lead: of || null })),
    values: values.map(({ value, cells }) => ({
      value,
      at: (Object.entries(cells) as [Hop, TracedValue][]).map(([hop, cell]) => ({ hop, ...cell })),
    })),
  };
}

export const strands: Operation[] = [
  operation({
    id: 'getLine',
    method: 'get',
    path: '/line',
    summary: 'The line: how many strands of these days made each hop, and what was lost between.',
    query: rangeQuery,
    answer: lineAnswerSchema,
    async run({ strands }, { caller: { business, role }, query }) {
      const line = await strands.line(business, role, query);
      return {
        wayIn: line.way,
        firstDay: line.range.firstDay,
        lastDay: line.range.lastDay,
        sentence: line.sentence.title,
        hops: line.columns.map(({ hop, count, lost, left, waiting, unknown }) => ({
          hop,
          strands: count,
          lost,
          left,
          waiting,
          unknown,
        })),
        losses: line.losses.map(({ from, to, reason, words, kind, strands: n }) => ({
          from,
          to,
          reason: reason.code,
          words: words.text,
          kind,
          strands: n,
        })),
        enquiriesBeside: line.beside,
        noCustomers: line.noCustomers,
        countedLandings: line.counted,
      };
    },
  }),
  operation({
    id: 'listStrands',
    method: 'get',
    path: '/strands',
    summary: 'Strands first seen in these days, newest first: those that made a hop, or stopped before it.',
    query: z.strictObject({
      ...rangeQueryShape,
      ...pageOf,
      hop: z.enum(allHops).default('landed'),
      state: z.enum(['made_it', 'lost', 'left', 'waiting', 'unknown']).default('made_it'),
      reason: z
        .string()
        .regex(/^[a-z_]{0,40}$/, 'must be a reason code')
        .default(''),
      mark: z
        .enum([...marks, 'any'])
        .default('')
        .describe('Those from staff and bots instead, whatever hop they made: all (`any`), or for one reason.'),
    }),
    answer: listOf(strandAnswerSchema),
    async run({ strands }, { caller: { business, role }, query }) {
      return readPage(
        query,
        (limit, after) => strands.part(business, role, query, query, limit, after),
        ({ firstAt, id }) => ({ at: firstAt, id }),
        ({ reached, reason, company: _company, ...row }) => ({
          ...row,
          firstAt: row.firstAt.toISOString(),
          hopsMade: reached,
          reason: reason ? (JSON.parse(reason) as Reason).code : null,
        }),
      );
    },
  }),
  operation({
    id: 'getStrand',
    method: 'get',
    path: '/strands/{strand}',
    summary: 'The trace of one strand.',
    parameters: z.object({ strand: z.uuid() }),
    query: z.strictObject({ way: rangeQueryShape.way }),
    answer: traceAnswerSchema,
    async run({ traces }, { caller: { business, role }, parameters, query }) {
      return traceAnswer(await traces.ofStrand(business, role, parameters.strand, query.way));
    },
  }),
];
