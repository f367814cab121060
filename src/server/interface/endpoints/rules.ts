import {
  changesSchema,
  dropSchema,
  historyQuerySchema,
  newReleaseSchema,
  takeBackSchema,
} from '../../../core/releases/draft-schema';
import { reads, readsBy, takes, type Endpoint } from '../endpoint';

export const rules: Endpoint[] = [
  reads('/draft', ({ notLive }, { membership }) => notLive.view(membership)),
  reads('/draft/state', ({ draft }, { membership }) => draft.state(membership)),
  takes('/draft', changesSchema, async ({ draft }, { membership, person, body: { changes } }) => {
    const found = await draft.change(membership, person.id, changes);
    return { warnings: found.map(({ was, fix }) => ({ was, fix })) };
  }),
  takes('/draft/drop', dropSchema, ({ draft }, { membership, body }) => draft.drop(membership, body.rules)),
  readsBy('/releases', historyQuerySchema, ({ releasing }, { membership, query: { before } }) =>
    releasing.history(membership, before),
  ),
  takes(
    '/releases',
    newReleaseSchema,
    async ({ releasing }, { membership, person, body }) => ({
      number: await releasing.release(membership, person.id, body),
    }),
    201,
  ),
  takes(
    '/releases/back',
    takeBackSchema,
    async ({ releasing }, { membership, person, body: { number } }) => ({
      number: await releasing.takeBack(membership, person.id, number),
    }),
    201,
  ),
];
