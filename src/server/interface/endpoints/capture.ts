import { z } from 'zod';
import { stoppedWork } from '../../../core/capture/faults';
import { foundArrivalsSchema } from '../../../core/capture/found-schema';
import { valueRuleSchema } from '../../../core/capture/rules-schema';
import { trialSchema } from '../../../core/capture/trial-schema';
import { changesSchema, readChanges } from '../../../core/releases/draft-schema';
import { does, reads, readsBy, takes, type Endpoint } from '../endpoint';

/** A keep rule that is being written may still lack its cookie. */
const writtenRuleSchema = valueRuleSchema.extend({ cookie: valueRuleSchema.shape.cookie.or(z.literal('')) });

const arrivalColumns = { at: 'arrived', page: 'page', campaign: 'campaign', detail: 'what', company: 'lead' };

export const capture: Endpoint[] = [
  reads('/capture/faults', ({ capture: station }, { membership }) => station.faults(membership)),
  reads('/capture/fields', ({ capture: station }, { membership }) => station.fields(membership)),
  reads('/capture/forms', ({ capture: station }, { membership }) => station.forms(membership)),
  reads('/capture/install', ({ capture: station }, { membership }) => station.install(membership)),
  reads('/capture/kept', ({ capture: station }, { membership }) => station.kept(membership)),
  reads('/capture/elsewhere', ({ elsewhere }, { membership }) => elsewhere.view(membership)),
  reads('/capture/swaps', ({ swaps }, { membership }) => swaps(membership)),
  readsBy('/capture/arrivals', foundArrivalsSchema, ({ foundArrivals }, { membership, query }) =>
    foundArrivals.page(membership, query),
  ),
  readsBy('/capture/arrivals.csv', foundArrivalsSchema, ({ files, foundArrivals }, { membership, query, drained }) => {
    const rows = foundArrivals.all(membership, { ...query, page: 1 });
    return files.writeList('arrivals', rows, arrivalColumns, drained);
  }),
  // Rules that are not live yet, tried in one's own browser.
  reads('/capture/trial', ({ trials }, { membership }) => trials.view(membership)),
  takes('/capture/trial', trialSchema, ({ trials }, { membership, body }) => trials.begin(membership, body.rules)),
  does('/capture/trial/end', ({ trials }, { membership }) => trials.end(membership)),
  // What changes of rules would have done to what is recorded; nothing is stored.
  takes('/capture/effect', changesSchema, ({ captureEffect }, { membership, body: { changes } }) =>
    captureEffect(membership, readChanges(changes)),
  ),
  takes('/capture/kept-traffic', writtenRuleSchema, ({ keptTraffic }, { membership, body }) =>
    keptTraffic(membership, body),
  ),
  // Work that failed for good is tried again.
  takes(
    '/capture/again',
    z.strictObject({ kind: z.enum(stoppedWork) }),
    async ({ stoppedWork: stopped }, { membership, body: { kind } }) => ({
      tried: await stopped.again(membership, kind),
    }),
  ),
  does('/capture/returned', ({ elsewhere }, { membership, request }) => elsewhere.readFile(membership, request)),
  reads('/capture/no-customer', ({ noCustomer }, { membership }) => noCustomer.view(membership)),
  // What applying the live list to everything ever recorded would mark; then doing so.
  reads('/capture/no-customer/past', ({ noCustomer }, { membership }) => noCustomer.preview(membership)),
  does('/capture/no-customer/past', ({ noCustomer }, { membership, person }) =>
    noCustomer.apply(membership, person.id),
  ),
];
