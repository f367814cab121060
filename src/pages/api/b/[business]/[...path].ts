import type { APIRoute } from 'astro';

/** What pages ask of a business: one door, behind it the endpoints of server/interface. */
export const ALL: APIRoute = ({ locals: { services, membership, person, drained }, params, request }) =>
  services.interface.answer(`/${params.path ?? ''}`, { request, membership, person: person!, drained });
