import type { TouchWhy } from '../capture/schema';

/** Why an arrival started a touch, or started none, as a clause that ends in nothing or in where from. */
export const touchWords: Record<TouchWhy, string> = {
  click_id_new: 'Starts a touch, because its click ID is new here',
  campaign_values: 'Starts a touch, because it brings campaign values',
  outside_referrer: 'Starts a touch, because it comes from outside',
  reloaded: 'Starts no touch, because the page is only reloaded',
  history_step: 'Starts no touch, because it is a step back or forward',
  click_id_known: 'Starts no touch, because its click ID is known here',
  own_link_tagged: 'Starts no touch, because it comes by a tagged link between own pages',
  own_page: 'Starts no touch, because it comes from an own page',
  no_source_host: 'Starts no touch, because it comes back from a payment or sign-in page',
  no_referrer: 'Starts no touch, because it comes directly',
};
