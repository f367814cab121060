import { counted } from '../counted';
import { listed } from '../listed';
import type { LadderRule, OutcomeRule } from '../outcomes/schema';
import { quoteValue } from '../quote-value';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { choice, list, words } = partsOf<LadderRule>();

/** What reaches an outcome, as far as several can be reached by the same one; each event, page or row of a file is one alone. */
function reachedOf({ reachedBy: { kind }, countedOnceFor }: OutcomeRule): string {
  if (kind === 'stage' || kind === 'field') return 'deal';
  if (kind === 'order' || (kind === 'postback' && countedOnceFor === 'order')) return 'order';
  return kind === 'postback' ? 'subscription' : 'alone';
}

/** The first step that adds to nothing that was reached before it; undefined where all of them can. */
const apartFrom = (steps: readonly OutcomeRule[]): OutcomeRule | undefined =>
  steps.find((step) => reachedOf(step) === 'alone' || reachedOf(step) !== reachedOf(steps[0]!));

/** Outcomes that one deal reaches one after the other, and how they are told without counting it twice. */
export const ladder = defineRule<LadderRule>({
  station: 'Report-backs',
  at: inList(['ladders'], ({ name }) => name),
  calls: (name) => `the ladder ${quoteValue(name)}`,
  says: [
    'On the ladder ',
    words('name', 'What people call it', 'a name', { isName: true }),
    ', ',
    list('steps', 'Its steps', 'no outcomes', {
      offers: 'outcomes',
      oneWord: true,
      tidy: (text) => text.toUpperCase(),
    }),
    ' are reached one after the other, and ',
    choice('tells', 'How they are told', [
      ['what it adds', 'each tells only what it adds to those before it', 'each adds'],
      ['one bids', 'only one of them lets a platform bid, with its whole worth', 'one bids'],
    ]),
    '.',
  ],
  start: ({ outcomes = [] }) => ({
    name: '',
    steps: outcomes.map(({ code }) => code).slice(0, 2),
    tells: 'what it adds',
  }),
  refs: ({ steps }) => steps.map((id) => ({ kind: 'outcome', id })),
  check({ name, steps, tells }, { ladders, telling, outcomes }) {
    const found: RuleProblem[] = [];
    const twice = steps.filter((step, at) => steps.indexOf(step) !== at);
    if (twice.length > 0)
      found.push({ field: 'steps', was: `${listed(twice.map(quoteValue))} is there twice`, fix: 'Leave it in once.' });
    const others = ladders.filter((one) => one.name !== name);
    const onOthers = steps.filter((step) => others.some((one) => one.steps.includes(step)));
    if (onOthers.length > 0)
      found.push({
        field: 'steps',
        was: `${listed(onOthers.map(quoteValue))} ${onOthers.length === 1 ? 'is' : 'are'} on another ladder`,
        fix: 'Leave it on one of them.',
      });
    if (tells === 'what it adds') {
      const apart = apartFrom(steps.flatMap((step) => outcomes.find(({ code }) => code === step) ?? []));
      if (apart)
        found.push({
          field: 'tells',
          was: `${quoteValue(apart.code)} is not reached by the same deal, order or subscription as the steps before it`,
          fix: 'Leave it out, or let only one of them bid.',
        });
      return found;
    }
    const bidding = telling.filter(({ outcome, letsItBid }) => letsItBid && steps.includes(outcome));
    for (const account of new Set(bidding.map((one) => one.account))) {
      const own = bidding.filter((one) => one.account === account).map(({ outcome }) => outcome);
      if (own.length > 1)
        found.push({
          field: 'tells',
          was: `${quoteValue(account)} may bid on ${counted(own.length, 'step', 'steps')} of it, ${listed(own.map(quoteValue))}, each with its whole worth`,
          fix: 'Let it bid on one, or let each tell what it adds.',
        });
    }
    return found;
  },
});
