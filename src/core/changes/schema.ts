import { z } from 'zod';
import { listSchema } from '../strands/schema';
import { changeKinds } from './view';

/** The change log as its address asks for it: text to find, one kind or all. */
export const changeLogSchema = listSchema.extend({ kind: z.enum(['', ...changeKinds]).catch('') });
export type ChangeLogQuery = z.infer<typeof changeLogSchema>;
