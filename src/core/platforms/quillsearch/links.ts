import type { LinkContract } from '../contract';

/** What Quillsearch fills into links. Its click ID has a placeholder, so that it can also travel under a carry name. */
export const quillsearchLinks: LinkContract = {
  kind: 'quillsearch',
  words: 'Quillsearch',
  clickParameter: 'qsid',
  provesPayment: true,
  placeholders: [
    { text: '(campaign)', words: 'campaign name', example: 'uk-27q1-fleet-winterproof', isClickId: false },
    { text: '(number)', words: 'campaign number', example: '40318', isClickId: false },
    { text: '(advert)', words: 'ad name', example: 'hill-video', isClickId: false },
    { text: '(slot)', words: 'place of the ad', example: 'top-1', isClickId: false },
    { text: '(word)', words: 'word searched for', example: 'cargo bike lease', isClickId: false },
    { text: '(visit.key)', words: 'click ID', example: 'QsAb12Cd34Ef56Gh', isClickId: true },
  ],
  freezesNames: false,
  tells: 'every click',
  hasCatalogue: true,
  knowsPeopleBy: ['mail'],
  takesTests: true,
};
