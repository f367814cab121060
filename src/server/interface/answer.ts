import { AvrixError } from '../../core/errors';
import { readAs, readBodyAs } from '../../core/read-as';
import type { Membership, SignedIn } from '../people/people';
import { makeRoutes } from '../routes';
import type { DomainServices } from '../services';
import { endpoints } from './endpoints';

const fix = 'Fix it and ask again.';
const find = makeRoutes(endpoints);

/** Answers what the interface's pages ask of a business: finds the endpoint, reads what was sent, answers. */
export function makeInterface(services: DomainServices) {
  return {
    /**
     * @param path below the business's address
     * @throws AVX_NOT_FOUND, AVX_METHOD_WRONG, AVX_FIELD_WRONG, AVX_BODY_NOT_JSON, and what the endpoint throws
     */
    async answer(
      path: string,
      asked: { request: Request; membership: Membership; person: SignedIn; drained: () => Promise<void> },
    ): Promise<Response> {
      const { request } = asked;
      const found = find(request.method, path);
      if ('methods' in found) {
        if (found.methods.length === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'endpoint' });
        throw new AvrixError('AVX_METHOD_WRONG', { fix: found.methods.join(', ') });
      }
      const { query, body, status, run } = found.route;
      const given = Object.fromEntries(new URL(request.url).searchParams);
      const answer = await run(services, {
        ...asked,
        params: found.parameters,
        query: query && readAs(query, given, fix),
        body: body && readBodyAs(body, await request.text()),
      });
      if (answer instanceof Response) return answer;
      return answer === undefined ? new Response(null, { status: 204 }) : Response.json(answer, { status });
    },
  };
}
