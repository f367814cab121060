import { writeAmount, type Money } from '../outcomes';
import type { AccountName } from '../connections/view';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';

/*
 * A rule's sentence as data: text, and parts that stand for what the rule holds. From it come the sentence as text, the
 * editor whose parts are changed in place, and the columns of the grid.
 */

/** What a sentence may offer to choose from: rules beside it, as far as they are at hand. */
export type Beside = Partial<Pick<ReleaseContent, 'capture' | 'plan' | 'platforms' | 'crm' | 'outcomes' | 'events'>> & {
  accounts?: readonly AccountName[];
  /** Outside programs that post, with the steps that outcomes can be reached by. */
  senders?: readonly { key: string; name: string; steps: readonly string[] }[];
  segments?: readonly { id: string; name: string }[];
  /** Emails that are written down. */
  mails?: readonly { id: string; name: string }[];
};

type Plain = string | number | boolean;
/** Something to choose, with what people read; `inGrid` where a cell says it otherwise than a sentence. */
export type Option<Value extends Plain = Plain> = readonly [value: Value, words: string, inGrid?: string];

/** What a part stands for that is no field of its rule's own, such as a field of one of its fields. */
export interface Within<Rule> {
  key: string;
  read(rule: Rule): unknown;
  write(rule: Rule, value: never): Rule;
}
/** A field of a rule by its name, or what lies within one. */
type Key<Rule> = (keyof Rule & string) | Within<Rule>;

interface PartOf<Rule> extends Within<Rule> {
  /** What it is, for those who do not see the sentence around it. */
  label: string;
  /** The grid's column, where it is called something shorter. */
  heading?: string;
  wide?: boolean;
  /** The rule's own name: once it is in the draft it stays. */
  isName?: boolean;
  /** What else changes with it. */
  also?: (value: never, before: Rule) => Partial<Rule>;
}
/** What a page knows of values that are typed. */
export type Offered =
  | 'fields'
  | 'forms'
  | 'channels'
  | 'sources'
  | 'mediums'
  | 'campaigns'
  | 'stages'
  | 'outcomes'
  | 'crmFields'
  | 'amounts'
  | 'paths'
  | 'elements'
  | 'wordsPressed'
  | 'links'
  | 'people'
  | 'pageSays';

/** One of a few words. */
export interface Choice<Rule> extends PartOf<Rule> {
  part: 'choice';
  /** `rule` is null where they are for all rules of the kind. */
  options: readonly Option[] | ((beside: Beside, rule: Rule | null) => readonly Option[]);
  /** Where the options are not at hand. */
  words?: (value: string) => string;
}
/** A text: a value as machines have it, or words. */
export interface Text<Rule> extends PartOf<Rule> {
  part: 'value' | 'words';
  /** What is read where there is none. */
  none: string;
  /** What there is to pick from, beside what may be typed. */
  offers?: Offered;
  tidy?: (text: string) => string;
}
/** A whole number, with its unit where the sentence has one. */
export interface Whole<Rule> extends PartOf<Rule> {
  part: 'number';
  unit?: readonly [one: string, many: string];
}
/** Some values, written with commas between them. */
export interface List<Rule> extends PartOf<Rule> {
  part: 'list';
  none: string;
  offers?: Offered;
  /** Values have no spaces in them. */
  oneWord?: boolean;
  /** What stands between two values, where that is no comma. */
  between?: string;
  tidy?: (text: string) => string;
}
/** Money; what is typed is a decimal number of its currency. */
export interface Amount<Rule> extends PartOf<Rule> {
  part: 'amount';
}
export type Part<Rule> = Choice<Rule> | Text<Rule> | Whole<Rule> | List<Rule> | Amount<Rule>;

/** Pieces that are there only for some of the rules. `textOnly`: always there to be changed, but said only then. */
interface When<Rule> {
  when: (rule: Rule, beside: Beside) => boolean;
  textOnly: boolean;
  pieces: Piece<Rule>[];
}
/** What is read in the sentence and changed elsewhere, such as a table beneath it. */
interface Told<Rule> {
  tells: (rule: Rule, beside: Beside) => string;
}
/** A part that has a column in the grid, and is changed elsewhere than in the sentence. */
interface InGrid<Rule> {
  inGrid: Part<Rule>;
}
/** How an item of a list stands in a cell of the grid. What cannot be read gives what the schema refuses. */
interface Celled {
  heading: string;
  write(item: unknown): string;
  read(text: string): unknown;
}
/** A list within a rule, each of its items a sentence of its own. */
export interface Each<Rule> {
  each: Within<Rule>;
  /** What one of them is called. */
  label: string;
  pieces: readonly Piece<unknown>[];
  /** What is read before the first, and between two. */
  before: string;
  between: string;
  /** What adds another one, as it stands in the sentence. */
  add: string;
  fresh: () => unknown;
  /** So many there always are. */
  least: number;
  most: number;
  /** Missing where the grid has no column for it. */
  cell?: Celled;
}
export type Piece<Rule> = string | Part<Rule> | When<Rule> | Told<Rule> | Each<Rule> | InGrid<Rule>;

type Rest<P> = Omit<P, 'part' | 'key' | 'label' | 'read' | 'write'>;

const withinOf = <Rule>(key: Key<Rule>): Within<Rule> =>
  typeof key === 'string'
    ? { key, read: (rule) => rule[key], write: (rule, value) => ({ ...rule, [key]: value as unknown }) }
    : key;

/** Makes the parts of one kind of rule's sentence. */
export const partsOf = <Rule>() => ({
  choice: (
    key: Key<Rule>,
    label: string,
    options: Choice<Rule>['options'],
    rest: Omit<Rest<Choice<Rule>>, 'options'> = {},
  ): Choice<Rule> => ({ part: 'choice', ...withinOf(key), label, options, ...rest }),
  value: (key: Key<Rule>, label: string, none: string, rest: Omit<Rest<Text<Rule>>, 'none'> = {}): Text<Rule> => ({
    part: 'value',
    ...withinOf(key),
    label,
    none,
    ...rest,
  }),
  words: (key: Key<Rule>, label: string, none: string, rest: Omit<Rest<Text<Rule>>, 'none'> = {}): Text<Rule> => ({
    part: 'words',
    ...withinOf(key),
    label,
    none,
    ...rest,
  }),
  number: (key: Key<Rule>, label: string, rest: Rest<Whole<Rule>> = {}): Whole<Rule> => ({
    part: 'number',
    ...withinOf(key),
    label,
    ...rest,
  }),
  list: (key: Key<Rule>, label: string, none: string, rest: Omit<Rest<List<Rule>>, 'none'> = {}): List<Rule> => ({
    part: 'list',
    ...withinOf(key),
    label,
    none,
    ...rest,
  }),
  amount: (key: Key<Rule>, label: string, rest: Rest<Amount<Rule>> = {}): Amount<Rule> => ({
    part: 'amount',
    ...withinOf(key),
    label,
    ...rest,
  }),
  /** There only for some of the rules. */
  when: (when: When<Rule>['when'], ...pieces: Piece<Rule>[]): When<Rule> => ({ when, textOnly: false, pieces }),
  /** Always there to be changed; said only where it says something. */
  said: (when: When<Rule>['when'], ...pieces: Piece<Rule>[]): When<Rule> => ({ when, textOnly: true, pieces }),
  told: (tells: Told<Rule>['tells']): Told<Rule> => ({ tells }),
  /** Not in the sentence: a column of the grid. */
  inGrid: (part: Part<Rule>): InGrid<Rule> => ({ inGrid: part }),
  /** A list, each of its items said by pieces of its own. */
  each: <Item>(
    key: Key<Rule>,
    label: string,
    pieces: readonly Piece<Item>[],
    {
      cell,
      ...rest
    }: Omit<Each<Rule>, 'each' | 'label' | 'pieces' | 'fresh' | 'cell'> & {
      fresh: () => Item;
      cell?: { heading: string; write(item: Item): string; read(text: string): Item };
    },
  ): Each<Rule> => ({
    each: withinOf(key),
    label,
    pieces: pieces as readonly Piece<unknown>[],
    ...rest,
    ...(cell ? { cell: cell as Celled } : {}),
  }),
});

/** The items of a list within a rule. */
export const itemsOf = <Rule>({ each }: Each<Rule>, rule: Rule): readonly unknown[] =>
  each.read(rule) as readonly unknown[];

/** What is shown of one item of a list within a rule: pieces of that rule, whose parts lead to the item. */
export function itemPieces<Rule>(list: Each<Rule>, at: number): Piece<Rule>[] {
  const itemOf = (rule: Rule) => itemsOf(list, rule)[at];
  const inItem = (piece: Piece<unknown>): Piece<Rule> => {
    if (typeof piece === 'string') return piece;
    if ('tells' in piece) return { tells: (rule, beside) => piece.tells(itemOf(rule), beside) };
    if ('when' in piece)
      return {
        when: (rule, beside) => piece.when(itemOf(rule), beside),
        textOnly: piece.textOnly,
        pieces: piece.pieces.map(inItem),
      };
    if ('each' in piece || 'inGrid' in piece) throw new Error('a list within a list has no sentence');
    const part = { ...piece };
    delete part.also;
    const options = 'options' in piece ? piece.options : undefined;
    return {
      ...(part as Part<Rule>),
      key: `${list.each.key}.${at}.${piece.key}`,
      label: `${piece.label}, ${list.label} ${at + 1}`,
      read: (rule) => piece.read(itemOf(rule)),
      write: (rule, value) =>
        list.each.write(
          rule,
          itemsOf(list, rule).map((item, i) => (i === at ? withPart(piece, item, value) : item)) as never,
        ),
      ...(typeof options === 'function'
        ? { options: (beside: Beside, rule: Rule | null) => options(beside, rule === null ? null : itemOf(rule)) }
        : {}),
    } as Part<Rule>;
  };
  return list.pieces.map(inItem);
}

/** What there is to choose; a value that is gone from it stands there all the same. */
export function optionsOf<Rule>(
  { options, read, words }: Choice<Rule>,
  rule: Rule | null,
  beside: Beside,
): readonly Option[] {
  const known = typeof options === 'function' ? options(beside, rule) : options;
  if (!rule) return known;
  const value = read(rule) as Plain;
  return known.some(([one]) => one === value) ? known : [...known, [value, words?.(String(value)) ?? String(value)]];
}

const sayAmount = (money: Money): string =>
  Number.isSafeInteger(money.minor) ? `${writeAmount(money)} ${money.currency}` : `an amount of ${money.currency}`;

function sayPart<Rule>(part: Part<Rule>, rule: Rule, beside: Beside): string {
  const value = part.read(rule);
  switch (part.part) {
    case 'choice':
      return optionsOf(part, rule, beside).find(([one]) => one === value)![1];
    case 'value':
      return value === '' ? part.none : quoteValue(String(value));
    case 'words':
      return String(value) || part.none;
    case 'number':
      return part.unit ? `${String(value)} ${part.unit[value === 1 ? 0 : 1]}` : String(value);
    case 'list':
      return (value as string[]).map(quoteValue).join(', ') || part.none;
    case 'amount':
      return sayAmount(value as Money);
  }
}

/** A rule's sentence as text; values stand in backticks. */
export function sayPieces<Rule>(pieces: readonly Piece<Rule>[], rule: Rule, beside: Beside = {}): string {
  return pieces
    .map((piece) => {
      if (typeof piece === 'string') return piece;
      if ('part' in piece) return sayPart(piece, rule, beside);
      if ('tells' in piece) return piece.tells(rule, beside);
      if ('inGrid' in piece) return '';
      if ('each' in piece)
        return itemsOf(piece, rule)
          .map((_, at) => (at === 0 ? piece.before : piece.between) + sayPieces(itemPieces(piece, at), rule, beside))
          .join('');
      return piece.when(rule, beside) ? sayPieces(piece.pieces, rule, beside) : '';
    })
    .join('');
}

/** The parts of a sentence, each once, in their order; those too that are there only for some of the rules. */
export function partsIn<Rule>(pieces: readonly Piece<Rule>[]): Part<Rule>[] {
  const parts = pieces.flatMap((piece): Part<Rule>[] => {
    if (typeof piece === 'string' || 'tells' in piece) return [];
    if ('part' in piece) return [piece];
    if ('inGrid' in piece) return [piece.inGrid];
    if ('each' in piece) return piece.cell ? [cellPart(piece, piece.cell)] : [];
    return partsIn(piece.pieces);
  });
  return parts.filter(({ key }, at) => parts.findIndex((other) => other.key === key) === at);
}

/** A list of items as the texts that stand in one cell. */
const cellPart = <Rule>({ each, label }: Each<Rule>, { heading, write, read }: Celled): List<Rule> => ({
  part: 'list',
  key: each.key,
  label,
  heading,
  wide: true,
  none: '',
  between: ';',
  read: (rule) => (each.read(rule) as unknown[]).map(write),
  write: (rule, texts: never) => each.write(rule, (texts as string[]).map(read) as never),
});

/** A rule with a part changed, and with what changes along with it. */
export function withPart<Rule>(part: Part<Rule>, rule: Rule, value: unknown): Rule {
  const also = part.also as ((value: unknown, before: Rule) => Partial<Rule>) | undefined;
  return { ...part.write(rule, value as never), ...also?.(value, rule) };
}

/** Values that are written with commas between them. */
export const listIn = (
  text: string,
  { oneWord, between = ',', tidy = (one) => one }: Pick<List<never>, 'oneWord' | 'between' | 'tidy'> = {},
): string[] =>
  text
    .split(oneWord ? /[\s,]+/ : between)
    .map((one) => tidy(one.trim()))
    .filter(Boolean);
