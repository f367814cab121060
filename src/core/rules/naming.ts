import { checkNaming } from '../plan/names';
import type { NamePart, Naming } from '../plan/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

const { when, told } = partsOf<Naming>();

/** The pattern with its parts as people call them. */
const patternWords = ({ pattern, parts }: Naming): string =>
  pattern.replace(/\{([^{}]*)\}/g, (_, key: string) => `‹${parts.find((part) => part.key === key)?.label || key}›`);

const partSentence = (part: NamePart): string =>
  `${part.label.toLowerCase()} ${
    {
      listed: `one of ${part.values.map((one) => quoteValue(one.value)).join(', ')}`,
      digits: part.digits === 1 ? 'a digit' : `${part.digits} digits`,
      word: 'one word',
      words: 'words with hyphens',
    }[part.kind]
  }`;

/** How campaign names are put together from parts. */
export const naming = defineRule<Naming>({
  station: 'Plan',
  at: inOne(['plan', 'naming']),
  says: [
    'A campaign name is ',
    told((naming) => (naming.pattern === '' ? 'not put together from parts' : quoteValue(patternWords(naming)))),
    when(
      ({ pattern }) => pattern !== '',
      told(({ parts }) => `: ${listed(parts.map(partSentence))}`),
    ),
    '.',
  ],
  check: checkNaming,
});
