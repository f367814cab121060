import { z } from 'zod';
import { tagSchema } from '../plan/schema';
import { usedIn } from './uses';

/** Tags with their values; '' leaves a tag out. */
export const tagsSchema = z.record(tagSchema, z.string().max(400, 'must have at most 400 characters'));

const words = (max: number) => z.string().trim().max(max, `must have at most ${max} characters`);

/** Links as they are put into the register. */
export const newLinkSchema = z.strictObject({
  landing: z.string().trim().min(1, 'must name the page that people land on').max(4000),
  tags: tagsSchema,
  usedIn: z.enum(usedIn, `must be ${usedIn.join(', ')}`).default('other'),
  /** Where exactly, in words: "letter of 14 Jan, top". */
  place: words(120).default(''),
  owner: words(80).default(''),
});
export type NewLink = z.infer<typeof newLinkSchema>;

export const newLinksSchema = z.strictObject({
  links: z.array(newLinkSchema).min(1).max(5000, 'must be at most 5,000 at a time'),
});

/** A saved combination of tags that makes links; several values of a tag make a link each. */
export const tagSetSchema = z.strictObject({
  /** The set that takes on these tags; without it a new one is made. */
  id: z.uuid().optional(),
  name: words(80).min(1, 'must have a name'),
  tags: z.record(tagSchema, z.array(z.string().min(1).max(400)).max(50, 'must have at most 50 values')),
  usedIn: z.enum(usedIn).default('other'),
});
export type TagSet = z.infer<typeof tagSetSchema>;

/** The columns that a platform's upload of links fix: `link`, `landing` or a tag, each with what it is called there. */
export const columnOrderSchema = z.strictObject({
  /** The order that takes on these columns; without it a new one is made. */
  replaces: z.string().optional(),
  name: words(80).min(1, 'must have a name'),
  columns: z
    .array(z.string().trim().min(1).max(120))
    .min(1, 'must have at least one column')
    .max(60, 'must have at most 60 columns'),
});
export type ColumnOrder = z.infer<typeof columnOrderSchema>;

/** The grid as a file. */
export const writeLinksSchema = z.strictObject({
  format: z.enum(['csv', 'xlsx'], 'must be csv or xlsx'),
  columns: columnOrderSchema.shape.columns,
  rows: z
    .array(z.strictObject({ landing: z.string().max(4000), tags: tagsSchema }))
    .min(1)
    .max(5000, 'must be at most 5,000 at a time'),
});
