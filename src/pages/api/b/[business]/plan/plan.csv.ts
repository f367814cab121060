import type { APIRoute } from 'astro';

/** The live plan as a file that can be read back in. */
export const GET: APIRoute = ({ locals: { services, membership } }) => services.planShare.file(membership, 'csv');
