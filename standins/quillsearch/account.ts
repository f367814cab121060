/** Larkmoor's account: its ads and the limits that hold for it. */
export const account = { name: 'Larkmoor Cargo Bikes', timeZone: 'America/New_York', currency: 'USD' };

export const clickDays = 80;
export const tellWithinDays = 12;
/** Latest change of an outcome, in days after it was taken. */
export const changeWithinDays = 60;
export const callsPerMinute = 40;
export const rowsPerBatch = 1500;

export interface Ad {
  id: string;
  name: string;
  campaign: string;
  market: string;
  headline: string;
  text: string;
  page: string;
}

const ad = (id: string, campaign: string, headline: string, text: string, page = '/fleet'): Ad => ({
  id: `${campaign}.${id}`,
  name: id,
  campaign,
  market: campaign.slice(0, 2),
  headline,
  text,
  page,
});

/** The ads, as they are written for one season. */
export const writtenAds: Ad[] = [
  ad(
    'hill-video',
    'uk-27q1-fleet-winterproof',
    'Cargo bikes that start on ice',
    'Lease electric cargo bikes with winter tyres fitted. Watch one climb Porthley Hill with 180 kg of bread.',
  ),
  ad(
    'rain-still',
    'uk-27q1-fleet-winterproof',
    'Deliveries do not stop for rain',
    'Closed boxes, heated grips, a spare bike next day. Ask for a test ride at your own door.',
  ),
  ad(
    'van-versus',
    'uk-26q4-fleet-van-swap',
    'Sell the van, keep the round',
    'A leased cargo bike costs a third of a second van. See the sums for a six-mile round.',
  ),
  ad(
    'oven-run',
    'ie-27q1-fleet-bakery',
    'Warm bread, four streets away',
    'Cargo bikes with insulated boxes for bakeries. Leased monthly, serviced at your shop.',
  ),
  ad(
    'tulip-box',
    'nl-27q1-fleet-florist',
    'Bloemen op tijd, zonder busje',
    'Bakfietsen met koelbox voor bloemisten. Huur per maand, service aan huis.',
    '/fleet/call-back',
  ),
];

/** A campaign is the same one in whatever quarter it runs. */
const whenever = (campaign: string): string => campaign.replace(/-\d\dq\d-/, '-');
const campaigns = [...new Set(writtenAds.map(({ campaign }) => whenever(campaign)))];

/** Campaigns have numbers of their own; a campaign that was renamed keeps it. */
export const campaignNumber = (campaign: string): string => String(40_318 + 7 * campaigns.indexOf(whenever(campaign)));

/** A link as the advertiser wrote it; what stands in round brackets is filled in at the click. */
export const linkTemplate =
  '?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=(campaign)&utm_content=(advert)&qsid=(visit.key)';
/** The advertiser has put the click ID into this campaign's links a second time, under a name of their own. */
const carrying = { campaign: 'uk-fleet-winterproof', rest: '&lark_key=(visit.key)' };

export function fillLink(origin: string, { campaign, name, page }: Ad, visitKey: string): string {
  const values: Record<string, string> = {
    campaign,
    number: campaignNumber(campaign),
    advert: name,
    'visit.key': visitKey,
  };
  const template = linkTemplate + (whenever(campaign) === carrying.campaign ? carrying.rest : '');
  return origin + page + template.replace(/\(([a-z.]+)\)/g, (_, key: string) => encodeURIComponent(values[key] ?? ''));
}
