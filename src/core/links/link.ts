import { decodePart } from '../capture/address';

/** A tag of a link with its value, decoded. */
export type TagValue = [tag: string, value: string];

/**
 * A value as it stands in a query. Everything that is not plain is escaped in UTF-8, a space as %20; the characters of
 * placeholders, ( ) ~ . - _, stay as they are, so that the platform finds them.
 */
export const encodeValue = (value: string): string => encodeURIComponent(value.toWellFormed()).replace(/'/g, '%27');

interface Pair {
  /** As it stands in the link. */
  raw: string;
  name: string;
  value: string;
}

/** The pairs of a query, in order, with what they say. `query` is without its question mark. */
export const pairsOf = (query: string): Pair[] =>
  query
    .split('&')
    .filter((raw) => raw !== '')
    .map((raw) => {
      const at = raw.indexOf('=');
      const [name, value] = at < 0 ? [raw, ''] : [raw.slice(0, at), raw.slice(at + 1)];
      return { raw, name: decodePart(name), value: decodePart(value) };
    });

/** What stands in an address's query, decoded. */
export const queryOf = (address: string): TagValue[] =>
  pairsOf(new URL(address).search.slice(1)).map(({ name, value }): TagValue => [name, value]);

/**
 * Under which names tags stand in links, by tag: the one that links are made with first, then others that are read. A tag
 * that is not in it stands under its own.
 */
export type TagNames = Record<string, string[]>;

/** The tag that a query name says; undefined where it is none's. */
const tagOf = (name: string, tags: string[], names: TagNames): string | undefined =>
  tags.find((tag) => tag === name) ?? tags.find((tag) => names[tag]?.includes(name));

/**
 * Puts tags on a landing page. What stands in its query and after its # stays as it stood, character by
 * character; a tag that is there already is replaced where it stands, one without a value is taken out, new ones follow
 * at the end of the query. Tagging twice gives what tagging once gives.
 */
export function tagLink(landing: URL, tags: TagValue[], names: TagNames = {}): string {
  const given = new Map(tags);
  const written = new Set<string>();
  const pair = (tag: string) => `${names[tag]?.[0] ?? tag}=${encodeValue(given.get(tag)!)}`;
  const kept = pairsOf(landing.search.slice(1)).flatMap(({ raw, name }) => {
    const tag = tagOf(name, [...given.keys()], names);
    if (tag === undefined) return [raw];
    if (given.get(tag) === '' || written.has(tag)) return [];
    written.add(tag);
    return [pair(tag)];
  });
  for (const [tag, value] of given) if (value !== '' && !written.has(tag)) kept.push(pair(tag));
  const query = kept.length > 0 ? `?${kept.join('&')}` : '';
  return landing.origin + landing.pathname + query + landing.hash;
}

/** A link taken apart: the page, its tags, and what else stood in its query. */
export interface LinkParts {
  /** The address without its tags. */
  landing: string;
  tags: TagValue[];
  others: TagValue[];
}

/**
 * Takes a link apart; the first of a repeated tag counts.
 * @param tagNames the plan's tags
 */
export function partsOf(link: URL, tagNames: string[], names: TagNames = {}): LinkParts {
  const pairs = pairsOf(link.search.slice(1));
  const tags = new Map<string, string>();
  const others = pairs.filter(({ name, value }) => {
    const tag = tagOf(name, tagNames, names);
    if (tag !== undefined && !tags.has(tag)) tags.set(tag, value);
    return tag === undefined;
  });
  const query = others.length > 0 ? `?${others.map(({ raw }) => raw).join('&')}` : '';
  return {
    landing: link.origin + link.pathname + query + link.hash,
    tags: tagNames.flatMap((tag): TagValue[] => (tags.get(tag) ? [[tag, tags.get(tag)!]] : [])),
    others: others.map(({ name, value }) => [name, value]),
  };
}
