import { isOfTouch, partWords } from '../leads/part-words';
import type { CrmWriteRule } from '../leads/schema';
import { quoteValue } from '../quote-value';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Option } from './says';
import { swapPiece } from './swap-part';

const { choice, list, told, said, when } = partsOf<CrmWriteRule>();

/** Whether it fills several fields with one touch after the other. */
const inTurn = ({ part, touch }: CrmWriteRule): boolean => isOfTouch(part) && touch === 'each';

/** What is written into fields of the CRM's records. */
export const crmWrite = defineRule<CrmWriteRule>({
  station: 'Leads',
  at: inList(['crmWrites'], ({ id }) => id),
  says: [
    'Write ',
    choice('part', 'What', Object.entries(partWords), { heading: 'Write', wide: true }),
    when(
      ({ part }) => isOfTouch(part),
      ' of ',
      choice('touch', 'Of which touch', [
        ['enquiry', 'the touch that brought the enquiry', 'the enquiry’s'],
        ['first', 'the first touch', 'the first'],
        ['each', 'each touch in turn', 'each in turn'],
      ]),
      swapPiece('as it is'),
    ),
    ' into ',
    list('fields', 'Fields of the CRM', 'a field', { offers: 'crmFields' }),
    when(
      inTurn,
      told(() => ', the first empty one each time; what is there stays'),
    ),
    said(
      (rule) => !inTurn(rule),
      ', ',
      choice('when', 'When', ({}, rule): readonly Option[] =>
        rule && inTurn(rule)
          ? [['empty', 'only where it is empty', 'only if empty']]
          : [
              ['empty', 'only where it is empty', 'only if empty'],
              ['own', 'also over what was written here or by the form before', 'over its own'],
              ['always', 'whatever is in it', 'always'],
            ],
      ),
    ),
    '.',
  ],
  start: (_beside, names) => ({
    id: newRuleId(names),
    part: 'words',
    touch: 'enquiry',
    swap: '',
    fields: [],
    when: 'empty',
  }),
  refs: ({ swap }) => (swap ? [{ kind: 'swap', id: swap }] : []),
  check(rule, { crm, crmWrites }) {
    const problems: RuleProblem[] = [];
    if (!crm)
      problems.push({ field: 'fields', was: 'no CRM is read', fix: 'Say first which CRM leads are read from.' });
    const taken = rule.fields.find((field) =>
      crmWrites.some((other) => other.id !== rule.id && other.fields.includes(field)),
    );
    if (taken !== undefined)
      problems.push({
        field: 'fields',
        was: `another rule writes ${quoteValue(taken)} too`,
        fix: 'Keep one of the two: of several rules for one field only the first is used.',
      });
    if (crm && rule.fields.includes(crm.leadTokenField))
      problems.push({
        field: 'fields',
        was: `${quoteValue(crm.leadTokenField)} holds the lead token, by which records find their visit`,
        fix: 'Choose another field.',
      });
    return problems;
  },
});

/** A name for a new rule that no other has; it stays when the rule's fields are changed. */
function newRuleId(names: string[]): string {
  for (let n = names.length + 1; ; n++) if (!names.includes(`write ${n}`)) return `write ${n}`;
}
