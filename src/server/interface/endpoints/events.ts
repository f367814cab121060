import { z } from 'zod';
import { pointAtSchema } from '../../../core/events/pointing';
import { eventRuleSchema } from '../../../core/events/schema';
import { tellAgainSchema, toldEventsSchema } from '../../../core/events/told';
import { makeNameSchema } from '../../events/catalogue';
import { reads, readsBy, takes, type Endpoint } from '../endpoint';

const toldColumns = {
  at: 'happened',
  event: 'event',
  account: 'account',
  by: 'told by',
  state: 'state',
  reason: 'reason',
  toldAt: 'told',
  tries: 'tries',
  sent: 'sent',
  eventId: 'event ID',
};

export const events: Endpoint[] = [
  reads('/events', ({ eventsStation }, { membership }) => eventsStation.view(membership)),
  takes('/events/effect', eventRuleSchema, ({ eventEffect }, { membership, body }) => eventEffect(membership, body)),
  reads('/events/before-release', ({ beforeRelease }, { membership }) => beforeRelease(membership)),
  readsBy('/events/told', toldEventsSchema, ({ toldEvents }, { membership, query }) =>
    toldEvents.page(membership, query),
  ),
  readsBy('/events/told.csv', toldEventsSchema, ({ toldEvents, files }, { membership, query, drained }) =>
    files.writeList('events-told', toldEvents.all(membership, query), toldColumns, drained),
  ),
  takes('/events/told/again', tellAgainSchema, ({ toldEvents }, { membership, body: { ids } }) =>
    toldEvents.again(membership, ids),
  ),
  takes('/events/point', pointAtSchema, ({ pointing }, { membership, body }) => pointing.begin(membership, body.page)),
  reads('/events/point/{pointing}', ({ pointing }, { membership, params }) =>
    pointing.view(membership, params.pointing!),
  ),
  readsBy('/events/catalogue', z.object({ account: z.string().max(80) }), ({ catalogues }, { membership, query }) =>
    catalogues.names(membership, query.account),
  ),
  takes('/events/catalogue', makeNameSchema, ({ catalogues }, { membership, body }) =>
    catalogues.make(membership, body),
  ),
];
