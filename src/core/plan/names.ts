import { compileExpression, fitsPattern } from './pattern';
import { findTwoReadings, type Pattern } from './two-readings';
import type { NamePart, Naming } from './schema';

/** A piece of a naming pattern: text as it stands, or the part of a name. */
export type Piece = { text: string } | { part: NamePart };

/** Why a naming pattern cannot be used; `field` names the place. */
export interface NamingProblem {
  field: string;
  was: string;
  fix: string;
}

/**
 * The pieces of a naming pattern in order.
 * @returns null where a brace names no part
 */
export function piecesOf({ pattern, parts }: Naming): Piece[] | null {
  const pieces: Piece[] = [];
  for (const text of pattern.split(/(\{[^{}]*\})/)) {
    if (text === '') continue;
    if (!text.startsWith('{')) {
      if (/[{}]/.test(text)) return null;
      pieces.push({ text });
      continue;
    }
    const part = parts.find(({ key }) => key === text.slice(1, -1));
    if (!part) return null;
    pieces.push({ part });
  }
  return pieces;
}

const escaped = (text: string) => text.replace(/[\\^$.*+?()[\]{}|/-]/g, '\\$&');
const word = '[a-z0-9]+';
/** Fits no text. */
const nothing = '[^\\x00-\\x{10FFFF}]';

function expressionOf(part: NamePart): string {
  switch (part.kind) {
    case 'listed':
      return part.values.map(({ value }) => escaped(value)).join('|') || nothing;
    case 'digits':
      return `\\d{${part.digits}}`;
    case 'word':
      return word;
    case 'words':
      return `${word}(?:-${word})*`;
  }
}

function expression(pieces: Piece[]): string {
  const text = pieces.map((piece) => ('part' in piece ? `(${expressionOf(piece.part)})` : escaped(piece.text)));
  return `^${text.join('')}$`;
}

/**
 * Puts a campaign name together from its parts.
 * @param values by the parts' keys
 * @returns the name, or the problems of the values that do not fit
 */
export function buildName(
  naming: Naming,
  values: Record<string, string>,
): { name: string } | { problems: NamingProblem[] } {
  const pieces = piecesOf(naming);
  if (!pieces) return { problems: checkNaming(naming) };
  const problems = pieces.flatMap((piece) => {
    if (!('part' in piece)) return [];
    const { part } = piece;
    const value = values[part.key] ?? '';
    if (fitsPattern(expressionOf(part), value)) return [];
    return [{ field: part.key, was: value === '' ? 'has no value' : `“${value}” does not fit`, fix: partWants(part) }];
  });
  if (problems.length > 0) return { problems };
  return { name: pieces.map((piece) => ('part' in piece ? values[piece.part.key]! : piece.text)).join('') };
}

/** What a part's value must be, in words. */
export function partWants(part: NamePart): string {
  switch (part.kind) {
    case 'listed':
      return `It must be one of ${part.values.map(({ value }) => value).join(', ')}.`;
    case 'digits':
      return `It must be ${part.digits === 1 ? 'one digit' : `${part.digits} digits`}.`;
    case 'word':
      return 'It must be one word of lower case letters and digits.';
    case 'words':
      return 'It must be words of lower case letters and digits with a hyphen between them.';
  }
}

/** Reads a campaign name back into its parts; null where it does not fit the pattern. */
export function readName(naming: Naming, name: string): Record<string, string> | null {
  const pieces = piecesOf(naming);
  if (!pieces) return null;
  const found = compileExpression(expression(pieces)).matcher(name);
  if (!found.matches()) return null;
  const parts = pieces.flatMap((piece) => ('part' in piece ? [piece.part.key] : []));
  return Object.fromEntries(parts.map((key, index) => [key, found.group(index + 1)!]));
}

/** What a naming pattern's parts read as by the search for two readings. */
const readable = (pieces: Piece[]): Pattern =>
  pieces.map((piece) => {
    if (!('part' in piece)) return { name: '', kind: 'listed', values: [piece.text] };
    const { key, kind, values, digits } = piece.part;
    return { name: key, kind, values: values.map(({ value }) => value), digits };
  });

/** Everything that keeps a naming pattern from being used: unknown or doubled parts, and names that read in two ways. */
export function checkNaming(naming: Naming): NamingProblem[] {
  if (naming.pattern === '') return [];
  const known = new Set(naming.parts.map(({ key }) => key));
  const named = [...naming.pattern.matchAll(/\{([^{}]*)\}/g)].map((found) => found[1]!);
  const pattern = (was: string, fix: string): NamingProblem => ({ field: 'naming.pattern', was, fix });
  const unknown = named.find((key) => !known.has(key));
  if (unknown !== undefined)
    return [pattern(`{${unknown}} is no part`, `Use the parts below it: ${[...known].join(', ')}.`)];
  const doubled = named.find((key, index) => named.indexOf(key) !== index);
  if (doubled) return [pattern(`{${doubled}} is there twice`, 'A name can have each part once.')];
  const pieces = piecesOf(naming);
  if (!pieces) return [pattern('a brace is left open', 'Write parts as {market}.')];
  if (!pieces.some((piece) => 'part' in piece)) return [pattern('it has no part', 'Write parts as {market}.')];
  const empty = pieces.find((piece) => 'part' in piece && piece.part.kind === 'listed' && !piece.part.values.length);
  if (empty && 'part' in empty)
    return [{ field: `naming.parts.${empty.part.key}`, was: 'has no values', fix: 'List at least one value.' }];
  const two = findTwoReadings(readable(pieces));
  if (!two) return [];
  const [one, other] = two.readings.map((reading) =>
    Object.entries(reading)
      .map(([key, value]) => `${key} ${value}`)
      .join(', '),
  );
  return [
    pattern(
      `“${two.example}” could be read as ${one} or as ${other}`,
      'Put text between these parts that neither can hold, list their values, or make one of them a single word.',
    ),
  ];
}
