import type { Cue, CueKind } from '../events/schema';
import { cueKinds } from '../events/kinds';
import { freshCue, testWords } from '../events/words';
import { partsOf, sayPieces } from './says';

const cueParts = partsOf<Cue>();
const isCue =
  (...kinds: CueKind[]) =>
  ({ kind }: Cue) =>
    kinds.includes(kind);
const tidy = (text: string) => text.trim();

/** What sets an event off, as a sentence. */
export const cuePieces = [
  cueParts.choice(
    {
      key: 'kind',
      read: ({ kind }) => kind,
      write: (before, kind: CueKind) => (kind === before.kind ? before : freshCue(kind)),
    },
    'What somebody does',
    [
      ['arrives', 'arrives at a page whose'],
      ['sends', 'sends the form'],
      ['orders', 'orders'],
      ['presses', 'presses the element'],
      ['presses_words', 'presses what reads'],
      ['leaves_for', 'follows a link to'],
      ['reads_to', 'reads to the element'],
      ['reads_down', 'reads down to'],
      ['stays', 'stays for'],
      ['says', 'is on a page that says'],
    ],
  ),
  cueParts.when(
    isCue('arrives'),
    ' ',
    cueParts.choice('part', 'Part of the address', [
      ['path', 'path'],
      ['query', 'query'],
      ['address', 'whole address'],
    ]),
    ' ',
    cueParts.choice('test', 'How it is compared', [
      ['begins', testWords.begins[0]],
      ['equals', testWords.equals[0]],
      ['contains', testWords.contains[0]],
      ['ends', testWords.ends[0]],
      ['pattern', testWords.pattern[0]],
    ]),
    ' ',
    cueParts.value('text', 'Text in the address', '/…', { offers: 'paths', tidy }),
  ),
  cueParts.when(isCue('sends'), ' ', cueParts.value('text', 'Form', 'a form', { offers: 'forms', tidy })),
  cueParts.when(
    isCue('presses', 'reads_to'),
    ' ',
    cueParts.value('text', 'Selector', 'a selector', { offers: 'elements', tidy }),
  ),
  cueParts.when(
    isCue('presses_words'),
    ' ',
    cueParts.words('text', 'Words on it', 'some words', { offers: 'wordsPressed' }),
  ),
  cueParts.when(
    isCue('leaves_for'),
    ' ',
    cueParts.value('text', 'Where it leads', 'a host, or tel:', { offers: 'links', tidy }),
  ),
  cueParts.when(isCue('says'), ' ', cueParts.value('text', 'What it says', 'a name', { offers: 'pageSays', tidy })),
  cueParts.when(isCue('reads_down'), ' ', cueParts.number('amount', 'Percent of the page'), ' percent of the page'),
  cueParts.when(isCue('stays'), ' ', cueParts.number('amount', 'Seconds', { unit: ['second', 'seconds'] })),
];

/** What a cue waits for, in words: "sends the form `test-ride`". */
export const cueWords = (one: Cue): string => sayPieces(cuePieces, one);

const wordsOf = (name: string): string => name.replaceAll('_', ' ');
/** Of names that begin alike the longer one is meant. */
const longestFirst = <Name extends string>(all: readonly Name[]): Name[] =>
  [...all].sort((a, b) => b.length - a.length);
/** The name that a text begins with, and what is left of it; null where it begins with none. */
export function nameAt<Name extends string>(text: string, all: readonly Name[]): [name: Name, rest: string] | null {
  const found = longestFirst(all).find((name) => `${text} `.toLowerCase().startsWith(`${wordsOf(name)} `));
  return found ? [found, text.slice(wordsOf(found).length).trim()] : null;
}

/** A cue in a cell of the grid: `sends test-ride`, `arrives path begins /guide`, `leaves for bellhour.example`. */
export const cueCell = {
  heading: 'When someone',
  write({ kind, part, test, text, amount }: Cue): string {
    const words = wordsOf(kind);
    if (kind === 'arrives') return `${words} ${part} ${test} ${text}`;
    if (kind === 'reads_down' || kind === 'stays') return `${words} ${amount}`;
    return `${words} ${text}`.trim();
  },
  read(cell: string): Cue {
    const [kind, rest] = nameAt(cell, cueKinds) ?? [cell as CueKind, ''];
    const fresh = freshCue(kind);
    if (kind === 'reads_down' || kind === 'stays') return { ...fresh, amount: Number(rest) };
    if (kind !== 'arrives') return { ...fresh, text: rest };
    const [, part, test, text] = /^(path|query|address) (\w+)(?: (.*))?$/s.exec(rest) ?? [];
    return part
      ? { ...fresh, part: part as Cue['part'], test: test as Cue['test'], text: text ?? '' }
      : { ...fresh, text: rest };
  },
};
