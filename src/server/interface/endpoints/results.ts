import { z } from 'zod';
import { behindQuerySchema, figuresQuerySchema } from '../../../core/results/figures-view';
import { dayNoteGivenSchema, keptRetireSchema, savedViewGivenSchema } from '../../../core/results/kept';
import {
  costFileSchema,
  costMatchGivenSchema,
  costQuerySchema,
  feeGivenSchema,
  rateGivenSchema,
} from '../../../core/results/cost-view';
import { funnelBehindSchema, funnelQuerySchema } from '../../../core/results/funnel-view';
import { justInQuerySchema } from '../../../core/results/just-in-view';
import { threeCountsBehindSchema, threeCountsQuerySchema } from '../../../core/results/three-counts-view';
import { monthClosedSchema, monthsQuerySchema } from '../../../core/results/months-view';
import { ripenessQuerySchema } from '../../../core/results/ripeness-view';
import { visitsQuerySchema } from '../../../core/results/visits-view';
import { visitFileColumns } from '../../../core/results/visits-words';
import { eventStream } from '../../event-stream';
import { readsBy, takes, takesFileBy, type Endpoint } from '../endpoint';

const behindColumns = {
  name: 'name',
  what: 'what',
  at: 'at',
  credited: 'credited',
  whole: 'whole',
  touches: 'touches',
};
/** A table of figures, and which of them is opened. */
const openedSchema = z.unknown().transform((given) => ({
  figures: figuresQuerySchema.parse(given),
  behind: behindQuerySchema.parse(given),
}));
/** Three counts, and which of their numbers is opened. */
const bridgedSchema = z.unknown().transform((given) => ({
  counts: threeCountsQuerySchema.parse(given),
  behind: threeCountsBehindSchema.parse(given),
}));
const bridgedColumns = {
  name: 'what',
  at: 'reached',
  day: 'counted here on',
  dayThere: 'there on',
  told: 'telling',
  why: 'why',
};
/** A funnel, and which of its figures is opened. */
const journeysSchema = z.unknown().transform((given) => ({
  funnel: funnelQuerySchema.parse(given),
  behind: funnelBehindSchema.parse(given),
}));

export const results: Endpoint[] = [
  readsBy('/results/figures', figuresQuerySchema, ({ figures }, { membership, query }) =>
    figures.view(membership, query),
  ),
  readsBy('/results/figures/stream', figuresQuerySchema, ({ figures }, { membership, query }) =>
    eventStream(figures.follow(membership, query)),
  ),
  readsBy('/results/figures.csv', figuresQuerySchema, async ({ files, figures }, { membership, query }) =>
    files.writeTable('figures', 'csv', await figures.table(membership, query)),
  ),
  readsBy('/results/figures.xlsx', figuresQuerySchema, async ({ files, figures }, { membership, query }) =>
    files.writeTable('figures', 'xlsx', await figures.table(membership, query)),
  ),
  takes('/results/views', savedViewGivenSchema, ({ savedViews }, { membership, person, body }) =>
    savedViews.save(membership, person.name, body),
  ),
  takes('/results/views/retire', keptRetireSchema, ({ savedViews }, { membership, body }) =>
    savedViews.retire(membership, body.id, body.retired),
  ),
  takes('/results/notes', dayNoteGivenSchema, ({ dayNotes }, { membership, person, body }) =>
    dayNotes.add(membership, person.name, body),
  ),
  takes('/results/notes/retire', keptRetireSchema, ({ dayNotes }, { membership, body }) =>
    dayNotes.retire(membership, body.id, body.retired),
  ),
  readsBy('/results/behind', openedSchema, ({ behindFigures }, { membership, query }) =>
    behindFigures.view(membership, query.figures, query.behind),
  ),
  readsBy('/results/behind.csv', openedSchema, ({ files, behindFigures }, { membership, query, drained }) =>
    files.writeList('behind', behindFigures.all(membership, query.figures, query.behind), behindColumns, drained),
  ),
  readsBy('/results/funnel', funnelQuerySchema, ({ funnel }, { membership, query }) => funnel.view(membership, query)),
  readsBy('/results/funnel.csv', funnelQuerySchema, async ({ files, funnel }, { membership, query }) =>
    files.writeTable('funnel', 'csv', await funnel.table(membership, query)),
  ),
  readsBy('/results/funnel/behind', journeysSchema, ({ funnel }, { membership, query }) =>
    funnel.behind(membership, query.funnel, query.behind),
  ),
  readsBy('/results/funnel/behind.csv', journeysSchema, async ({ files, funnel }, { membership, query }) =>
    files.writeTable('journeys', 'csv', await funnel.journeys(membership, query.funnel, query.behind)),
  ),
  readsBy('/results/cost', costQuerySchema, ({ cost }, { membership, query }) => cost.view(membership, query)),
  readsBy('/results/cost.csv', costQuerySchema, async ({ files, cost }, { membership, query }) =>
    files.writeTable('cost', 'csv', await cost.table(membership, query)),
  ),
  takesFileBy('/results/cost/file', costFileSchema, ({ cost }, { membership, query, request }) =>
    cost.takeFile(membership, query.account, request),
  ),
  takes('/results/cost/match', costMatchGivenSchema, ({ costRules }, { membership, person, body }) =>
    costRules.match(membership, person.name, body),
  ),
  takes('/results/cost/rates', rateGivenSchema, ({ costRules }, { membership, person, body }) =>
    costRules.addRate(membership, person.name, body),
  ),
  takes('/results/cost/rates/retire', keptRetireSchema, ({ costRules }, { membership, body }) =>
    costRules.retireRate(membership, body.id, body.retired),
  ),
  takes('/results/cost/fees', feeGivenSchema, ({ costRules }, { membership, person, body }) =>
    costRules.addFee(membership, person.name, body),
  ),
  takes('/results/cost/fees/retire', keptRetireSchema, ({ costRules }, { membership, body }) =>
    costRules.retireFee(membership, body.id, body.retired),
  ),
  readsBy('/results/three-counts', threeCountsQuerySchema, ({ threeCounts }, { membership, query }) =>
    threeCounts.view(membership, query),
  ),
  readsBy('/results/three-counts.csv', threeCountsQuerySchema, async ({ files, threeCounts }, { membership, query }) =>
    files.writeTable('three-counts', 'csv', await threeCounts.table(membership, query)),
  ),
  readsBy('/results/three-counts/behind', bridgedSchema, ({ threeCounts }, { membership, query }) =>
    threeCounts.behind(membership, query.counts, query.behind),
  ),
  readsBy('/results/three-counts/behind.csv', bridgedSchema, ({ files, threeCounts }, { membership, query, drained }) =>
    files.writeList('three-counts', threeCounts.all(membership, query.counts, query.behind), bridgedColumns, drained),
  ),
  readsBy('/results/ripeness', ripenessQuerySchema, ({ ripeness }, { membership, query }) =>
    ripeness.view(membership, query),
  ),
  readsBy('/results/ripeness.csv', ripenessQuerySchema, async ({ files, ripeness }, { membership, query }) =>
    files.writeTable('ripeness', 'csv', await ripeness.table(membership, query)),
  ),
  readsBy('/results/ripeness/weeks.csv', ripenessQuerySchema, async ({ files, ripeness }, { membership, query }) =>
    files.writeTable('ripeness-weeks', 'csv', await ripeness.weeks(membership, query)),
  ),
  readsBy('/results/months', monthsQuerySchema, ({ months }, { membership, query }) => months.view(membership, query)),
  readsBy('/results/months.csv', monthsQuerySchema, async ({ files, months }, { membership, query }) =>
    files.writeTable('months', 'csv', await months.table(membership, query)),
  ),
  takes('/results/months/close', monthClosedSchema, ({ months }, { membership, person, body }) =>
    months.close(membership, person.name, body),
  ),
  readsBy('/results/visits', visitsQuerySchema, ({ visits }, { membership, query }) => visits.view(membership, query)),
  readsBy('/results/visits.csv', visitsQuerySchema, ({ files, visits }, { membership, query, drained }) =>
    files.writeList('visits', visits.all(membership, query), visitFileColumns(query.columns), drained),
  ),
  readsBy('/results/just-in', justInQuerySchema, ({ justIn }, { membership, query }) => justIn.view(membership, query)),
  readsBy('/results/just-in/stream', justInQuerySchema, ({ justIn }, { membership, query }) =>
    eventStream(justIn.follow(membership, query)),
  ),
];
