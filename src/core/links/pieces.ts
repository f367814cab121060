import { encodeValue, type TagNames } from './link';

/** A piece of a finished link: the page, what stands between, or a tag's value as it is written. */
export interface LinkPiece {
  text: string;
  /** The tag whose value it is; null for the rest. */
  tag: string | null;
}

/**
 * A finished link cut where its parts begin and end, so that each can be shown by itself; put together the pieces are
 * the link. The first is the page.
 *
 * @param tags the values it was made of
 */
export function cutLink(link: string, tags: Record<string, string>, names: TagNames = {}): LinkPiece[] {
  const found = Object.entries(tags)
    .filter(([, value]) => value !== '')
    .flatMap(([tag, value]) => {
      const name = names[tag]?.[0] ?? tag;
      const pair = `${name}=${encodeValue(value)}`;
      const index = Math.max(link.indexOf(`?${pair}`), link.indexOf(`&${pair}`));
      return index < 0 ? [] : [{ tag, name, from: index + name.length + 2, to: index + 1 + pair.length }];
    })
    .sort((a, b) => a.from - b.from);
  const [first] = found;
  if (!first) return [{ text: link, tag: null }];
  // The question mark or ampersand in front of the first tag belongs to no part.
  const pageEnds = first.from - first.name.length - 2;
  const pieces: LinkPiece[] = [{ text: link.slice(0, pageEnds), tag: null }];
  let at = pageEnds;
  for (const { tag, from, to } of found) {
    pieces.push({ text: link.slice(at, from), tag: null }, { text: link.slice(from, to), tag });
    at = to;
  }
  if (at < link.length) pieces.push({ text: link.slice(at), tag: null });
  return pieces;
}
