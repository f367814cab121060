import { pointerName } from './capture/pointer';

/** A name in lower case and without what separates its words, as usual names are written. */
export const plainName = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, '');

/**
 * What the names in an example tell of where the parts are: a proposal, for a person to take.
 *
 * @param usualNames how the plain name of each part is usually written
 * @param places JSON Pointers (RFC 6901); of several that fit the first is taken
 * @returns the place of each part; '' where none fits
 */
export function guessPlaces<Part extends string>(
  usualNames: Record<Part, RegExp>,
  places: readonly string[],
): Record<Part, string> {
  return Object.fromEntries(
    Object.entries<RegExp>(usualNames).map(([part, usual]) => [
      part,
      places.find((place) => usual.test(plainName(pointerName(place)))) ?? '',
    ]),
  ) as Record<Part, string>;
}
