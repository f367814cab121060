import { checkTagRule } from '../plan/check-rule';
import { tagRule } from '../plan/first-plan';
import type { TagRule } from '../plan/schema';
import { listed } from '../listed';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { choice, value, words, number, when, said } = partsOf<TagRule>();

/** What the values of one tag of links must be like. */
export const tag = defineRule<TagRule>({
  station: 'Plan',
  at: inList(['plan', 'tags'], (rule) => rule.tag),
  calls: (name) => `the tag ${quoteValue(name)}`,
  says: [
    words('name', 'What the tag is called', 'Name it'),
    ' is ',
    value('tag', 'Query name', 'query name', { isName: true, tidy: (text) => text.trim() }),
    ' in links. It is ',
    choice('entry', 'Picked or typed', [
      ['picked', 'picked from its values'],
      ['typed', 'typed'],
    ]),
    when(
      ({ entry }) => entry === 'typed',
      said(
        ({ named }) => named,
        '; ',
        choice('named', 'Campaign name or any text', [
          [false, 'it is any text'],
          [true, 'it is a campaign name of the plan'],
        ]),
      ),
      said(({ pattern }) => pattern !== '', ' and fits ', value('pattern', 'Pattern', 'any pattern')),
    ),
    ', in ',
    choice('letters', 'Letters', [
      ['lower', 'lower case'],
      ['upper', 'upper case'],
      ['any', 'any case'],
    ]),
    ', its words ',
    choice('separator', 'Separator', [
      ['-', 'joined by -'],
      ['_', 'joined by _'],
      ['.', 'joined by .'],
      ['', 'joined by anything'],
    ]),
    ', at most ',
    number('longest', 'Greatest length'),
    ' characters. ',
    choice('required', 'Required', [
      [true, 'Every link has it'],
      [false, 'A link may go without it'],
    ]),
    said(({ example }) => example !== '', ', for example ', value('example', 'Example', 'an example')),
    '.',
  ],
  start: () => tagRule('', ''),
  /** What a change does to its values and its note. */
  details(before, after) {
    const values = (rule: TagRule) => new Map(rule.values.map(({ value, label }) => [value, label]));
    const [was, will] = [values(before), values(after)];
    const quoted = (list: string[]) => listed(list.map((one) => quoteValue(one)));
    const taken = [...will.keys()].filter((one) => !was.has(one));
    const gone = [...was.keys()].filter((one) => !will.has(one));
    const relabelled = [...will].filter(([one, label]) => was.has(one) && was.get(one) !== label);
    return [
      ...(taken.length > 0 ? [`Takes in ${quoted(taken)}.`] : []),
      ...(gone.length > 0 ? [`Takes out ${quoted(gone)}.`] : []),
      ...relabelled.map(([one, label]) => `${quoteValue(one)} is read as “${label || one}”.`),
      ...(before.note !== after.note ? [`Its note is “${after.note}”.`] : []),
    ];
  },
  check: checkTagRule,
});
