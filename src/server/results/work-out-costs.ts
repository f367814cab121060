import type { Sequelize } from 'sequelize';
import { addDays, format, parseISO } from 'date-fns';
import { campaignKey, matchCampaigns, spreadCosts, type CampaignMatch, type CostPart } from '../../core/results/cost';
import type { Reading, TouchValues } from '../../core/results/dimensions';
import { groupBy } from '../../core/group-by';
import type { DaySpan } from '../strands/range';
import { readArrivedNumbers, readCosts, readFees, readMatches, readRates } from './cost-queries';
import { readVisits } from './queries';
import { readCampaignNames } from '../plan/queries';

/** An account whose costs are known, as its rows are read. */
export interface CostAccount {
  key: string;
  /** The kind of platform; '' for none that is known. */
  platform: string;
  /** The source that its clicks come with. */
  source: string;
  timeZone: string;
}

/** What is read of costs beside the rows themselves. */
export interface AskedCosts {
  businessId: string;
  currency: string;
  timeZone: string;
  accounts: CostAccount[];
}

/** Part of a row of costs, with where it stands among what was measured. */
export interface PlacedCost extends CostPart {
  match: CampaignMatch | null;
  origin: TouchValues;
}

/**
 * What ads cost on some days of the business, each where its clicks land: by the campaign it is matched with, the source of its
 * account, and the medium that most visits of both come with.
 *
 * @returns `names`: campaigns that are known there, as they are read; `isOfCosts`: whether what came with some values is of a campaign whose clicks are reported
 */
export async function workOutCosts(
  db: Sequelize,
  { businessId, currency, timeZone, accounts }: AskedCosts,
  { firstDay, lastDay }: DaySpan,
  reading: Reading,
): Promise<{ parts: PlacedCost[]; names: string[]; isOfCosts: (values: TouchValues) => boolean }> {
  // An account's day may lie on two of the business's.
  const around = { firstDay: dayFrom(firstDay, -1), lastDay: dayFrom(lastDay, 1) };
  const [rows, rates, fees, hands, numbers, names, visits] = await Promise.all([
    readCosts(db, businessId, around),
    readRates(db, businessId),
    readFees(db, businessId),
    readMatches(db, businessId),
    readArrivedNumbers(db, businessId, timeZone, around),
    readCampaignNames(db, businessId),
    readVisits(db, businessId, around, ['source', 'medium', 'campaign', 'platform']),
  ]);
  const nameOf = (name: string) => reading.tag('utm_campaign', name);
  const known = new Set(
    [...names.map(({ value }) => value), ...visits.map(({ campaign }) => campaign)].filter(Boolean).map(nameOf),
  );
  const accountOf = new Map(accounts.map((account) => [account.key, account]));
  const matches = new Map(
    [...groupBy(rows, ({ account }) => account)].map(([account, own]) => {
      const byHand = new Map(
        hands.filter((one) => one.account === account).map((one) => [one.campaignKey, one.campaign]),
      );
      const platform = accountOf.get(account)?.platform ?? '';
      const arrived = numbers.filter((one) => one.platform === '' || one.platform === platform);
      return [account, matchCampaigns(own, arrived, known, byHand, nameOf)] as const;
    }),
  );
  const mediumOf = mediums(visits, reading);
  const parts = spreadCosts(
    rows,
    { currency, timeZone },
    (key) => accountOf.get(key)?.timeZone ?? timeZone,
    rates,
    fees,
  )
    .filter(({ day }) => day >= firstDay && day <= lastDay)
    .map((part): PlacedCost => {
      const { row } = part;
      const match = matches.get(row.account)?.get(campaignKey(row)) ?? null;
      const campaign = match?.campaign ?? row.campaign;
      const { source = row.account, platform = '' } = accountOf.get(row.account) ?? {};
      const values = { source, medium: mediumOf(source, campaign), campaign, content: row.ad, platform };
      return { ...part, match, origin: { ...values, term: '', landing: '', referrerHost: '' } };
    });
  const reported = new Set(
    parts.flatMap(({ clicks, origin }) => (clicks > 0 ? `${origin.platform}\n${nameOf(origin.campaign)}` : [])),
  );
  return {
    parts,
    names: [...known],
    isOfCosts: (values) => reported.has(`${reading.platformOf(values)}\n${nameOf(values.campaign)}`),
  };
}

const dayFrom = (day: string, days: number) => format(addDays(parseISO(day), days), 'yyyy-MM-dd');

/** The medium that most visits of a source and campaign come with, else of the source; '' where there are none. */
function mediums(visits: Awaited<ReturnType<typeof readVisits>>, reading: Reading) {
  const counts = new Map<string, Map<string, number>>();
  const add = (key: string, medium: string, visitsOf: number) => {
    const own = counts.get(key) ?? new Map<string, number>();
    counts.set(key, own);
    own.set(medium, (own.get(medium) ?? 0) + visitsOf);
  };
  const keyOf = (source: string, campaign: string) =>
    `${reading.tag('utm_source', source)}\n${reading.tag('utm_campaign', campaign)}`;
  for (const { source, medium, campaign, visits: many } of visits) {
    if (source === '' || medium === '') continue;
    add(keyOf(source, campaign), medium, many);
    add(reading.tag('utm_source', source), medium, many);
  }
  const most = (key: string) => [...(counts.get(key) ?? [])].sort((a, b) => b[1] - a[1])[0]?.[0];
  return (source: string, campaign: string): string =>
    most(keyOf(source, campaign)) ?? most(reading.tag('utm_source', source)) ?? '';
}
