import { z } from 'zod';
import { readCursor, writeCursor, type Cursor } from '../cursor';
import type { Membership } from '../people/people';
import type { Route } from '../routes';
import type { DomainServices } from '../services';

/** What a caller must be allowed to do: read, or change something. */
export type Right = 'read' | 'change';

interface Shapes<P extends z.ZodObject, Q extends z.ZodObject, B extends z.ZodType, A extends z.ZodType> extends Route {
  /** Its name in the OpenAPI file. */
  id: string;
  summary: string;
  right: Right;
  parameters: P;
  query: Q;
  body: B;
  answer: A;
}

interface Asked<P extends z.ZodObject, Q extends z.ZodObject, B extends z.ZodType> {
  caller: Membership;
  parameters: z.output<P>;
  query: z.output<Q>;
  body: z.output<B>;
}

/** One thing a program can ask for, at a path below `/api/v1/businesses/{business}`. `run` is given what was parsed; what it returns is what `answer` promises. */
export interface Operation extends Shapes<z.ZodObject, z.ZodObject, z.ZodType, z.ZodType> {
  run(services: DomainServices, asked: Asked<z.ZodObject, z.ZodObject, z.ZodType>): Promise<unknown>;
}

export const nothing = z.strictObject({});
export const noBody = z.undefined();

/** Defines an operation; what it leaves out takes nothing. */
export function operation<
  A extends z.ZodType,
  P extends z.ZodObject = typeof nothing,
  Q extends z.ZodObject = typeof nothing,
  B extends z.ZodType = typeof noBody,
>({
  run,
  ...shapes
}: Omit<Shapes<P, Q, B, A>, 'parameters' | 'query' | 'body' | 'right'> & {
  right?: Right;
  parameters?: P;
  query?: Q;
  body?: B;
  run(services: DomainServices, asked: Asked<P, Q, B>): Promise<z.input<A>>;
}): Operation {
  return {
    right: 'read',
    parameters: nothing,
    query: nothing,
    body: noBody,
    ...shapes,
    run: (services, asked) => run(services, asked as unknown as Asked<P, Q, B>),
  };
}

/** What every list takes: how many rows, and where to go on. */
export const pageOf = {
  limit: z.coerce
    .number('must be a number from 1 to 200')
    .int('must be a whole number')
    .min(1, 'must be from 1 to 200')
    .max(200, 'must be from 1 to 200')
    .default(50)
    .describe('Rows in one answer.'),
  cursor: z.string().max(200).optional().describe('`next` of the answer before; without it the list begins.'),
};

export const listOf = <Row extends z.ZodType>(row: Row) =>
  z.object({
    rows: z.array(row),
    next: z.string().nullable().describe('Send it as `cursor` for the rows that follow; null at the end.'),
  });

/**
 * One part of a list, newest first. One row more than asked for is read, so that the end is known.
 *
 * @param read up to `limit` rows behind a place
 */
export async function readPage<Row, Shown>(
  { limit, cursor }: { limit: number; cursor?: string | undefined },
  read: (limit: number, after: Cursor | null) => Promise<Row[]>,
  cursorOf: (row: Row) => Cursor,
  show: (row: Row) => Shown,
): Promise<{ rows: Shown[]; next: string | null }> {
  const found = await read(limit + 1, cursor ? readCursor(cursor) : null);
  const rows = found.slice(0, limit);
  return { rows: rows.map(show), next: found.length > limit ? writeCursor(cursorOf(rows.at(-1)!)) : null };
}
