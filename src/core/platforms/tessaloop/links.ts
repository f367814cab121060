import type { LinkContract } from '../contract';

/** What Tessaloop fills into links. It adds its click ID by itself, also to unpaid posts, and has no placeholder for it. */
export const tessaloopLinks: LinkContract = {
  kind: 'tessaloop',
  words: 'Tessaloop',
  clickParameter: 'tsl',
  provesPayment: false,
  placeholders: [
    { text: '~campaign-name~', words: 'campaign name', example: 'uk-27q1-brand-rounds', isClickId: false },
    { text: '~ad-name~', words: 'ad name', example: 'rain-still', isClickId: false },
    { text: '~place~', words: 'place of the ad', example: 'feed', isClickId: false },
  ],
  freezesNames: true,
};
