import type { APIRoute } from 'astro';
import { z } from 'zod';
import { readAs } from '@/core/read-as';
import { safePath } from '@/ui/frame/safe-path';

const formSchema = z.object({
  theme: z.enum(['avrix', 'avrix-night', 'system'], 'must be avrix, avrix-night or system'),
  singleKeys: z.enum(['on', 'off']).default('off'),
  back: z.string().optional(),
});

/** Keeps how this person wants Avrix to look and which keys work. */
export const POST: APIRoute = async ({ request, locals, redirect }) => {
  const given = Object.fromEntries(await request.formData());
  const { theme, singleKeys, back } = readAs(formSchema, given, 'Send the form again.');
  await locals.services.people.setPreferences(locals.person!.id, { theme, singleKeys: singleKeys === 'on' });
  return redirect(safePath(back), 303);
};
