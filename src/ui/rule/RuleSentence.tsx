import { X } from 'lucide-react';
import { Fragment, useEffect, useRef, useState } from 'react';
import { ruleKinds, type RuleKindName, type RuleOf } from '../../core/rules';
import {
  itemPieces,
  itemsOf,
  listIn,
  optionsOf,
  withPart,
  type Beside,
  type Each,
  type List,
  type Offered,
  type Part,
  type Piece,
} from '../../core/rules/says';
import type { Money } from '../../core/outcomes';
import { quoteValue } from '../../core/quote-value';
import { Words } from '../text/Words';
import { AmountPart, ChoicePart, NumberPart, TextPart } from './parts';

export type Offers = Partial<Record<Offered, readonly string[]>>;

interface Props<Rule> {
  rule: Rule;
  onEdit: (rule: Rule) => void;
  /** Rules that its parts are picked from. */
  beside: Beside;
  disabled: boolean;
  /** A new one may still be named. */
  isNew?: boolean;
  /** What is known of values that are typed, by what the parts call it. */
  offers?: Offers;
}

/** A rule as its sentence, whose parts are changed in place. */
export function RuleSentence<Kind extends RuleKindName>({
  kind,
  className = 'px-5 py-4 text-[17px] leading-[1.9]',
  ...props
}: Props<RuleOf<Kind>> & { kind: Kind; className?: string }) {
  const { says } = ruleKinds[kind] as unknown as { says: Piece<RuleOf<Kind>>[] };
  return <Sentence pieces={says} className={className} {...props} />;
}

/** Anything that is a sentence of parts, changed in place. */
export function Sentence<Rule>({
  className,
  ...props
}: Props<Rule> & { pieces: readonly Piece<Rule>[]; className: string }) {
  return (
    <div className={className} data-sentence>
      <Pieces {...props} />
    </div>
  );
}

/** Takes an item of a list out, or adds one. */
interface Change<Rule> {
  list: Each<Rule>;
  /** The item that goes; null to add one. */
  at: number | null;
}
type Shown<Rule> = string | Part<Rule> | Change<Rule>;

const isChange = <Rule,>(piece: Shown<Rule> | undefined): piece is Change<Rule> =>
  typeof piece === 'object' && 'list' in piece;

/** What of a sentence is shown: texts, parts to change, and what changes its lists. */
function shownOf<Rule>(pieces: readonly Piece<Rule>[], rule: Rule, beside: Beside): Shown<Rule>[] {
  return pieces.flatMap((piece): Shown<Rule>[] => {
    if (typeof piece === 'string' || 'part' in piece) return [piece];
    if ('tells' in piece) return [piece.tells(rule, beside)];
    if ('inGrid' in piece) return [];
    if ('each' in piece) return shownList(piece, rule, beside);
    return piece.textOnly || piece.when(rule, beside) ? shownOf(piece.pieces, rule, beside) : [];
  });
}

function shownList<Rule>(list: Each<Rule>, rule: Rule, beside: Beside): Shown<Rule>[] {
  const items = itemsOf(list, rule);
  const shown = items.flatMap((_, at): Shown<Rule>[] => [
    at === 0 ? list.before : list.between,
    ...shownOf(itemPieces(list, at), rule, beside),
    ...(items.length > list.least ? [{ list, at }] : []),
  ]);
  return items.length < list.most ? [...shown, { list, at: null }] : shown;
}

/** Marks that must not begin a line. */
const closing = /^[.,;:”]+/;

function Pieces<Rule>({ pieces, ...props }: Props<Rule> & { pieces: readonly Piece<Rule>[] }) {
  const shown = shownOf(pieces, props.rule, props.beside).filter(
    (piece) => !(props.disabled && typeof piece === 'object' && 'list' in piece),
  );
  return shown.map((piece, at) => {
    const [before, after] = [shown[at - 1], shown[at + 1]];
    if (typeof piece === 'string')
      return <Words key={at} text={typeof before === 'object' ? piece.replace(closing, '') : piece} />;
    // It is drawn with the part before it, that no line begins with it.
    if (isChange(piece) && piece.at !== null) return null;
    const [goes, next] = isChange(after) && after.at !== null ? [after, shown[at + 2]] : [null, after];
    const mark = typeof next === 'string' ? (closing.exec(next)?.[0] ?? '') : '';
    const key = isChange(piece) ? `${piece.list.each.key} more` : piece.key;
    const one = isChange(piece) ? <ChangeList {...piece} {...props} /> : <PartOf part={piece} {...props} />;
    if (!goes && mark === '') return <Fragment key={key}>{one}</Fragment>;
    return (
      <span key={key} className="whitespace-nowrap">
        {one}
        {goes && <ChangeList {...goes} {...props} />}
        {mark}
      </span>
    );
  });
}

function ChangeList<Rule>({ list, at, rule, onEdit }: Change<Rule> & Pick<Props<Rule>, 'rule' | 'onEdit'>) {
  const items = itemsOf(list, rule);
  const set = (next: readonly unknown[]) => onEdit(list.each.write(rule, next as never));
  const [adds, toAdd] = useAddedPart();
  if (at === null)
    return (
      <>
        {' '}
        <button
          type="button"
          className="part part-more"
          ref={adds}
          onClick={() => {
            toAdd();
            set([...items, list.fresh()]);
          }}
        >
          {list.add}
        </button>
      </>
    );
  return (
    <button
      type="button"
      className="text-quiet hover:text-error ml-1 cursor-pointer align-middle"
      aria-label={`Take out ${list.label} ${at + 1}`}
      onClick={() => set(items.filter((_, i) => i !== at))}
    >
      <X size={15} aria-hidden />
    </button>
  );
}

/** Goes on to the first part of what a button adds to its sentence. @returns the button's ref, and what says that it adds */
function useAddedPart() {
  const button = useRef<HTMLButtonElement>(null);
  const before = useRef<Set<Element> | null>(null);
  const partsNow = () => [
    ...(button.current?.closest('[data-sentence]')?.querySelectorAll<HTMLElement>('select, input') ?? []),
  ];
  useEffect(() => {
    const known = before.current;
    if (!known) return;
    before.current = null;
    partsNow()
      .find((one) => !known.has(one))
      ?.focus();
  });
  return [button, () => (before.current = new Set(partsNow()))] as const;
}

function PartOf<Rule>({
  part,
  rule,
  onEdit,
  beside,
  disabled,
  isNew = false,
  offers = {},
}: Props<Rule> & { part: Part<Rule> }) {
  const known = ('offers' in part && part.offers && offers[part.offers]) || [];
  const value = part.read(rule);
  const set = (next: unknown) => onEdit(withPart(part, rule, next));
  const { label } = part;
  if (part.isName && !isNew && part.part === 'value') return <Words text={quoteValue(String(value))} />;
  switch (part.part) {
    case 'choice': {
      const options = optionsOf(part, rule, beside);
      return (
        <ChoicePart
          label={label}
          value={String(value)}
          disabled={disabled}
          options={options.map(([one, words]) => [String(one), words])}
          onChange={(text) => set(options.find(([one]) => String(one) === text)![0])}
        />
      );
    }
    case 'number':
      return (
        <>
          <NumberPart label={label} value={Number(value)} disabled={disabled} onChange={set} />
          {part.unit && ` ${part.unit[value === 1 ? 0 : 1]}`}
        </>
      );
    case 'amount':
      return <AmountPart label={label} value={value as Money} disabled={disabled} onChange={set} />;
    case 'list':
      return <ListPart part={part} values={value as string[]} known={known} disabled={disabled} onChange={set} />;
    default:
      return (
        <TextPart
          label={label}
          value={String(value)}
          placeholder={part.none}
          isValue={part.part === 'value'}
          disabled={disabled || (part.isName === true && !isNew)}
          onChange={(text) => set(part.tidy ? part.tidy(text) : text)}
          choices={known.map((one) => ({ value: one }))}
        />
      );
  }
}

/** A part that is some values, written with commas between them; what is typed stays as it is typed. */
function ListPart<Rule>({
  part,
  values,
  known,
  disabled,
  onChange,
}: {
  part: List<Rule>;
  values: string[];
  known: readonly string[];
  disabled: boolean;
  onChange: (values: string[]) => void;
}) {
  const [text, setText] = useState(values.join(', '));
  // A value that came from elsewhere, such as Undo, takes the place of what was typed.
  const typed = listIn(text, part);
  const shown = JSON.stringify(typed) === JSON.stringify(values) ? text : values.join(', ');
  // The last one is being typed.
  const begun = listIn(shown.slice(0, shown.lastIndexOf(',') + 1), part);
  return (
    <TextPart
      label={part.label}
      value={shown}
      placeholder={part.none}
      disabled={disabled}
      onChange={(next) => {
        setText(next);
        onChange(listIn(next, part));
      }}
      choices={known
        .filter((one) => !values.includes(one))
        .map((one) => ({ value: [...begun, one].join(', '), label: one, isShort: true }))}
    />
  );
}
