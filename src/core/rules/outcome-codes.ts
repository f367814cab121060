import type { OutcomeCodeRule } from '../plan/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

const { number, told, when } = partsOf<OutcomeCodeRule>();

/** What outcome codes look like. */
export const outcomeCodes = defineRule<OutcomeCodeRule>({
  station: 'Plan',
  at: inOne(['plan', 'outcomeCodes']),
  says: [
    'An outcome’s code is ',
    told(({ beginnings }) =>
      beginnings.length === 0
        ? 'a beginning, of which there is none yet'
        : listed(
            beginnings.map(({ code, label }) => `${quoteValue(code)} for ${label}`),
            'or',
          ),
    ),
    ', a hyphen, and what happened in 2 to ',
    number('longest', 'Most letters of what happened'),
    ' capital letters',
    when(({ beginnings }) => beginnings.length > 0, '; its version and its words follow'),
    '.',
  ],
});
