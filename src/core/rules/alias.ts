import type { Alias } from '../plan/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { value, told, when } = partsOf<Alias>();

export const aliasId = ({ tag, value: from }: Pick<Alias, 'tag' | 'value'>) => `${tag}=${from}`;

/** A value that arrives although the plan does not know it, and what it means. */
export const alias = defineRule<Alias>({
  station: 'Plan',
  at: inList(['plan', 'aliases'], aliasId),
  says: [
    told(({ value: from, tag }) => `${quoteValue(from)} in ${quoteValue(tag)} is `),
    when(({ means }) => means !== '', 'read as ', value('means', 'What it means', 'nothing')),
    when(({ means }) => means === '', 'left as it is'),
    '.',
  ],
  refs: ({ tag }) => [{ kind: 'tag', id: tag, weighs: 'warns' }],
});
