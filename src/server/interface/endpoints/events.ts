import { eventRuleSchema } from '../../../core/events/schema';
import { reads, takes, type Endpoint } from '../endpoint';

export const events: Endpoint[] = [
  reads('/events', ({ eventsStation }, { membership }) => eventsStation.view(membership)),
  takes('/events/effect', eventRuleSchema, ({ eventEffect }, { membership, body }) => eventEffect(membership, body)),
];
