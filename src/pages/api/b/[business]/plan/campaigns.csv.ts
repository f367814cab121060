import type { APIRoute } from 'astro';
/** The campaign register as a file, which can be read in again. */
export const GET: APIRoute = async ({ locals: { services, membership } }) => {
  const { rows } = await services.campaigns.view(membership);
  return services.files.writeCampaigns('csv', rows);
};
