import { Ajv } from 'ajv';
import { z } from 'zod';
import { hitSchema } from '../../core/capture/schema';

/*
 * A hit's schema compiled, by kind. Its own check takes four times as long, which the collector pays for every hit; that
 * one still judges and names whatever does not fit here.
 */
// Lengths are counted as Zod counts them, in UTF-16 units; a UUID is told by its pattern.
const ajv = new Ajv({ unicode: false, validateFormats: false, strict: false, logger: false });
const compiled = new Map(
  hitSchema.options.map((option) => [
    option.shape.kind.value as string,
    ajv.compile(z.toJSONSchema(option, { target: 'draft-7' })),
  ]),
);

/** True where a value is a hit as its schema has it; false where its schema has to look. */
export function fitsHit(value: unknown): boolean {
  const kind = (value as { kind?: unknown } | null)?.kind;
  return compiled.get(kind as string)?.(value) === true;
}
