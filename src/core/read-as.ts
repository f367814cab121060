import type { z } from 'zod';
import { AvrixError, fieldsWrong, type WrongField } from './errors';

/**
 * Reads what was sent as a schema has it.
 *
 * @param fix what would be right, for fields whose own sentence does not say it
 * @throws AVX_FIELD_WRONG naming every field that is wrong
 */
export function readAs<S extends z.ZodType>(schema: S, given: unknown, fix: string): z.output<S> {
  const parsed = schema.safeParse(given);
  if (parsed.success) return parsed.data;
  const fields = parsed.error.issues.map((issue): WrongField => {
    const unknown = issue.code === 'unrecognized_keys' ? issue.keys.join(', ') : '';
    const was = unknown ? 'is not known here' : issue.message;
    return { field: unknown || issue.path.join('.') || 'body', was, fix };
  });
  throw fieldsWrong(fields as [WrongField, ...WrongField[]]);
}

/**
 * Reads a body of JSON as a schema has it.
 * @throws AVX_BODY_NOT_JSON, AVX_FIELD_WRONG
 */
export function readBodyAs<S extends z.ZodType>(
  schema: S,
  body: string,
  fix = 'Fix it and send it again.',
): z.output<S> {
  let given: unknown;
  try {
    given = JSON.parse(body);
  } catch {
    throw new AvrixError('AVX_BODY_NOT_JSON');
  }
  return readAs(schema, given, fix);
}
