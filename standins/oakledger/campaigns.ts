import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Rows, Store } from '../shared/store';
import type { Surroundings } from '../shared/surroundings';
import { frame } from './frame';

/** What kind of campaign something is; the business keeps the list itself. */
export const campaignTypes = (faults: boolean): string[] => [
  ...['Search ads', 'Social ads', 'Social posts', 'Letter', 'Mail series', 'Partner', 'Fair', 'Print', 'Workshop days'],
  ...(faults ? [] : ['Display ads']),
];

interface Campaign {
  id: string;
  title: string;
  tracking_name: string;
  type: string;
  starts_on: string;
  ends_on: string;
  budget: { amount: string; currency: string } | null;
  owner: string;
  /** Where its ads and letters lead. */
  links?: string[];
  archived: boolean;
}

const seeded: [string, string, string, string, string, string, string, string][] = [
  ['C-101', 'Winterproof', 'uk-27q1-fleet-winterproof', 'Search ads', '2026-12-25', '2027-03-31', '18000.00', 'Maud'],
  ['C-102', 'Van swap', 'uk-26q4-fleet-van-swap', 'Search ads', '2026-01-15', '2027-01-07', '42000.00', 'Maud'],
  ['C-103', 'The bakery run', 'ie-27q1-fleet-bakery', 'Search ads', '2026-12-17', '2027-03-31', '6000.00', 'Declan'],
  ['C-104', 'Tulip box', 'nl-27q1-fleet-florist', 'Search ads', '2027-01-01', '2027-03-31', '4500.00', 'Jette'],
  ['C-105', 'Letter of the quarter', 'uk-27q1-fleet-letter', 'Letter', '2027-01-04', '2027-03-29', '', 'Priya'],
  ['C-106', 'Rounds of the week', 'uk-27q1-brand-rounds', 'Social posts', '2027-01-01', '2027-03-31', '', 'Priya'],
  ['C-107', 'Baker Weekly', 'uk-27q1-fleet-baker-weekly', 'Partner', '2027-01-11', '2027-02-28', '2400.00', 'Maud'],
  [
    'C-108',
    'Penmarrow cargo fair',
    'uk-27q2-fleet-cargo-fair',
    'Fair',
    '2027-04-16',
    '2027-04-18',
    '9000.00',
    'Declan',
  ],
  ['C-109', 'Workshop days', 'uk-27q2-care-workshop', 'Workshop days', '2027-05-03', '2027-05-07', '1500.00', 'Jette'],
];

const day = z.iso.date('must be a day such as 2027-01-14');
const campaignSchema = z.object({
  title: z.string().trim().min(1, 'must not be empty').max(120),
  tracking_name: z.string().trim().max(120),
  type: z.string().trim().max(80),
  starts_on: day,
  ends_on: day,
});

const linksSchema = z.strictObject({
  links: z.array(z.url({ protocol: /^https?$/ }).max(2000)).max(200, 'must be at most 200'),
});

/** The CRM's campaigns and their types: seeded once, kept as the business changes them. */
export function makeCampaigns(store: Store, { faults, season }: Pick<Surroundings, 'faults' | 'season'>) {
  const rows: Rows<Campaign> = store.rows('campaigns');
  if (rows.all().length === 0)
    for (const [id, title, tracking_name, type, starts_on, ends_on, amount, owner] of season(seeded))
      rows.put({
        id,
        title,
        tracking_name,
        type,
        starts_on,
        ends_on,
        owner,
        archived: false,
        budget: amount ? { amount, currency: 'GBP' } : null,
      });
  const types = campaignTypes(faults);
  const shown = () => rows.all().filter(({ archived }) => !archived);

  const api = new Hono();
  api.get('/campaign-types', (c) => c.json({ types }));
  const described = ({ archived: _, links = [], ...campaign }: Campaign) => ({ ...campaign, links });
  api.get('/campaigns', (c) => c.json({ campaigns: shown().map(described) }));
  api.get('/campaigns/:id', (c) => {
    const campaign = rows.get(c.req.param('id'));
    return campaign ? c.json(described(campaign)) : c.json({ error: ['campaign: not known'] }, 404);
  });
  api.post('/campaigns/:id/links', async (c) => {
    const campaign = rows.get(c.req.param('id'));
    if (!campaign) return c.json({ error: ['campaign: not known'] }, 404);
    const given = linksSchema.safeParse(await c.req.json().catch(() => null));
    if (!given.success)
      return c.json({ error: given.error.issues.map((i) => `${i.path.join('.') || 'body'}: ${i.message}`) }, 422);
    const next = { ...campaign, links: given.data.links };
    rows.put(next);
    return c.json(described(next));
  });

  const pages = new Hono();
  pages.get('/', (c) => c.html(campaignsPage(shown(), types)));
  pages.post('/', async (c) => {
    const sent = await c.req.parseBody<Record<string, string>>();
    const given = campaignSchema.safeParse(sent);
    if (!given.success)
      return c.text(given.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join('\n'), 422);
    const before = rows.get(sent.id ?? '');
    const id = before?.id ?? `C-${101 + rows.all().length}`;
    rows.put({ budget: null, owner: '', archived: false, ...before, ...given.data, id });
    return c.redirect('/campaigns', 303);
  });
  pages.post('/:id/archive', (c) => {
    const campaign = rows.get(c.req.param('id'));
    if (!campaign) return c.notFound();
    rows.put({ ...campaign, archived: true });
    return c.redirect('/campaigns', 303);
  });
  return { api, pages };
}

function campaignsPage(campaigns: Campaign[], types: string[]) {
  const row = (campaign: Partial<Campaign>) => {
    const form = `campaign-${campaign.id ?? 'new'}`;
    const text = (name: keyof Campaign, label: string, size = 16) =>
      html`<td>
        <input
          form="${form}"
          name="${name}"
          value="${String(campaign[name] ?? '')}"
          size="${size}"
          aria-label="${label}"
        />
      </td>`;
    return html`<tr>
      <td>
        ${campaign.id ?? 'new'}
        <form id="${form}" method="post" action="/campaigns">
          <input type="hidden" name="id" value="${campaign.id ?? ''}" />
        </form>
      </td>
      ${text('title', 'Title', 20)} ${text('tracking_name', 'Tracking name', 26)}
      <td>
        <select form="${form}" name="type" aria-label="Type">
          ${types.map((type) => html`<option ${type === campaign.type ? 'selected' : ''}>${type}</option>`)}
        </select>
      </td>
      ${text('starts_on', 'From', 10)} ${text('ends_on', 'To', 10)}
      <td>${campaign.links?.length ?? 0}</td>
      <td class="stages">
        <button form="${form}">${campaign.id ? 'Save' : 'Add'}</button>
        ${
          campaign.id
            ? html`<form method="post" action="/campaigns/${campaign.id}/archive"><button>Archive</button></form>`
            : ''
        }
      </td>
    </tr>`;
  };
  return frame(
    'Campaigns',
    html`<p class="crumb"><a href="/">Deals</a></p>
      <h1>${campaigns.length} campaigns</h1>
      <p class="under">Types: ${types.join(', ')}.</p>
      <table>
        <thead>
          <tr>
            <th>Number</th>
            <th>Title</th>
            <th>Tracking name</th>
            <th>Type</th>
            <th>From</th>
            <th>To</th>
            <th>Links</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          ${campaigns.map(row)} ${row({})}
        </tbody>
      </table>`,
  );
}
