import { counted } from '../counted';
import { listed } from '../listed';
import { comparedKey } from '../reportbacks/compare';
import { platformName } from '../platforms/links';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import type { ContentFinding } from '../rules/findings';
import type { TellingRule } from './schema';

type Content = Pick<ReleaseContent, 'telling' | 'outcomes' | 'platforms'>;

const bids = ({ letsItBid, how }: TellingRule): boolean => letsItBid && how === 'told';

/**
 * What changes for each account that begins to bid on an outcome with a release: how often it will hear of it, and what it
 * bids on already; and where it would bid for what is undone.
 *
 * @param timesOf how often each outcome was counted lately, by its code
 * @param nameOf what people call an account
 */
export function beginsToBid(
  next: Content,
  live: Pick<Content, 'telling'>,
  timesOf: ReadonlyMap<string, number>,
  weeks: number,
  nameOf: (account: string) => string | undefined,
): ContentFinding[] {
  const before = new Set(live.telling.filter(bids).map(comparedKey));
  return next.telling
    .filter((rule) => bids(rule) && !before.has(comparedKey(rule)))
    .map((rule): ContentFinding => {
      const { outcome, account, platform } = rule;
      const name = nameOf(account) ?? platformName(platform, next.platforms);
      const times = timesOf.get(outcome) ?? 0;
      const others = live.telling.filter((one) => one.account === account && bids(one)).map((one) => one.outcome);
      const already =
        others.length === 0
          ? 'so far it bids on nothing you tell it'
          : `so far it bids on ${listed(others.map(quoteValue))}`;
      const isUndone = next.outcomes.some(({ code, kind }) => code === outcome && kind === 'undone');
      return {
        weighs: 'warns',
        rule: { kind: 'telling', id: comparedKey(rule) },
        was: `${name} begins to bid on ${quoteValue(outcome)}, counted ${counted(times, 'time', 'times')} in ${weeks} weeks; ${already}`,
        fix: isUndone
          ? `${quoteValue(outcome)} is something undone: tell it for the record, or it spends to bring more of it.`
          : 'It spends to bring more of it from then on. Tell it for the record to only see it counted.',
      };
    });
}
