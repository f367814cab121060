import type { Campaign } from './campaign';

/** A campaign of which nothing is said yet. */
export const emptyCampaign = (currency: string): Campaign => ({
  name: '',
  friendly: '',
  stage: 'asking',
  startsOn: '',
  endsOn: '',
  budget: '',
  currency,
  owner: '',
  note: '',
  crmId: '',
  crmType: '',
});
