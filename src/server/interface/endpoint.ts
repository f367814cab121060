import type { z } from 'zod';
import type { Membership, SignedIn } from '../people/people';
import type { DomainServices } from '../services';
import type { Route } from '../routes';

/** Who asks, for which business, with what. */
export interface Asked<Query, Body> {
  membership: Membership;
  person: SignedIn;
  /** The parts of the path that have a name. */
  params: Record<string, string>;
  query: Query;
  body: Body;
  /** As it came, for endpoints that take a file. */
  request: Request;
  /** Resolves once what was answered so far has gone out. */
  drained: () => Promise<void>;
}

/** One thing that pages ask of a business; `run` is given what the schemas made of the query and the body. */
export interface Endpoint extends Route {
  query: z.ZodType | null;
  body: z.ZodType | null;
  /** HTTP status of an answer that says something; one that says nothing is 204. */
  status: number;
  run(services: DomainServices, asked: Asked<unknown, unknown>): unknown;
}

type Run<Query, Body> = (services: DomainServices, asked: Asked<Query, Body>) => unknown;

/** Answers a GET: a value as JSON, or a response of its own such as a file. */
export const reads = (path: string, run: Run<null, null>): Endpoint => readsBy(path, null, run as never);

/** Answers a GET whose query says what is wanted. */
export const readsBy = <Q extends z.ZodType | null>(
  path: string,
  query: Q,
  run: Run<Q extends z.ZodType ? z.output<Q> : null, null>,
): Endpoint => ({ method: 'get', path, query, body: null, status: 200, run: run as Endpoint['run'] });

/** Answers a POST without a body of JSON: it takes none, or a file. */
export const does = (path: string, run: Run<null, null>): Endpoint => takes(path, null, run as never);

/** Answers a POST that sends a file, with a query that says what it is. */
export const takesFileBy = <Q extends z.ZodType>(path: string, query: Q, run: Run<z.output<Q>, null>): Endpoint => ({
  method: 'post',
  path,
  query,
  body: null,
  status: 200,
  run: run as Endpoint['run'],
});

/**
 * Answers a POST that sends JSON.
 * @param status of an answer that says something
 */
export const takes = <B extends z.ZodType | null>(
  path: string,
  body: B,
  run: Run<null, B extends z.ZodType ? z.output<B> : null>,
  status = 200,
): Endpoint => ({ method: 'post', path, query: null, body, status, run: run as Endpoint['run'] });
