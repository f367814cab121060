import { z } from 'zod';

/** JSON as it stands in an address, read by a schema: what is no JSON is refused by it. */
export const jsonText = <Schema extends z.ZodType>(schema: Schema) =>
  z
    .string()
    .transform((text): unknown => {
      try {
        return JSON.parse(text);
      } catch {
        return undefined;
      }
    })
    .pipe(schema as z.ZodType<z.output<Schema>, unknown>);
