import { z } from 'zod';
import { releaseContentSchema } from './schema';

export const releaseAnswerSchema = z.object({
  number: z.number().int(),
  name: z.string(),
  note: z.string(),
  madeAt: z.iso.datetime(),
});

export const wholeReleaseAnswerSchema = releaseAnswerSchema.extend({ content: releaseContentSchema });

/** A connected account; its secrets are never said. */
export const accountAnswerSchema = z.object({
  key: z.string(),
  kind: z.string(),
  name: z.string(),
  endpoint: z.string(),
  settings: z.record(z.string(), z.string()),
});
