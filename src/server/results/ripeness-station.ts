import { addDays, format, parseISO } from 'date-fns';
import { scriptCookieDays } from '../../core/capture/capped';
import { contractOf } from '../../core/platforms';
import type { OutcomeRule } from '../../core/outcomes/schema';
import { cellView, mondayOf } from '../../core/results/dimensions';
import { percent, ripenessSentence, verdictWords } from '../../core/results/ripeness-words';
import type { RipenessQuery, RipenessView } from '../../core/results/ripeness-view';
import { tellingRules, type Release } from '../../core/releases';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { dayIn } from '../days';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import type { Releases } from '../releases/releases';
import { longest } from './asked';
import { askedOfOutcome } from './asked-business';
import { outcomeAsked } from './outcome-asked';
import type { AskedLimit } from './work-out-ripeness';

/** Weeks of clicks that are shown. */
const weeksShown = 13;

type Limit = AskedLimit & { words: string };

/** How long after their click outcomes come, and how complete what recent clicks brought is. */
export function makeRipenessStation(context: Context, releases: Releases) {
  async function view({ business }: Membership, query: RipenessQuery): Promise<RipenessView> {
    const release = await releases.live(business.id);
    const outcomes = release.content.outcomes.map(({ code, words }) => ({ code, words }));
    const rule = outcomeAsked(release, query.outcome);
    const beside = { outcomes, timeZone: business.timeZone };
    if (!rule) return { ...nothing, ...beside };
    const limits = limitsOf(release, rule);
    const lastDay = dayIn(business.timeZone, nowMs());
    const firstWeek = format(addDays(parseISO(mondayOf(lastDay)), -7 * (weeksShown - 1)), 'yyyy-MM-dd');
    const asked = {
      ...askedOfOutcome(context, business, release, rule, { firstDay: firstWeek, lastDay }),
      by: query.by,
      limits: limits.map(({ key, platform, days }) => ({ key, platform, days })),
    };
    const found = await runInPool('workOutRipeness', asked, longest);
    return {
      sentence: ripenessSentence(rule.code, found.all, found.weeks),
      asked: { outcome: rule.code, by: query.by },
      all: found.all,
      rows: found.rows.map((row) => ({
        ...row,
        ...cellView(query.by, row.cell),
      })),
      weeks: found.weeks,
      limits: found.limits.map((one, i) => ({ ...one, words: limits[i]!.words })),
      ...beside,
    };
  }

  return {
    view,

    /** How long it takes by what brought it, for a file. */
    async table(membership: Membership, query: RipenessQuery): Promise<string[][]> {
      const { all, rows, asked } = await view(membership, query);
      const row = (text: string, { count, half, nine }: typeof all) => [
        text,
        String(count),
        half === null ? '' : String(half),
        nine === null ? '' : String(nine),
      ];
      return [
        [asked.by, asked.outcome, 'days until half came', 'days until nine in ten came'],
        ...rows.map((one) => row(one.text, one)),
        row('all together', all),
      ];
    },

    /** What clicks of each week brought, for a file. */
    async weeks(membership: Membership, query: RipenessQuery): Promise<string[][]> {
      const { weeks, asked } = await view(membership, query);
      return [
        ['week', 'visits', asked.outcome, 'usually complete', 'compared'],
        ...weeks.map(({ week, visits, came, complete, verdict }) => [
          week,
          String(visits),
          String(came),
          complete === null ? '' : percent(complete),
          verdictWords[verdict],
        ]),
      ];
    },
  };
}

/** What ends before an outcome may come: windows of platforms that are told of it, and cookies that hold click IDs. */
function limitsOf(release: Release, rule: OutcomeRule): Limit[] {
  const { platforms, capture } = release.content;
  const windows = tellingRules(release, rule.code).flatMap(({ platform }): Limit[] => {
    const contract = contractOf(platform, platforms);
    if (!contract) return [];
    const days = Math.min(contract.limits.clickDays, rule.clickDays);
    return [{ key: platform, platform, days, words: `${contract.words} is told of clicks up to ${days} days old` }];
  });
  const cookies = capture.keep.clickIds.map(({ platform, days }): Limit => {
    const words = contractOf(platform, platforms)?.words ?? platform;
    return {
      key: `cookie ${platform}`,
      platform,
      days,
      words: `The cookie with ${words}’s click ID lives ${days} days`,
    };
  });
  // A platform with two accounts is told within one window.
  const first = [...new Map([...windows, ...cookies].map((limit) => [limit.key, limit])).values()];
  return [
    ...first,
    {
      key: 'script',
      platform: '',
      days: scriptCookieDays,
      words: `Some browsers end cookies that a page’s script sets after ${scriptCookieDays} days`,
    },
  ];
}

/** What is shown before anything is counted. */
const nothing: Omit<RipenessView, 'outcomes' | 'timeZone'> = {
  sentence: {
    title: 'Nothing is counted yet.',
    under: 'Say what counts as an outcome: then how long each source takes to bring it is shown here.',
  },
  asked: { outcome: '', by: 'source' },
  all: { count: 0, half: null, nine: null, curve: [] },
  rows: [],
  weeks: [],
  limits: [],
};
