import { z } from 'zod';
import { usedIn } from './uses';

/** What the API says of one link of the register. */
export const linkAnswerSchema = z.object({
  id: z.uuid(),
  url: z.string().describe('The finished link.'),
  landing: z.string().describe('The page without the tags.'),
  tags: z.record(z.string(), z.string()),
  campaign: z.string(),
  usedIn: z.enum(usedIn),
  place: z.string(),
  owner: z.string(),
  madeAt: z.iso.datetime(),
});

/** A link that was just made, with what is wrong with it by the plan. */
export const madeLinkAnswerSchema = z.object({
  url: z.string().describe('The finished link.'),
  known: z.boolean().describe('Whether it was in the register already.'),
  problems: z.array(
    z.object({
      tag: z.string().describe('The tag or query name, empty for the link as a whole.'),
      words: z.string(),
      repaired: z.string().nullable().describe('The value that would be right, where one is known.'),
    }),
  ),
});
