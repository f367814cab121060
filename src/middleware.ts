import { defineMiddleware } from 'astro:middleware';
import { asAvrixError, AvrixError, problemOf, problemType } from './core/errors';

export const sessionCookie = 'avx_session';
/** By which a browser that signed in before is known, so that nobody elsewhere can lock its person out. */
export const passCookie = 'avx_pass';
const openPaths =
  /^\/(sign-in|join\/[\w-]+|api\/join\/[\w-]+|api\/sign-in|api\/openapi\.json|api\/problems\/\w+|api\/v1\/.*)$/;

/**
 * Every request to the interface passes here: who is it, did one of our own pages send it, and may this person see the
 * business in the address. A business that somebody has no role in answers as one that is not there.
 */
export const onRequest = defineMiddleware(async (context, next) => {
  const { locals, url, request, cookies } = context;
  const isApi = url.pathname.startsWith('/api/');
  try {
    // What a program sends with a token comes from no page, and no page can send it for a person.
    if (!url.pathname.startsWith('/api/v1/')) checkSameOrigin(request, locals.services.config.origin);
    locals.person = await locals.services.people.bySession(cookies.get(sessionCookie)?.value ?? null);
    if (!locals.person && !openPaths.test(url.pathname)) {
      if (isApi) throw new AvrixError('AVX_SIGN_IN_NEEDED');
      return context.redirect(`/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
    }
    locals.memberships = locals.person ? await locals.services.people.memberships(locals.person.id) : [];
    const key = /^\/(?:api\/)?b\/([^/]+)/.exec(url.pathname)?.[1];
    if (key !== undefined) {
      const membership = locals.memberships.find(({ business }) => business.key === key);
      if (!membership) throw new AvrixError('AVX_BUSINESS_UNKNOWN', { business: key });
      locals.membership = membership;
    }
    return await next();
  } catch (thrown) {
    const error = asAvrixError(thrown);
    if (!error) throw thrown;
    if (isApi || request.method !== 'GET')
      return Response.json(problemOf(error), { status: error.status, headers: { 'content-type': problemType } });
    return context.rewrite(`/problem?status=${error.status}&text=${encodeURIComponent(error.message)}`);
  }
});

/** What changes something must come from a page of Avrix itself. */
function checkSameOrigin(request: Request, own: string): void {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const origin = request.headers.get('origin');
  if (origin !== own) throw new AvrixError('AVX_ORIGIN_FOREIGN', { origin: origin ?? 'nowhere named' });
}
