import type { APIRoute } from 'astro';
/** What the campaigns of a file would change, with an answer for each row that cannot be read; nothing is taken. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { rows, problems } = await services.files.readCampaigns(request, membership.business.currency);
  const difference = await services.campaigns.compare(membership, rows);
  const refused = problems.map(({ row, was, wants }) => ({ row: `row ${row}`, field: '', was, wants }));
  return Response.json({ ...difference, refused: [...refused, ...difference.refused] });
};
