import { z } from 'zod';

/** What somebody looks for, anywhere in a business. */
export const findSchema = z.object({
  text: z.string().trim().min(2, 'must have at least 2 characters').max(300, 'must have at most 300 characters'),
});
