import type { APIRoute } from 'astro';
import { AvrixError, problemKind } from '@/core/errors';

/** What the `type` of an error answer leads to. */
export const GET: APIRoute = ({ params }) => {
  const kind = problemKind(params.code!);
  if (!kind) throw new AvrixError('AVX_NOT_FOUND', { what: 'kind of problem' });
  return Response.json(kind);
};
