import type { LinkContract, PlaceholderContract } from '../platforms/contract';

export interface Placeholder extends PlaceholderContract {
  platform: string;
}

/** Every placeholder of some platforms. */
export const placeholdersOf = (platforms: readonly LinkContract[]): Placeholder[] =>
  platforms.flatMap(({ kind, placeholders }) => placeholders.map((one) => ({ ...one, platform: kind })));

/** Placeholders that stand in a value, those of any of the platforms. */
export const placeholdersIn = (value: string, platforms: readonly LinkContract[]): Placeholder[] =>
  placeholdersOf(platforms).filter(({ text }) => value.includes(text));

/** The value as it will be after a click, with made-up contents. */
export const previewValue = (value: string, platforms: readonly LinkContract[]): string =>
  placeholdersOf(platforms).reduce((text, one) => text.replaceAll(one.text, one.example), value);

/** Platforms that fill in names once, when an ad is first published, although they are changed later. */
export const freezingPlatforms = (value: string, platforms: readonly LinkContract[]): string[] =>
  platforms
    .filter((contract) => contract.freezesNames && contract.placeholders.some(({ text }) => value.includes(text)))
    .map(({ words }) => words);
