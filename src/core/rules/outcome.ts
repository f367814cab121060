import type { CountedOnceFor, OutcomeRule, WorthRule } from '../outcomes/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Option, type Within } from './says';

const { amount, choice, value, words, number, list, when, said } = partsOf<OutcomeRule>();

const reachedBy: Within<OutcomeRule> = {
  key: 'reachedBy',
  read: (rule) => rule.reachedBy.kind,
  write: (rule, kind: OutcomeRule['reachedBy']['kind']) =>
    kind === rule.reachedBy.kind
      ? rule
      : kind === 'stage'
        ? { ...rule, reachedBy: { kind, stage: '' }, countedOnceFor: 'enquiry' }
        : kind === 'postback'
          ? { ...rule, reachedBy: { kind, sender: '', step: '' }, countedOnceFor: 'order' }
          : { ...rule, reachedBy: { kind }, countedOnceFor: 'order' },
};
const stage: Within<OutcomeRule> = {
  key: 'stage',
  read: (rule) => (rule.reachedBy.kind === 'stage' ? rule.reachedBy.stage : ''),
  write: (rule, name: string) => ({ ...rule, reachedBy: { kind: 'stage', stage: name } }),
};

/** What lies within a postback that reaches it. */
const ofPostback = (key: 'sender' | 'step'): Within<OutcomeRule> => ({
  key,
  read: ({ reachedBy: by }) => (by.kind === 'postback' ? by[key] : ''),
  write: (rule, to: string) =>
    rule.reachedBy.kind === 'postback' ? { ...rule, reachedBy: { ...rule.reachedBy, [key]: to } } : rule,
});
const sender = ofPostback('sender');
const step = ofPostback('step');
const isPosted = ({ reachedBy: by }: OutcomeRule): boolean => by.kind === 'postback';
/** What a part picks from, with one that is written and not known. */
const withWritten = (names: readonly (readonly [string, string])[], written: string, none: string): Option[] => [
  ...(written === '' ? [['', none] as const] : []),
  ...(written !== '' && !names.some(([name]) => name === written) ? [[written, written] as const] : []),
  ...names,
];

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

const once: Record<CountedOnceFor, string> = {
  enquiry: 'enquiry',
  deal: 'deal',
  lead: 'lead',
  order: 'order',
  subscription: 'subscription',
  payment: 'payment',
};
/** What each way of reaching an outcome can be counted once for. */
const onceFor: Record<OutcomeRule['reachedBy']['kind'], readonly CountedOnceFor[]> = {
  stage: ['enquiry', 'deal', 'lead'],
  order: ['order'],
  postback: ['order', 'subscription', 'payment'],
};

/** Something that counts as a conversion: what reaches it, what it is worth, what it is counted once for. */
export const outcome = defineRule<OutcomeRule>({
  station: 'Report-backs',
  at: inList(['outcomes'], ({ code }) => code),
  calls: (code) => `the outcome ${code}`,
  says: [
    choice(reachedBy, 'What reaches it', [
      ['stage', 'When a deal reaches'],
      ['order', 'When somebody orders'],
      ['postback', 'When a postback of'],
    ]),
    when(
      isPosted,
      ' ',
      choice(
        sender,
        'Sender',
        ({ senders = [] }, rule): Option[] =>
          withWritten(
            senders.map(({ key, name }) => [key, name] as const),
            rule?.reachedBy.kind === 'postback' ? rule.reachedBy.sender : '',
            'a sender',
          ),
        { words: (key) => key },
      ),
      ' says ',
      choice(
        step,
        'Step',
        ({ senders = [] }, rule): Option[] => {
          const by = rule?.reachedBy.kind === 'postback' ? rule.reachedBy : { sender: '', step: '' };
          const known = senders.find(({ key }) => key === by.sender)?.steps ?? [];
          return withWritten(
            known.map((one) => [one, one] as const),
            by.step,
            'a step',
          );
        },
        { words: (name) => name },
      ),
    ),
    when(
      (rule) => rule.reachedBy.kind === 'stage',
      ' ',
      choice(
        stage,
        'Stage',
        ({ crm }, rule): Option[] => [
          ...(rule?.reachedBy.kind === 'stage' && rule.reachedBy.stage ? [] : [['', 'a stage'] as const]),
          ...(crm?.stages.inOrder ?? []).map((name): Option => [name, name]),
        ],
        { words: (name) => name },
      ),
      ' or a later stage',
    ),
    ', count ',
    value('code', 'Code of the outcome', 'a code', { isName: true, tidy: (text) => text.trim().toUpperCase() }),
    ', called ',
    words('words', 'What people call it', 'a name'),
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
    reachedBy: crm ? { kind: 'stage', stage: '' } : { kind: 'order' },
    worth: { kind: 'none' },
    countedOnceFor: crm ? 'enquiry' : 'order',
    clickDays: 90,
  }),
  check({ code, reachedBy: by, countedOnceFor }, { crm, plan }) {
    const found: RuleProblem[] = [];
    const stages = crm?.stages.inOrder ?? [];
    if (by.kind === 'stage' && !crm)
      found.push({
        field: 'stage',
        was: 'no CRM is read, so no deal reaches a stage',
        fix: 'Say which CRM is read first.',
      });
    else if (by.kind === 'stage' && !stages.includes(by.stage))
      found.push({
        field: 'stage',
        was: by.stage === '' ? 'the stage is missing' : `“${by.stage}” is no stage of the CRM`,
        fix: `Choose ${listed(
          stages.map((stage) => `“${stage}”`),
          'or',
        )}.`,
      });
    if (by.kind === 'postback' && (by.sender === '' || by.step === ''))
      found.push({
        field: by.sender === '' ? 'sender' : 'step',
        was: by.sender === '' ? 'it is not said who posts it' : 'it is not said which step it is',
        fix: 'Choose one; senders and what their steps mean are set up in Report-backs, Postbacks.',
      });
    if (!onceFor[by.kind].includes(countedOnceFor))
      found.push({
        field: 'countedOnceFor',
        was: `it would never be counted once for each ${once[countedOnceFor]}`,
        fix: `Choose ${listed([...onceFor[by.kind]], 'or')}.`,
      });
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
