import type { LinkContract } from '../contract';

/** What Wrenwick fills into its partners' links. It pays per sale, so every one of its clicks is a paid one. */
export const wrenwickLinks: LinkContract = {
  kind: 'wrenwick',
  words: 'Wrenwick',
  clickParameter: 'wwk',
  provesPayment: true,
  placeholders: [
    { text: '[[wwk]]', words: 'click ID', example: 'wk-7Qp3Zr', isClickId: true },
    { text: '[[partner]]', words: 'partner', example: 'pedal-post', isClickId: false },
  ],
  freezesNames: false,
  knows: ['joined', 'paid', 'again', 'back-again', 'returned', 'disputed'],
  tells: 'last paid touch',
};
