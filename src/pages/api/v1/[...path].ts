import type { APIRoute } from 'astro';

/** The API for programs: one door, behind it the operations of server/api. */
export const ALL: APIRoute = ({ locals, request }) => locals.services.api.answer(request);
