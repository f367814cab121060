import { z } from 'zod';

/** A list in an address, with commas between; what is none of the names is left out, and what comes twice. */
export const listOf = <One extends string>(is: (text: string) => text is One, most: number, usual: One[]) =>
  z
    .string()
    .transform((text) => [...new Set(text.split(',').filter(is))].slice(0, most))
    .refine((list) => list.length > 0)
    .catch(usual);
