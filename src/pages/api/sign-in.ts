import type { APIRoute } from 'astro';
import { z } from 'zod';
import { asAvrixError } from '@/core/errors';
import { passCookie, sessionCookie } from '@/middleware';
import { safePath } from '@/ui/frame/safe-path';

/** Browsers keep no cookie longer. */
const passDays = 400;

const formSchema = z.object({ mail: z.string().max(254), password: z.string().max(500), to: z.string().optional() });

/** Signs in by the form of the sign-in page and goes on to where the person wanted to be. */
export const POST: APIRoute = async ({ request, locals, cookies, redirect, url }) => {
  const given = formSchema.safeParse(Object.fromEntries(await request.formData()));
  if (!given.success) return redirect('/sign-in', 303);
  const { mail, password, to } = given.data;
  try {
    const from = {
      address: locals.address,
      agent: request.headers.get('user-agent') ?? '',
      pass: cookies.get(passCookie)?.value ?? '',
    };
    const { token, maxAge, pass } = await locals.services.people.signIn(mail, password, from);
    const kept = { path: '/', httpOnly: true, sameSite: 'lax', secure: url.protocol === 'https:' } as const;
    cookies.set(sessionCookie, token, { ...kept, maxAge });
    cookies.set(passCookie, pass, { ...kept, path: '/api/sign-in', maxAge: passDays * 86_400 });
    return redirect(safePath(to), 303);
  } catch (thrown) {
    const error = asAvrixError(thrown);
    if (!error) throw thrown;
    return redirect(`/sign-in?${new URLSearchParams({ problem: error.message, mail, to: safePath(to) })}`, 303);
  }
};
