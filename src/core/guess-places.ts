import { pointerName } from './capture/pointer';

/**
 * What the names in an example tell of where the parts are: a proposal, for a person to take.
 *
 * @param usualNames how the name of each part is usually written, in lower case and without what separates its words
 * @param places JSON Pointers (RFC 6901); of several that fit the first is taken
 * @returns the place of each part; '' where none fits
 */
export function guessPlaces<Part extends string>(
  usualNames: Record<Part, RegExp>,
  places: readonly string[],
): Record<Part, string> {
  const nameOf = (place: string) =>
    pointerName(place)
      .toLowerCase()
      .replace(/[^a-z0-9]/g, '');
  return Object.fromEntries(
    Object.entries<RegExp>(usualNames).map(([part, usual]) => [
      part,
      places.find((place) => usual.test(nameOf(place))) ?? '',
    ]),
  ) as Record<Part, string>;
}
