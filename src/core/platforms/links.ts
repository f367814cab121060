import type { LinkContract } from './contract';
import { quillsearchLinks } from './quillsearch/links';
import { ownLinks } from './own/links';
import type { OwnPlatform } from './schema';
import { tessaloopLinks } from './tessaloop/links';
import { wrenwickLinks } from './wrenwick/links';

/** Every platform that ships and whose links are known; telling it outcomes may come later. */
export const linkContracts: readonly LinkContract[] = [quillsearchLinks, tessaloopLinks, wrenwickLinks];

/** Links of every platform that a business can use: those that ship, and those that it describes itself. */
export const linksOf = (own: readonly OwnPlatform[]): LinkContract[] => [...linkContracts, ...own.map(ownLinks)];

/** Whether a kind of platform ships, and is not one that a business describes itself. */
export const isShipped = (kind: string): boolean => linkContracts.some((one) => one.kind === kind);

/** What people call a kind of platform; the kind itself where it is not known. */
export const platformName = (kind: string, own: readonly OwnPlatform[]): string =>
  linkContracts.find((one) => one.kind === kind)?.words ?? own.find((one) => one.kind === kind)?.words ?? kind;

/** The names that a kind of platform has for outcomes; none where it takes our codes. */
export const knownNames = (kind: string): readonly string[] =>
  linkContracts.find((contract) => contract.kind === kind)?.knows ?? [];
