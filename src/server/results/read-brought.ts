import type { Sequelize } from 'sequelize';
import { broughtBy, stepsBefore, type BroughtRules, type CountedOutcome } from '../../core/results/brought';
import { exchangeBy } from '../../core/results/exchange';
import { groupBy } from '../../core/group-by';
import { dayIn } from '../days';
import { inParts } from '../lists';
import type { AskedFigures } from './asked-figures';
import { readRates } from './cost-queries';
import { readSteps, type ReachedRow } from './queries';
import { distinct } from './read-paths';

/** What outcomes count for and brought, in the business's currency. */
export async function readBrought(
  db: Sequelize,
  { businessId, rules, timeZone, currency }: AskedFigures,
  reached: readonly ReachedRow[],
) {
  const [before, rates] = await Promise.all([readBefore(db, businessId, reached, rules), readRates(db, businessId)]);
  const exchange = exchangeBy(rates, currency);
  const withoutRate: string[] = [];
  const known = new Map(
    reached.map((row) => {
      const day = dayIn(timeZone, row.happenedAt);
      const found = broughtBy(asCounted(row, before.get(row.id) ?? 0, day), rules, exchange);
      if (found.hasNoRate) withoutRate.push(row.currency);
      return [row.id, found];
    }),
  );
  return { of: ({ id }: ReachedRow) => known.get(id)!, withoutRate };
}

const asCounted = (row: ReachedRow, before: number, day: string): CountedOutcome => ({
  code: row.code,
  subjectKind: row.subjectKind,
  currency: row.currency,
  amount: row.amountMinor,
  worth: row.worthMinor,
  corrected: row.correctedMinor,
  isTakenBack: row.isTakenBack,
  isExpected: row.isExpected,
  isFirstWon: row.isFirstWon,
  before,
  day,
});

/** What the steps before outcomes on their ladders are worth, by outcome. */
async function readBefore(
  db: Sequelize,
  businessId: string,
  reached: readonly ReachedRow[],
  rules: BroughtRules,
): Promise<Map<string, number>> {
  const stepsOf = new Map(rules.outcomes.map(({ code }) => [code, stepsBefore(rules, code)]));
  const after = reached.filter(({ code }) => (stepsOf.get(code) ?? []).length > 0);
  const codes = [...new Set(after.flatMap(({ code }) => stepsOf.get(code)!))];
  const subjects = distinct(after.map(({ subjectId }) => subjectId));
  const steps = new Map<string, Awaited<ReturnType<typeof readSteps>>>();
  for await (const rows of inParts(subjects, (part) => readSteps(db, businessId, codes, part)))
    for (const [subject, own] of groupBy(rows, ({ subjectId }) => subjectId)) steps.set(subject, own);
  return new Map(
    after.map(({ id, subjectId, code, currency }) => {
      const own = (steps.get(subjectId) ?? []).filter(
        (step) => step.currency === currency && stepsOf.get(code)!.includes(step.code),
      );
      return [id, own.reduce((sum, { worth }) => sum + worth, 0)];
    }),
  );
}
