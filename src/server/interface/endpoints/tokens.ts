import { newTokenSchema } from '../../../core/people/schema';
import { does, reads, takes, type Endpoint } from '../endpoint';

export const tokens: Endpoint[] = [
  reads('/tokens', ({ tokens: book }, { membership }) => book.view(membership)),
  // The token itself is said this once.
  takes(
    '/tokens',
    newTokenSchema,
    async ({ tokens: book }, { membership, body }) => ({ token: await book.make(membership, body) }),
    201,
  ),
  does('/tokens/{token}/revoke', ({ tokens: book }, { membership, params }) => book.revoke(membership, params.token!)),
];
