import {
  changedRehearsalSchema,
  retiredSchema,
  savedRehearsalSchema,
  walkSchema,
} from '../../../core/rehearsal/schema';
import { does, reads, takes, type Endpoint } from '../endpoint';

export const rehearsals: Endpoint[] = [
  takes('/rehearse', walkSchema, ({ rehearsals: all }, { membership, body }) => all.walk(membership, body)),
  reads('/rehearse/offers', ({ rehearsals: all }, { membership }) => all.offers(membership)),
  reads('/rehearse/real', ({ realWalk }, { membership }) => realWalk.view(membership)),
  does('/rehearse/real', ({ realWalk }, { membership }) => realWalk.begin(membership)),
  does('/rehearse/real/end', ({ realWalk }, { membership }) => realWalk.end(membership)),
  reads('/rehearsals', ({ rehearsals: all }, { membership }) => all.list(membership)),
  takes(
    '/rehearsals',
    savedRehearsalSchema,
    ({ rehearsals: all }, { membership, person, body }) => all.save(membership, person.id, body),
    201,
  ),
  takes(
    '/rehearsals/{rehearsal}',
    changedRehearsalSchema,
    ({ rehearsals: all }, { membership, person, params, body }) =>
      all.change(membership, person.id, params.rehearsal!, body),
  ),
  takes('/rehearsals/{rehearsal}/retire', retiredSchema, ({ rehearsals: all }, { membership, person, params, body }) =>
    all.retire(membership, person.id, params.rehearsal!, body.retired),
  ),
];
