import { partsOf, type Option, type Piece } from './says';

/**
 * The swap table that a value goes through, where the business has any.
 * @param asItIs what is read where it goes through none
 */
export function swapPiece<Rule extends { swap: string }>(asItIs: string): Piece<Rule> {
  const { choice, said, when } = partsOf<Rule>();
  return when(
    ({ swap }, { capture }) => swap !== '' || (capture?.swaps ?? []).length > 0,
    said(
      ({ swap }) => swap !== '',
      ' ',
      choice(
        'swap',
        'Swap table',
        ({ capture }): readonly Option[] => [
          ['', asItIs, '–'],
          ...(capture?.swaps ?? []).map(({ name }): Option => [name, `through the table “${name}”`, name]),
        ],
        { heading: 'Through', words: (name) => `through the table “${name}”` },
      ),
    ),
  );
}
