import type { Naming } from './schema';

/** A naming pattern taken apart: texts stand before, between and behind the parts, so there is one more of them. */
export interface NamePattern {
  texts: string[];
  /** Keys of parts, in order. */
  keys: string[];
}

/** Takes a naming pattern apart. What stands in braces is a part, whether it is known or not. */
export function splitPattern(pattern: string): NamePattern {
  const pieces = pattern.split(/\{([^{}]*)\}/);
  return { texts: pieces.filter((_, at) => at % 2 === 0), keys: pieces.filter((_, at) => at % 2 === 1) };
}

/** The pattern of parts and texts. */
export const joinPattern = ({ texts, keys }: NamePattern): string =>
  texts.map((text, at) => text + (at < keys.length ? `{${keys[at]}}` : '')).join('');

/** A part put at the end, behind a hyphen where others stand before it. */
export function addPart({ texts, keys }: NamePattern, key: string): NamePattern {
  const last = texts.at(-1) ?? '';
  const between = keys.length > 0 && last === '' ? '-' : last;
  return { texts: [...texts.slice(0, -1), between, ''], keys: [...keys, key] };
}

/** Without a part, and without the text in front of it; the first takes the text behind it along. */
export function dropPart({ texts, keys }: NamePattern, at: number): NamePattern {
  const text = at === 0 ? 1 : at;
  return { texts: texts.filter((_, i) => i !== text), keys: keys.filter((_, i) => i !== at) };
}

/** With a part one place further to the front; texts stay where they stand. */
export function movePart({ texts, keys }: NamePattern, at: number): NamePattern {
  const next = [...keys];
  [next[at - 1], next[at]] = [keys[at]!, keys[at - 1]!];
  return { texts, keys: next };
}

/** A key for a part by what it is called, that no other part has: a short word of lower case letters and digits. */
export function keyFor(label: string, taken: string[]): string {
  const plain = label
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '')
    .replace(/^\d+/, '')
    .slice(0, 16);
  const word = plain || 'part';
  for (let n = 1; ; n += 1) {
    const key = n === 1 ? word : `${word}${n}`;
    if (!taken.includes(key)) return key;
  }
}

/**
 * What a part is called anew. One that is not stored yet gets a key to go with it, also where the pattern has it; one
 * that is stored keeps its key, by which names are read.
 */
export function callPart(naming: Naming, at: number, label: string, stored: Naming): Naming {
  const part = naming.parts[at]!;
  const isStored = stored.parts.some(({ key }) => key === part.key);
  const others = naming.parts.filter((_, i) => i !== at).map(({ key }) => key);
  const key = isStored ? part.key : keyFor(label, others);
  const { texts, keys } = splitPattern(naming.pattern);
  return {
    pattern: joinPattern({ texts, keys: keys.map((one) => (one === part.key ? key : one)) }),
    parts: naming.parts.map((one, i) => (i === at ? { ...one, label, key } : one)),
  };
}
