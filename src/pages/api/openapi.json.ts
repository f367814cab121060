import type { APIRoute } from 'astro';

/** The API described for programs, OpenAPI 3.1. */
export const GET: APIRoute = ({ locals }) => Response.json(locals.services.api.describe());
