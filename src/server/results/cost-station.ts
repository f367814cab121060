import { readAmount } from '../../core/outcomes';
import { mayChange } from '../../core/people/rights';
import type { ReportedCost } from '../../core/platforms/contract';
import type { CostFileAnswer, CostQuery, CostView } from '../../core/results/cost-view';
import { figurePlain } from '../../core/results/figure-text';
import { costSentence, percentText, rateText } from '../../core/results/cost-words';
import { AvrixError } from '../../core/errors';
import type { Context } from '../context';
import { inTransaction, insertRows, selectRows, text } from '../db';
import { readFileBody, readTable } from '../files/read-table';
import type { Membership } from '../people/people';
import { readCampaignNames } from '../plan/queries';
import { runInPool } from '../pool';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { longest, makeAsked } from './asked';
import { askedOfBusiness } from './asked-business';
import { readCostPlaces } from './cost-places';
import { readFees, readRates } from './cost-queries';
import { addedUp, costRow, restated } from './store-costs';

/** Columns that a file of costs has to have; `campaign_id`, `ad`, `ad_id`, `clicks` and `currency` may be there. */
const needs = ['day', 'campaign', 'cost'];

/** What ads cost: by campaign and ad, with whose campaigns they are, exchange rates and fees. */
export function makeCostStation(context: Context, releases: Releases) {
  const { db, tables } = context;
  const { daysOf } = makeAsked(context, releases);

  async function view(membership: Membership, query: CostQuery): Promise<CostView> {
    const { business, role } = membership;
    const release = await releases.live(business.id);
    const { days, cycle } = await daysOf(membership, release, { ...query, against: 'none' });
    const places = await readCostPlaces(context, business, release.content);
    const [{ campaigns: rows, names }, rates, fees, known, read] = await Promise.all([
      runInPool(
        'workOutCostTable',
        {
          ...askedOfBusiness(context, business, release),
          accounts: places,
          days,
          by: query.by,
          row: query.row,
        },
        longest,
      ),
      readRates(db, business.id),
      readFees(db, business.id),
      readCampaignNames(db, business.id),
      selectRows(db, { account: text() }, 'FROM costs WHERE business_id = ? GROUP BY account', [business.id]),
    ]);
    const nameOf = (key: string) => places.find((one) => one.key === key)?.name ?? key;
    const withCosts = new Set(read.map((one) => one.account));
    const shown = role.seesMoney ? rows : [];
    return {
      sentence: role.seesMoney
        ? costSentence(shown, business.currency, withCosts.size > 0)
        : { title: 'Your role does not see amounts.', under: 'An owner can let you see money.' },
      asked: { by: query.by, row: query.row },
      range: { choice: query.range, ...days, cycleDays: cycle, release: release.number },
      rows: shown.map((row) => ({ ...row, accountName: nameOf(row.account) })),
      accounts: places
        .filter(({ key, isOffered }) => isOffered || withCosts.has(key))
        .map(({ key, name, timeZone, platform }) => ({ key, name, timeZone, isSource: platform === '' })),
      campaigns: [...new Set([...known.map(({ value }) => value), ...names])].sort(),
      rates: rates
        .sort((a, b) => (a.currency + b.day < b.currency + a.day ? -1 : 1))
        .map(({ id, currency, day, millionths }) => ({ id, currency, day, rate: rateText(millionths) })),
      fees: fees.map(({ id, account, hundredths, firstDay, lastDay }) => ({
        id,
        account,
        accountName: nameOf(account),
        percent: percentText(hundredths),
        firstDay,
        lastDay,
      })),
      seesMoney: role.seesMoney,
      mayChange: mayChange(role),
      currency: business.currency,
      timeZone: business.timeZone,
    };
  }

  return {
    view,

    /** What each ad cost, for a file. */
    async table(membership: Membership, query: CostQuery): Promise<string[][]> {
      const { rows, currency } = await view(membership, query);
      return [
        ['account', 'campaign there', 'number', 'campaign', 'ad', 'clicks', `cost (${currency})`],
        ...rows.flatMap(({ accountName, campaign, number, match, ads }) =>
          ads.map(({ ad, clicks, amount }) => [
            ...[accountName, campaign, number, match?.campaign ?? '', ad, String(clicks)],
            amount === null ? '' : figurePlain('cost', amount, currency),
          ]),
        ),
      ];
    },

    /**
     * Takes a CSV or XLSX file of what an account's ads cost, by its days; what it says of a day, campaign and ad (in
     * several rows: together) is put in place of what was there.
     *
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FILE_WRONG where it cannot be read as a whole
     */
    async takeFile(membership: Membership, account: string, request: Request): Promise<CostFileAnswer> {
      requireEditor(membership);
      const { business } = membership;
      const places = await readCostPlaces(context, business, (await releases.live(business.id)).content);
      if (!places.some(({ key }) => key === account)) throw new AvrixError('AVX_NOT_FOUND', { what: 'account' });
      const table = await readTable(await readFileBody(request), needs);
      const refused: CostFileAnswer['refused'] = table.problems.map(({ row, was, fix }) => ({
        row: `Row ${row}`,
        was,
        fix,
      }));
      const taken = table.rows.flatMap(({ row, cells }) => {
        const cost = readCost(cells, business.currency);
        if (!('was' in cost)) return [costRow(business.id, account, cost, 'file')];
        refused.push({ row: `Row ${row}`, ...cost });
        return [];
      });
      const byId = addedUp(taken);
      await inTransaction(db, (transaction) =>
        insertRows(tables.costs, [...byId.values()], [...restated], transaction),
      );
      return { taken: taken.length, refused };
    },
  };
}

/** One row of a file. @returns what is wrong with it, where it cannot be taken */
function readCost(cells: Record<string, string>, usual: string): ReportedCost | { was: string; fix: string } {
  const cell = (name: string) => (cells[name] ?? '').trim();
  const [day, campaign, clicks] = [cell('day'), cell('campaign'), cell('clicks') || '0'];
  const currency = cell('currency').toUpperCase() || usual;
  const ids = { campaignId: cell('campaign_id').slice(0, 80), adId: cell('ad_id').slice(0, 80) };
  if (!/^\d{4}-\d{2}-\d{2}$/.test(day) || Number.isNaN(Date.parse(day)))
    return { was: `day is “${day}”`, fix: 'Write days as 2027-02-15.' };
  if (campaign === '' && ids.campaignId === '')
    return { was: 'it names no campaign', fix: 'Fill in campaign or campaign_id.' };
  if (!/^[A-Z]{3}$/.test(currency))
    return { was: `currency is “${currency}”`, fix: 'Write three letters, such as USD.' };
  if (!/^\d{1,9}$/.test(clicks)) return { was: `clicks is “${clicks}”`, fix: 'Write a whole number.' };
  const money = readAmount(cell('cost'), currency);
  if (!money || money.minor < 0)
    return { was: `cost is “${cell('cost')}”`, fix: 'Write a number such as 1249.50, without a currency sign.' };
  return { day, campaign, ad: cell('ad'), ...ids, clicks: Number(clicks), amount: money.minor, currency };
}
