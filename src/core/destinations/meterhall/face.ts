import type { DestinationFace } from '../contract';

/** At most five steps of lower case letters, digits and hyphens. */
const path = /^[a-z0-9-]{1,40}(?:\/[a-z0-9-]{1,40}){0,4}$/;

export const meterhallFace: DestinationFace = {
  kind: 'meterhall',
  words: 'Meterhall',
  named: {
    words: 'one path of up to five steps',
    example: 'fleet/ask/longtail',
    problem: (name) =>
      path.test(name) ? '' : 'must be up to five steps of lower case letters, digits and hyphens, with / between',
    cleaning: { stays: 'a-z0-9', lowerCase: true, joins: '-', longest: 40, otherwise: 'none' },
    between: '/',
  },
  fields: [],
  fieldProblem: (name) =>
    /^[a-z][a-z0-9_]{0,29}$/.test(name) ? '' : 'must have lower case letters, digits and _, at most 30',
  toldOf: 'every event',
  hasCatalogue: false,
  page: null,
};
