import { retireSchema } from '../../../core/links/list-schema';
import { campaignNameSchema, campaignSchema, takeCampaignsSchema } from '../../../core/plan/campaign';
import { offPlanListSchema } from '../../../core/plan/list-schema';
import { changesSchema } from '../../../core/releases/draft-schema';
import { does, reads, readsBy, takes, type Endpoint } from '../endpoint';

export const plan: Endpoint[] = [
  reads('/plan/tags', ({ plan: station }, { membership }) => station.tags(membership)),
  reads('/plan/channels', ({ channels }, { membership }) => channels.view(membership)),
  readsBy('/plan/off-plan', offPlanListSchema, ({ plan: station }, { membership, query }) =>
    station.offPlan(membership, query),
  ),
  reads('/plan/sources', ({ sources }, { membership }) => sources.view(membership)),
  takes('/plan/sources/effect', changesSchema, ({ sources }, { membership, body: { changes } }) =>
    sources.effect(membership, changes),
  ),
  takes('/plan/effect', changesSchema, ({ plan: station }, { membership, body: { changes } }) =>
    station.effect(membership, changes),
  ),
  reads('/plan/plan.csv', ({ planShare }, { membership }) => planShare.file(membership, 'csv')),
  reads('/plan/plan.json', ({ planShare }, { membership }) => planShare.file(membership, 'json')),
  reads('/plan/plan.xlsx', ({ planShare }, { membership }) => planShare.file(membership, 'xlsx')),
  reads('/plan/share', ({ planShare }, { membership }) => planShare.view(membership)),
  reads('/plan/sheet.xlsx', ({ planShare }, { membership }) => planShare.peopleSheet(membership)),
  // What a file's plan would change; nothing is changed.
  does('/plan/file', ({ planShare }, { membership, request }) => planShare.compare(membership, request)),

  reads('/plan/campaigns', ({ campaigns }, { membership }) => campaigns.view(membership)),
  reads('/plan/campaigns.csv', async ({ campaigns, files }, { membership }) =>
    files.writeCampaigns('csv', (await campaigns.view(membership)).rows),
  ),
  takes('/plan/campaigns', campaignSchema, ({ campaigns }, { membership, body }) =>
    campaigns.save(membership, null, body),
  ),
  reads('/plan/campaigns/only-in-crm', ({ campaigns }, { membership }) => campaigns.onlyInCrm(membership)),
  takes('/plan/campaigns/register', campaignNameSchema, ({ campaigns }, { membership, body: { name } }) =>
    campaigns.register(membership, name),
  ),
  // What campaigns from outside would change, with an answer for each row that cannot be read; then taken as shown.
  does('/plan/campaigns/pull', ({ campaigns }, { membership }) => campaigns.pull(membership)),
  does('/plan/campaigns/file', async ({ campaigns, files }, { membership, request }) => {
    const { rows, problems } = await files.readCampaigns(request, membership.business.currency);
    const difference = await campaigns.compare(membership, rows);
    const refused = problems.map(({ row, was, fix }) => ({ row: `row ${row}`, field: '', was, fix }));
    return { ...difference, refused: [...refused, ...difference.refused] };
  }),
  takes('/plan/campaigns/take', takeCampaignsSchema, ({ campaigns }, { membership, body }) =>
    campaigns.take(membership, body.campaigns, body.vanished),
  ),
  reads('/plan/campaigns/{id}/links', ({ campaignLinks }, { membership, params }) =>
    campaignLinks.view(membership, params.id!),
  ),
  does('/plan/campaigns/{id}/hand-on', ({ campaignLinks }, { membership, params }) =>
    campaignLinks.handOn(membership, params.id!),
  ),
  takes('/plan/campaigns/{id}', campaignSchema, ({ campaigns }, { membership, params, body }) =>
    campaigns.save(membership, params.id!, body),
  ),
  takes('/plan/campaigns/{id}/retire', retireSchema, ({ campaigns }, { membership, params, body: { retired } }) =>
    campaigns.retire(membership, params.id!, retired),
  ),
];
