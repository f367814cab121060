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
  named: {
    words: 'plain words',
    example: 'test ride asked for',
    problem: (name) =>
      /^[A-Za-z0-9]+(?:[ -][A-Za-z0-9]+)*$/.test(name) && name.length <= 40
        ? ''
        : 'must be plain words of letters and digits with single spaces or hyphens, at most 40 characters',
    cleaning: { stays: 'A-Za-z0-9', lowerCase: false, joins: ' ', longest: 30, otherwise: 'none' },
    between: ' ',
  },
  tells: 'every click',
  takesMailHash: true,
  knowsPeopleBy: ['mail'],
  takesTests: true,
  page: {
    opener: '/opener.js',
    call: 'tessaloop.say',
    writes: [
      ['/ref', 'event_id'],
      ['/what', 'name'],
      ['/moment', 'moment'],
      ['/amount', 'number worth'],
      ['/money', 'field currency'],
      ['/who/tsl', 'click_id'],
      ['/who/mail_hash', 'field mail_hash'],
    ],
    joinHours: 36,
  },
};
