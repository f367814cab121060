import type { Transaction } from 'sequelize';
import { AvrixError, fieldsWrong } from '../../core/errors';
import type { CostMatchGiven, FeeGiven, RateGiven } from '../../core/results/cost-view';
import { percentText, rateMillionths, rateText } from '../../core/results/cost-words';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain } from '../db';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { readCostPlaces } from './cost-places';

/** What costs are counted by: whose campaigns they are, exchange rates, and fees. Effective at once. */
export function makeCostRules(context: Pick<Context, 'db' | 'tables'>, releases: Releases, changes: Changes) {
  const { db, tables } = context;
  const note = (
    { business, role }: Membership,
    subject: string,
    was: string,
    became: string,
    transaction: Transaction,
  ) => changes.note(business.id, role.personId, [{ kind: 'result', subject, was, became }], transaction);

  return {
    /** Says which campaign a campaign of an account is, or takes that back. @throws AVX_ROLE_TOO_SMALL */
    async match(membership: Membership, byName: string, { account, key, campaign }: CostMatchGiven): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, account, campaignKey: key };
      await inTransaction(db, async (transaction) => {
        const before = (await tables.costMatches.findOne({ where, transaction }))?.get({ plain: true }).campaign ?? '';
        await tables.costMatches.destroy({ where, transaction });
        if (campaign !== '')
          await tables.costMatches.create({ ...where, campaign, madeBy: byName, madeAt: now() }, { transaction });
        await note(membership, `Cost of ${key.replace(/^\w+ /, '')}, ${account}`, before, campaign, transaction);
      });
    },

    /** @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG where the currency has a rate of that day */
    async addRate(membership: Membership, byName: string, { currency, day, rate }: RateGiven): Promise<void> {
      requireEditor(membership);
      const { business } = membership;
      if (currency === business.currency)
        throw fieldsWrong([{ field: 'currency', was: 'the business’s own', fix: 'Give another currency.' }]);
      const millionths = rateMillionths(rate);
      await inTransaction(db, async (transaction) => {
        await refuseTaken(business.id, currency, day, transaction);
        const row = { businessId: business.id, id: newId(), currency, day, millionths, madeBy: byName, madeAt: now() };
        await tables.exchangeRates.create({ ...row, retiredAt: null }, { transaction });
        await note(membership, `Rate of ${currency} from ${day}`, '', rate, transaction);
      });
    },

    /** Takes a rate out, or brings it back. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async retireRate(membership: Membership, id: string, retired: boolean): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id };
      await inTransaction(db, async (transaction) => {
        const row = (await tables.exchangeRates.findOne({ where, transaction }))?.get({ plain: true });
        if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'exchange rate' });
        if (!retired) await refuseTaken(row.businessId, row.currency, row.day, transaction);
        await tables.exchangeRates.update({ retiredAt: retired ? now() : null }, { where, transaction });
        const text = rateText(row.millionths);
        const subject = `Rate of ${row.currency} from ${row.day}`;
        await note(membership, subject, retired ? text : '', retired ? '' : text, transaction);
      });
    },

    /** @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG where there is no such account */
    async addFee(membership: Membership, byName: string, { account, percent, firstDay, lastDay }: FeeGiven) {
      requireEditor(membership);
      const { business } = membership;
      const places = await readCostPlaces(context, business, (await releases.live(business.id)).content);
      if (!places.some(({ key }) => key === account))
        throw fieldsWrong([{ field: 'account', was: `no account of yours, “${account}”`, fix: 'Choose one.' }]);
      const row = {
        businessId: business.id,
        id: newId(),
        account,
        hundredths: Math.round(Number(percent) * 100),
        firstDay,
        lastDay: lastDay === '' ? null : lastDay,
        madeBy: byName,
        madeAt: now(),
        retiredAt: null,
      };
      await inTransaction(db, async (transaction) => {
        await tables.costFees.create(row, { transaction });
        await note(membership, `Fee on ${account} from ${firstDay}`, '', `${percent} %`, transaction);
      });
    },

    /** Takes a fee out, or brings it back. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async retireFee(membership: Membership, id: string, retired: boolean): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id };
      await inTransaction(db, async (transaction) => {
        const row = (await tables.costFees.findOne({ where, transaction }))?.get({ plain: true });
        if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'fee' });
        await tables.costFees.update({ retiredAt: retired ? now() : null }, { where, transaction });
        const text = `${percentText(row.hundredths)} %`;
        const subject = `Fee on ${row.account} from ${row.firstDay}`;
        await note(membership, subject, retired ? text : '', retired ? '' : text, transaction);
      });
    },
  };

  /** One currency has one rate from a day on: two would be read by chance. */
  async function refuseTaken(businessId: string, currency: string, day: string, transaction: Transaction) {
    const where = { businessId, currency, day, retiredAt: null };
    const [taken] = plain(await tables.exchangeRates.findAll({ where, transaction }));
    if (taken)
      throw fieldsWrong([
        {
          field: 'day',
          was: `${currency} has a rate from ${day} already, ${rateText(taken.millionths)}`,
          fix: 'Take that out first.',
        },
      ]);
  }
}
