import { count, counted, type Sentence } from '../strands';
import type { CampaignMatch } from './cost';
import { figureText } from './figure-text';
import type { CostCampaignRow } from './cost-view';

/** How a campaign's match is known. */
export const matchWords: Record<CampaignMatch['by'], string> = {
  hand: 'said by hand',
  number: 'by its number in links',
  name: 'by its name',
  'earlier name': 'by a name it had before',
};

/** "£4,210 in these days for 5 campaigns; 2 are not matched." */
export function costSentence(
  rows: readonly Pick<CostCampaignRow, 'amount' | 'match' | 'own'>[],
  currency: string,
  hasAccounts: boolean,
): Sentence {
  if (rows.length === 0)
    return {
      title: 'No cost is known for these days.',
      under: hasAccounts
        ? 'Import a file, or choose other days. Accounts that report their cost are read by themselves.'
        : 'Connect an account that reports its cost, or import a file.',
    };
  const sum = rows.reduce((all, { amount }) => all + (amount ?? 0), 0);
  const unmatched = rows.filter(({ match }) => match === null).length;
  const without = [...new Set(rows.flatMap(({ amount, own }) => (amount === null ? [own.currency] : [])))];
  const title = `${figureText('cost', sum, currency)} for ${counted(rows.length, 'campaign', 'campaigns')}`;
  const left = [
    unmatched > 0
      ? `${count(unmatched)} ${unmatched === 1 ? 'is' : 'are'} matched with no campaign: say which ${unmatched === 1 ? 'it is' : 'they are'}, so that what ${unmatched === 1 ? 'it' : 'they'} brought stands beside.`
      : '',
    without.length > 0 ? `Without an exchange rate for ${without.join(', ')} its cost is left out: add one below.` : '',
  ].filter(Boolean);
  return {
    title: unmatched > 0 ? `${title}, ${count(unmatched)} of them not matched.` : `${title}.`,
    under: left.join(' ') || 'With fees, exchanged by the day, and by the business’s days.',
  };
}

/** A rate as it is typed, in millionths. */
export const rateMillionths = (rate: string): number => Math.round(Number(rate) * 1_000_000);
/** A rate in millionths as it is typed: "0.79". */
export const rateText = (millionths: number): string => String(millionths / 1_000_000);
/** Hundredths of a percent as they are typed: "12.5". */
export const percentText = (hundredths: number): string => String(hundredths / 100);

/** What is left out since its currency has no exchange rate on its day. */
export const leftOut = (what: string, verb: 'is' | 'are', currencies: readonly string[]): string[] =>
  currencies.length === 0
    ? []
    : [`${what} in ${currencies.join(', ')} ${verb} left out: the exchange rate is not known. Add it on Cost.`];
