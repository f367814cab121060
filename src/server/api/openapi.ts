import { z } from 'zod';
import { errorCodes, problemType } from '../../core/errors';
import type { Operation } from './operation';

const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string().describe('The sentence for a person: the place, what was wrong, what would be right.'),
  code: z.enum(errorCodes),
  fields: z
    .array(z.object({ field: z.string(), was: z.string(), fix: z.string() }))
    .optional()
    .describe('Every field that was wrong.'),
});

/** As JSON Schema 2020-12, which is what OpenAPI 3.1 speaks anyway and need not be told. */
function json(schema: z.ZodType, io: 'input' | 'output') {
  const described: { $schema?: string } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
  delete described.$schema;
  return described;
}

/** Each property of a schema as a parameter of the path or the query. */
function parametersIn(place: 'path' | 'query', schema: z.ZodObject) {
  const { properties = {}, required = [] } = json(schema, 'input') as {
    properties?: Record<string, { description?: string }>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, { description, ...property }]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema: property,
    ...(description ? { description } : {}),
  }));
}

const problemAnswer = (description: string) => ({
  description,
  content: { [problemType]: { schema: { $ref: '#/components/schemas/Problem' } } },
});

/** The API as an OpenAPI 3.1 document, from the same schemas that check what is sent. */
export function describeApi(origin: string, operations: Operation[]) {
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of operations) {
    const path = `/businesses/{business}${operation.path}`;
    const takesBody = operation.method === 'post';
    const described = {
      operationId: operation.id,
      summary: operation.summary,
      'x-right': operation.right,
      parameters: [
        { name: 'business', in: 'path', required: true, schema: { type: 'string' }, description: 'Its key.' },
        ...parametersIn('path', operation.parameters),
        ...parametersIn('query', operation.query),
      ],
      ...(takesBody
        ? {
            requestBody: { required: true, content: { 'application/json': { schema: json(operation.body, 'input') } } },
          }
        : {}),
      responses: {
        200: { description: 'Done.', content: { 'application/json': { schema: json(operation.answer, 'output') } } },
        400: problemAnswer('A field is wrong; each is named.'),
        401: problemAnswer('The token is missing, not of this business, revoked or over.'),
        403: problemAnswer('The token may not do this.'),
        404: problemAnswer('Nothing is there.'),
        429: problemAnswer('Too many calls; Retry-After says how long to wait.'),
      },
    };
    paths[path] = { ...paths[path], [operation.method]: described };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Avrix',
      version: '1',
      description: 'Strands, leads, outcomes and report-backs of a business, hop by hop.',
    },
    servers: [{ url: `${origin}/api/v1` }],
    security: [{ token: [] }],
    paths,
    components: {
      securitySchemes: { token: { type: 'http', scheme: 'bearer', description: 'Made on the page Tokens.' } },
      schemas: { Problem: json(problemSchema, 'output') },
    },
  };
}
