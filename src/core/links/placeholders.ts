import type { PlaceholderContract } from '../platforms/contract';
import { linkContracts } from '../platforms/links';

export interface Placeholder extends PlaceholderContract {
  platform: string;
}

export const placeholders: Placeholder[] = linkContracts.flatMap(({ kind, placeholders: own }) =>
  own.map((one) => ({ ...one, platform: kind })),
);

/** Placeholders that stand in a value, those of any platform. */
export const placeholdersIn = (value: string): Placeholder[] => placeholders.filter(({ text }) => value.includes(text));

/** The value as it will be after a click, with made-up contents. */
export const previewValue = (value: string): string =>
  placeholders.reduce((text, one) => text.replaceAll(one.text, one.example), value);

/** Platforms that fill in names once, when an ad is first published, although they are changed later. */
export const freezingPlatforms = (value: string): string[] =>
  linkContracts
    .filter((contract) => contract.freezesNames && contract.placeholders.some(({ text }) => value.includes(text)))
    .map(({ words }) => words);

/** What people call a kind of platform; the kind itself where it is not known. */
export const platformName = (kind: string): string => linkContracts.find((one) => one.kind === kind)?.words ?? kind;
