import { checkSource } from '../plan/check-rule';
import type { SourceRule } from '../plan/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { value, list, said } = partsOf<SourceRule>();

/** Which media a source goes with, and what a partner prescribes for every link that names it. */
export const source = defineRule<SourceRule>({
  station: 'Plan',
  at: inList(['plan', 'sources'], (rule) => rule.source),
  calls: (name) => `the media of ${quoteValue(name)}`,
  says: [
    value('source', 'Source', 'a source', { isName: true, offers: 'sources', tidy: (text) => text.trim() }),
    ' goes with ',
    list('mediums', 'Media', 'any medium', { offers: 'mediums', oneWord: true }),
    said(
      ({ fixed }) => fixed.length > 0,
      '; its links always have ',
      list('fixed', 'Tags it prescribes', 'nothing else', { oneWord: true }),
    ),
    '.',
  ],
  start: () => ({ source: '', mediums: [], fixed: [] }),
  check: (rule, { plan }) => checkSource(rule, plan),
});
