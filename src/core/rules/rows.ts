import type { CellColumn, Cells } from '../grid/cells';
import { readAmount, writeAmount, type Money } from '../outcomes';
import { listIn, optionsOf, partsIn, withPart, type Beside, type Option, type Part, type Piece } from './says';

/* Rules as rows of a grid. */

/** A column of the grid; one with options holds one of them, by its value or by its words. */
export interface RuleColumn extends CellColumn {
  wide: boolean;
  options?: readonly (readonly [value: string, words: string])[];
}

const asText = ([value, words, inGrid]: Option) => [String(value), inGrid ?? words] as const;

/** The columns of a kind's grid: the parts of its sentence, with what there is to choose. */
export const columnsOf = <Rule>(says: readonly Piece<Rule>[], beside: Beside): RuleColumn[] =>
  partsIn(says).map((part) => {
    const column = { key: part.key, heading: part.heading ?? part.label, wide: part.wide ?? false };
    if (part.part !== 'choice') return column;
    const options = optionsOf(part, null, beside).map(asText);
    // A text that is none of a column's options is left out.
    return { ...column, options, read: (text) => optionNamed(options, text) };
  });

/** A rule as a row. */
export const rowOf = <Rule>(says: readonly Piece<Rule>[], rule: Rule): Cells =>
  Object.fromEntries(
    partsIn(says).map((part) => {
      const value = part.read(rule);
      if (part.part === 'amount') return [part.key, writeAmount(value as Money)];
      const between = part.part === 'list' && part.between ? `${part.between} ` : ', ';
      return [part.key, Array.isArray(value) ? value.join(between) : String(value)];
    }),
  );

/** What a cell means for its part; what is wrong with it the kind's schema says. */
function read<Rule>(part: Part<Rule>, text: string, rule: Rule, beside: Beside): unknown {
  switch (part.part) {
    case 'choice':
      return optionsOf(part, null, beside).find(([value]) => String(value) === text)?.[0] ?? text;
    case 'number':
      return Number(text);
    case 'list':
      return listIn(text, part);
    case 'amount':
      return amountIn(text, part.read(rule) as Money);
    default:
      return text;
  }
}

/** A rule from a row. Cells that are empty or missing are as in a new one, and so is what no cell holds. */
export function ruleOf<Rule>(says: readonly Piece<Rule>[], row: Cells, start: Rule, beside: Beside): Rule {
  let rule = start;
  for (const part of partsIn(says)) {
    const text = row[part.key];
    if (text !== undefined && (text !== '' || part.part === 'list'))
      rule = withPart(part, rule, read(part, text, rule, beside));
  }
  return rule;
}

/** The option that a text means, whatever the letters' case; '' for none. */
const optionNamed = (options: NonNullable<RuleColumn['options']>, text: string): string => {
  const plain = text.trim().toLowerCase();
  return options.find(([value, words]) => value.toLowerCase() === plain || words.toLowerCase() === plain)?.[0] ?? '';
};

/** An amount as somebody writes it, of the currency it had; one that cannot be read has no minor units. */
export const amountIn = (text: string, { currency }: Money): Money =>
  readAmount(text.trim(), currency) ?? { minor: Number.NaN, currency };
