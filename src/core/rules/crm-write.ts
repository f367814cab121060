import { isUsual, readingName } from '../events/words';
import { isOfTouch, partWords } from '../leads/part-words';
import type { CrmWriteRule } from '../leads/schema';
import { quoteValue } from '../quote-value';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Beside, type Option } from './says';
import { swapPiece } from './swap-part';

const { choice, list, told, when } = partsOf<CrmWriteRule>();

/** Readings that some event takes along: the others are not stored. */
const takenOptions = ({ events }: Beside, rule: CrmWriteRule | null): readonly Option[] => {
  const taken = [...new Set((events?.events ?? []).flatMap(({ reads }) => reads))];
  const ids = rule?.reading && !taken.includes(rule.reading) ? [...taken, rule.reading] : taken;
  return [
    ...(rule?.reading ? [] : [['', 'which?', '–'] as const]),
    ...ids.map((id): Option => [id, readingName(id, events?.readings), id]),
  ];
};

/** Whether it fills several fields with one touch after the other. */
const inTurn = ({ part, touch }: CrmWriteRule): boolean => isOfTouch(part) && touch === 'each';

/** What is written into fields of the CRM's records. */
export const crmWrite = defineRule<CrmWriteRule>({
  station: 'Leads',
  at: inList(['crmWrites'], ({ id }) => id),
  says: [
    'Write ',
    choice('part', 'What', Object.entries(partWords), {
      heading: 'Write',
      wide: true,
      also: () => ({ reading: '' }),
    }),
    when(
      ({ part }) => part === 'reading',
      ' ',
      choice('reading', 'Reading', takenOptions, { heading: 'Reading', words: (id) => readingName(id) }),
    ),
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
    when(
      (rule) => !inTurn(rule),
      ', ',
      choice('when', 'When', [
        ['empty', 'only where it is empty', 'only if empty'],
        ['own', 'also over what was written here or by the form before', 'over its own'],
        ['always', 'whatever is in it', 'always'],
      ]),
    ),
    '.',
  ],
  start: (_beside, names) => ({
    id: newRuleId(names),
    part: 'words',
    reading: '',
    touch: 'enquiry',
    swap: '',
    fields: [],
    when: 'empty',
  }),
  refs: ({ swap, reading }) => [
    ...(swap ? [{ kind: 'swap', id: swap }] : []),
    ...(reading && !isUsual(reading) ? [{ kind: 'reading', id: reading }] : []),
  ],
  check(rule, { crm, crmWrites, events }) {
    const problems: RuleProblem[] = [];
    if (rule.part === 'reading' && rule.reading === '')
      problems.push({ field: 'reading', was: 'no reading is chosen', fix: 'Choose one that an event takes along.' });
    else if (rule.part === 'reading' && !events.events.some(({ reads }) => reads.includes(rule.reading)))
      problems.push({
        field: 'reading',
        was: `no event takes ${quoteValue(rule.reading)} along, so nothing is known of it`,
        fix: 'Have an event take it along, or choose another reading.',
        weighs: 'warns',
      });
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
