import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { asAvrixError, AvrixError, problemOf, problemType } from '../../core/errors';
import { mayChange } from '../../core/people/rights';
import { readAs } from '../../core/read-as';
import { log } from '../log';
import type { Membership } from '../people/people';
import { makeRoutes } from '../routes';
import { sha256 } from '../secrets';
import { describeApi } from './openapi';
import type { DomainServices } from '../services';
import { operations } from './operations';

/** Calls a minute that are taken from one token, in each process. */
const callsPerMinute = 600;
const bodyLimit = 1024 * 1024;
const base = '/api/v1/businesses/';
const fix = 'See /api/openapi.json.';
const route = makeRoutes(operations);

/** Answers programs: finds the operation, checks the token and the rights, reads what was sent, answers. */
export function makeApi(services: DomainServices) {
  const limiter = new RateLimiterMemory({ points: callsPerMinute, duration: 60 });

  async function callerOf(request: Request, key: string): Promise<Membership> {
    const token = /^Bearer (\S+)$/.exec(request.headers.get('authorization') ?? '')?.[1];
    if (!token) throw new AvrixError('AVX_TOKEN_WRONG');
    const business = await services.businesses.byKey(key);
    const caller = business && (await services.tokens.open(business, token));
    if (!caller) throw new AvrixError('AVX_TOKEN_WRONG');
    await limiter.consume(sha256(token)).catch((refused: unknown) => {
      if (!(refused instanceof RateLimiterRes)) throw refused;
      const seconds = Math.ceil(refused.msBeforeNext / 1000);
      throw new AvrixError('AVX_TOO_MANY', { limit: callsPerMinute, seconds });
    });
    return caller;
  }

  async function run(request: Request): Promise<unknown> {
    const url = new URL(request.url);
    const [key = '', ...rest] = url.pathname.slice(base.length).split('/');
    if (!url.pathname.startsWith(base)) throw new AvrixError('AVX_NOT_FOUND', { what: 'operation' });
    const caller = await callerOf(request, decodeURIComponent(key));
    const { route: operation, parameters } = find(request.method, `/${rest.join('/')}`);
    if (operation.right === 'change' && !mayChange(caller.role))
      throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'change something' });
    return operation.run(services, {
      caller,
      parameters: readAs(operation.parameters, parameters, fix),
      query: readAs(operation.query, Object.fromEntries(url.searchParams), fix),
      body: readAs(operation.body, operation.method === 'post' ? await readJson(request) : undefined, fix),
    });
  }

  return {
    async answer(request: Request): Promise<Response> {
      try {
        return Response.json(await run(request), { headers: { 'cache-control': 'no-store' } });
      } catch (thrown) {
        const error = asAvrixError(thrown) ?? new AvrixError('AVX_DATABASE_AWAY');
        if (error !== thrown) log.error({ error: (thrown as Error).stack }, 'API failed');
        return problem(error);
      }
    },
    describe: () => describeApi(services.config.origin, operations),
  };
}

function problem(error: AvrixError): Response {
  const headers: Record<string, string> = { 'content-type': problemType, 'cache-control': 'no-store' };
  if (error.status === 401) headers['www-authenticate'] = 'Bearer';
  if (error.code === 'AVX_TOO_MANY') headers['retry-after'] = String(error.operands.seconds);
  if (error.code === 'AVX_METHOD_WRONG') headers.allow = String(error.operands.fix);
  return Response.json(problemOf(error), { status: error.status, headers });
}

/** The operation at a path, with the parameters that stand in it. @throws AVX_NOT_FOUND, AVX_METHOD_WRONG */
function find(method: string, path: string) {
  const found = route(method, path);
  if ('route' in found) return found;
  if (found.methods.length === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'operation' });
  throw new AvrixError('AVX_METHOD_WRONG', { fix: found.methods.join(', ') });
}

/** @throws AVX_BODY_TOO_LARGE, AVX_BODY_NOT_JSON */
async function readJson(request: Request): Promise<unknown> {
  const text = await request.text();
  const bytes = Buffer.byteLength(text);
  if (bytes > bodyLimit) throw new AvrixError('AVX_BODY_TOO_LARGE', { bytes, limit: bodyLimit });
  try {
    return JSON.parse(text);
  } catch {
    throw new AvrixError('AVX_BODY_NOT_JSON');
  }
}
