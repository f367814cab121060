import type { APIRoute } from 'astro';
import { z } from 'zod';
import { AvrixError } from '@/core/errors';
import { safePath } from '@/ui/frame/safe-path';

const formSchema = z.object({
  theme: z.enum(['avrix', 'avrix-night', 'system'], 'must be avrix, avrix-night or system'),
  singleKeys: z.enum(['on', 'off']).default('off'),
  back: z.string().optional(),
});

/** Keeps how this person wants Avrix to look and which keys work. */
export const POST: APIRoute = async ({ request, locals, redirect }) => {
  const given = formSchema.safeParse(Object.fromEntries(await request.formData()));
  if (!given.success) {
    const issue = given.error.issues[0]!;
    throw new AvrixError('AVX_FIELD_WRONG', {
      field: issue.path.join('.'),
      was: issue.message,
      wants: 'Send the form again.',
    });
  }
  const { theme, singleKeys, back } = given.data;
  await locals.services.people.setPreferences(locals.person!.id, { theme, singleKeys: singleKeys === 'on' });
  return redirect(safePath(back), 303);
};
