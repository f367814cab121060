import { faceOf } from '../destinations/faces';
import { goalName, takesGoals } from '../outcomes/goals';
import type { GoalRule } from '../outcomes/schema';
import { isShipped } from '../platforms/links';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { choice, told } = partsOf<GoalRule>();

/** That an outcome is offered to a place of the website's own reports as a goal. */
export const goal = defineRule<GoalRule>({
  station: 'Report-backs',
  at: inList(['goals'], ({ outcome, account }) => `${outcome} ${account}`),
  says: [
    told(({ outcome, account, kind }, { accounts = [], platforms = [] }) => {
      const face = faceOf(kind, platforms);
      const name = accounts.find(({ key }) => key === account)?.name ?? face?.words ?? account;
      return `Offer ${quoteValue(outcome)} to ${name} as the goal ${quoteValue(face ? goalName(outcome, face) : outcome)}, with what it is worth, where people agreed to `;
    }),
    choice('purpose', 'What people agreed to', [
      ['measurement', 'measurement'],
      ['advertising', 'advertising'],
    ]),
    '.',
  ],
  refs: ({ outcome, kind }) => [
    { kind: 'outcome', id: outcome },
    ...(isShipped(kind) || faceOf(kind, []) ? [] : [{ kind: 'platform' as const, id: kind }]),
  ],
  check({ kind, outcome }, content) {
    const face = faceOf(kind, content.platforms);
    if (!face || !takesGoals(face))
      return [
        {
          field: 'account',
          was: `${face?.words ?? quoteValue(kind)} is no place that takes every event under any name`,
          fix: 'Tell it as an outcome instead.',
        },
      ];
    const problem = face.named.problem(goalName(outcome, face));
    return problem ? [{ field: 'outcome', was: `its name there ${problem}`, fix: 'Use a shorter code.' }] : [];
  },
});
