import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import { partOfMoney } from '../outcomes/worth';
import type { ReportedCost } from '../platforms/contract';
import { exchangeBy, type ExchangeRate } from './exchange';
import { shareOut } from './share-out';

/*
 * What ads cost: rows of an account, in its currency and by its own days, as money of the business by its days
 * (docs/results.md).
 */

/** What an ad cost on one day of its account. */
export interface CostRow extends ReportedCost {
  /** The account, by its key. */
  account: string;
}

/** What somebody adds to what an account reports, such as an agency's share; `hundredths` of a percent of it. */
export interface CostFee {
  account: string;
  hundredths: number;
  firstDay: string;
  /** null: until further notice. */
  lastDay: string | null;
}

/**
 * The days of a business that a day of an account lies on, with how many minutes of it. An account's day need not begin when the
 * business's does, nor have 24 hours.
 */
export function businessDays(
  day: string,
  accountZone: string,
  businessZone: string,
): { day: string; minutes: number }[] {
  if (accountZone === businessZone) return [{ day, minutes: 1440 }];
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  const begins = new TZDate(year, month - 1, date, accountZone).getTime();
  const ends = new TZDate(year, month - 1, date + 1, accountZone).getTime();
  const days: { day: string; minutes: number }[] = [];
  for (let at = begins; at < ends;) {
    const own = format(new TZDate(at, businessZone), 'yyyy-MM-dd');
    const [y, m, d] = own.split('-').map(Number) as [number, number, number];
    const next = Math.min(ends, new TZDate(y, m - 1, d + 1, businessZone).getTime());
    days.push({ day: own, minutes: Math.round((next - at) / 60_000) });
    at = next;
  }
  return days;
}

/** The fees that an account has on a day, in hundredths of a percent together. */
export const feeOn = (fees: readonly CostFee[], account: string, day: string): number =>
  fees
    .filter((fee) => fee.account === account && fee.firstDay <= day && (fee.lastDay === null || day <= fee.lastDay))
    .reduce((sum, { hundredths }) => sum + hundredths, 0);

/** What of a row lies on one day of the business. */
export interface CostPart {
  row: CostRow;
  day: string;
  /** Minor units of the business's currency, fees among them; null where its exchange rate is not known. */
  amount: number | null;
  clicks: number;
}

/**
 * Rows as the business counts them: exchanged by the rate of the account's day, with its fees, and shared out to the business's days
 * by the time that they have of it, to the minor unit.
 *
 * @param zoneOf the time zone of an account
 */
export function spreadCosts(
  rows: readonly CostRow[],
  business: { currency: string; timeZone: string },
  zoneOf: (account: string) => string,
  rates: readonly ExchangeRate[],
  fees: readonly CostFee[],
): CostPart[] {
  const known = new Map<string, ReturnType<typeof businessDays>>();
  const daysOf = (day: string, zone: string) => {
    const key = `${day} ${zone}`;
    const days = known.get(key) ?? businessDays(day, zone, business.timeZone);
    known.set(key, days);
    return days;
  };
  const exchange = exchangeBy(rates, business.currency);
  return rows.flatMap((row): CostPart[] => {
    const days = daysOf(row.day, zoneOf(row.account));
    const minutes = days.map((one) => one.minutes);
    const amount = exchange(row.amount, row.currency, row.day);
    const amounts = amount === null ? null : shareOut(withFee(amount, row, business.currency, fees), minutes);
    const clicks = shareOut(row.clicks, minutes);
    return days.map(({ day }, i) => ({ row, day, amount: amounts?.[i] ?? null, clicks: clicks[i]! }));
  });
}

/** What a row cost, exchanged, with its fees, rounded half up. */
function withFee(amount: number, row: CostRow, currency: string, fees: readonly CostFee[]): number {
  const fee = partOfMoney({ minor: amount, currency }, feeOn(fees, row.account, row.day), 10_000);
  return amount + fee.minor;
}

/** By what a campaign of an account is found again: its number there, else its name. */
export const campaignKey = ({ campaignId, campaign }: Pick<CostRow, 'campaignId' | 'campaign'>): string =>
  campaignId === '' ? `name ${campaign}` : `id ${campaignId}`;

/** Which of the business's campaigns a campaign of an account is, and how that is known. */
export interface CampaignMatch {
  campaign: string;
  by: 'hand' | 'number' | 'name' | 'earlier name';
}

/**
 * Matches campaigns of one account with those of the business: what somebody said; the campaign that arrives with its number; its name;
 * a name that it had before, as links keep the name that they were made with.
 *
 * @param rows of one account
 * @param arrived campaigns by the number that came with them (utm_id), the most frequent first; '' for none
 * @param names every campaign that the business knows, as names are read
 * @param byHand by `campaignKey`
 * @param read how names are read: aliases, letter case
 */
export function matchCampaigns(
  rows: readonly CostRow[],
  arrived: readonly { campaign: string; number: string }[],
  names: ReadonlySet<string>,
  byHand: ReadonlyMap<string, string>,
  read: (name: string) => string,
): Map<string, CampaignMatch | null> {
  const byNumber = new Map<string, string>();
  for (const { campaign, number } of arrived)
    if (number !== '' && campaign !== '' && !byNumber.has(number)) byNumber.set(number, read(campaign));
  const namesOf = new Map<string, Map<string, string>>();
  for (const row of rows) {
    const own = namesOf.get(campaignKey(row)) ?? new Map<string, string>();
    namesOf.set(campaignKey(row), own);
    if ((own.get(row.campaign) ?? '') < row.day) own.set(row.campaign, row.day);
  }
  return new Map(
    [...namesOf].map(([key, own]): [string, CampaignMatch | null] => {
      const said = byHand.get(key);
      if (said !== undefined) return [key, { campaign: said, by: 'hand' }];
      const numbered = byNumber.get(key.slice('id '.length));
      if (key.startsWith('id ') && numbered !== undefined) return [key, { campaign: numbered, by: 'number' }];
      const newestFirst = [...own].sort((a, b) => (a[1] < b[1] ? 1 : -1)).map(([name]) => read(name));
      const at = newestFirst.findIndex((name) => names.has(name));
      if (at === -1) return [key, null];
      return [key, { campaign: newestFirst[at]!, by: at === 0 ? 'name' : 'earlier name' }];
    }),
  );
}
