import type { Naming } from './contract';

/** A name of which nothing but its form is fixed. */
export const codeNaming: Naming = {
  words: 'the outcome’s code there',
  example: 'FLT-ASK',
  problem: (name) =>
    /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/.test(name)
      ? ''
      : 'must be a code of letters, digits, points, _ and hyphens, at most 40',
  cleaning: { stays: 'A-Za-z0-9', lowerCase: false, joins: '-', longest: 30, otherwise: 'none' },
  between: '-',
};

/** Names that are the destination's own. */
export const knownNaming = (known: readonly string[]): Naming => ({
  words: 'one of its own names',
  example: known[0]!,
  problem: (name) => (known.includes(name) ? '' : `must be one of ${known.join(', ')}`),
  cleaning: null,
  between: '',
  known,
});
