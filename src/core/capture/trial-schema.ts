import { z } from 'zod';

/** Whose rules are tried. */
export const trialSchema = z.strictObject({ rules: z.enum(['draft', 'live']).default('draft') });
