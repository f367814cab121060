import type { CountedOnceFor, OutcomeKind, OutcomeRule, WorthRule } from '../outcomes/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { checkReached, once, onceFor, reachedPieces } from './outcome-reached';
import { partsOf, type Option, type Within } from './says';

const { amount, choice, value, words, number, list, when, said } = partsOf<OutcomeRule>();

/** What an outcome is worth by another kind of rule; what both kinds have stays. */
function worthAs(kind: WorthRule['kind'], before: WorthRule): WorthRule {
  const field = 'field' in before ? before.field : '';
  switch (kind) {
    case 'none':
      return { kind };
    case 'fixed':
      return before.kind === 'fixed' ? before : { kind, amount: { minor: 0, currency: 'GBP' } };
    case 'realised':
      return before.kind === 'realised' ? before : { kind, field, less: [] };
    case 'expected':
      return before.kind === 'expected' ? before : { kind, field, winRate: { won: 1, of: 4 } };
  }
}
const worth: Within<OutcomeRule> = {
  key: 'worth',
  read: (rule) => rule.worth.kind,
  write: (rule, kind: WorthRule['kind']) => ({ ...rule, worth: worthAs(kind, rule.worth) }),
};
/** What lies within a worth of one kind. */
const ofWorth = <Kind extends WorthRule['kind']>(
  kind: Kind,
  key: string,
  read: (worth: Extract<WorthRule, { kind: Kind }>) => unknown,
  write: (worth: Extract<WorthRule, { kind: Kind }>, value: never) => WorthRule,
): Within<OutcomeRule> => ({
  key,
  read: (rule) => (rule.worth.kind === kind ? read(rule.worth as never) : ''),
  write: (rule, to) => (rule.worth.kind === kind ? { ...rule, worth: write(rule.worth as never, to) } : rule),
});
const fixedAmount = ofWorth(
  'fixed',
  'amount',
  (fixed) => fixed.amount,
  (fixed, to) => ({ ...fixed, amount: to }),
);
const currency = ofWorth(
  'fixed',
  'currency',
  (fixed) => fixed.amount.currency,
  (fixed, to: string) => ({ ...fixed, amount: { ...fixed.amount, currency: to.trim().toUpperCase() } }),
);
const field: Within<OutcomeRule> = {
  key: 'field',
  read: (rule) => ('field' in rule.worth ? rule.worth.field : ''),
  write: (rule, name: string) => ('field' in rule.worth ? { ...rule, worth: { ...rule.worth, field: name } } : rule),
};
const less = ofWorth(
  'realised',
  'less',
  (realised) => realised.less,
  (realised, to) => ({ ...realised, less: to }),
);
const won = ofWorth(
  'expected',
  'won',
  ({ winRate }) => winRate.won,
  (expected, to) => ({ ...expected, winRate: { ...expected.winRate, won: to } }),
);
const outOf = ofWorth(
  'expected',
  'of',
  ({ winRate }) => winRate.of,
  (expected, to) => ({ ...expected, winRate: { ...expected.winRate, of: to } }),
);

const kindOptions: [kind: OutcomeKind, words: string][] = [
  ['interest', 'an interest'],
  ['enquiry', 'an enquiry'],
  ['agreement', 'an agreement'],
  ['payment', 'a payment'],
  ['renewal', 'a renewal'],
  ['undone', 'something undone'],
];

/** Something that counts as a conversion: what reaches it, what it is worth, what it is counted once for. */
export const outcome = defineRule<OutcomeRule>({
  station: 'Report-backs',
  at: inList(['outcomes'], ({ code }) => code),
  calls: (code) => `the outcome ${code}`,
  says: [
    ...reachedPieces,
    ', count ',
    value('code', 'Code of the outcome', 'a code', { isName: true, tidy: (text) => text.trim().toUpperCase() }),
    ', called ',
    words('words', 'What people call it', 'a name'),
    ', as ',
    choice('kind', 'What it is to the business', kindOptions),
    ', once for each ',
    choice('countedOnceFor', 'Counted once for each', (_beside, rule): Option[] =>
      (rule ? onceFor[rule.reachedBy.kind] : (Object.keys(once) as CountedOnceFor[])).map((one) => [one, once[one]]),
    ),
    ', worth ',
    choice(worth, 'What it is worth', [
      ['none', 'nothing that is known'],
      ['fixed', 'always'],
      ['realised', 'the amount'],
      ['expected', 'what is usually won of the amount'],
    ]),
    when(
      (rule) => rule.worth.kind === 'fixed',
      ' ',
      amount(fixedAmount, 'Amount'),
      ' ',
      value(currency, 'Currency', 'a currency'),
    ),
    when((rule) => 'field' in rule.worth, ' ', value(field, 'Amount field', 'an amount', { offers: 'amounts' })),
    when(
      (rule) => rule.worth.kind === 'realised',
      said(
        (rule) => rule.worth.kind === 'realised' && rule.worth.less.length > 0,
        ' less ',
        list(less, 'Taken off it', 'nothing', { offers: 'amounts', oneWord: true }),
      ),
    ),
    when(
      (rule) => rule.worth.kind === 'expected',
      ', ',
      number(won, 'How many are won'),
      ' of ',
      number(outOf, 'Of how many'),
    ),
    ', if the click is no older than ',
    number('clickDays', 'Oldest click', { unit: ['day', 'days'] }),
    '.',
  ],
  start: ({ crm }) => ({
    code: '',
    version: 1,
    words: '',
    kind: crm ? 'enquiry' : 'payment',
    reachedBy: crm ? { kind: 'stage', stage: '' } : { kind: 'order' },
    worth: { kind: 'none' },
    countedOnceFor: crm ? 'enquiry' : 'order',
    clickDays: 90,
  }),
  refs: ({ reachedBy: by }) => (by.kind === 'event' && by.event !== '' ? [{ kind: 'event', id: by.event }] : []),
  check(rule, content) {
    const { code } = rule;
    const { plan } = content;
    const found: RuleProblem[] = checkReached(rule, content);
    const { beginnings } = plan.outcomeCodes;
    if (beginnings.length > 0 && !beginnings.some((one) => code.startsWith(`${one.code}-`)))
      found.push({
        field: 'code',
        weighs: 'warns',
        was: `${quoteValue(code)} does not begin as the plan’s codes do`,
        fix: `Begin it with ${listed(
          beginnings.map((one) => quoteValue(`${one.code}-`)),
          'or',
        )}, or add its beginning to the plan.`,
      });
    return found;
  },
});
