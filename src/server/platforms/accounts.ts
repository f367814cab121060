import type { Transaction } from 'sequelize';
import { z } from 'zod';
import { nilId } from '../../core/strands';
import type { Context } from '../context';
import { dayIn } from '../days';
import { inTransaction, plain, type AccountRow } from '../db';
import { takeUpTellings } from '../events/take-up';
import { markSubjects } from '../reportbacks/settle';
import { seal, unseal } from '../secrets';

export const accountSecretsSchema = z.object({
  /** Proves us to the service. */
  token: z.string(),
  /** Proves the service's webhooks to us; '' where it sends none. */
  webhookSecret: z.string().default(''),
});
export type AccountSecrets = z.infer<typeof accountSecretsSchema>;

export interface Account extends Omit<AccountRow, 'secrets'> {
  secrets: AccountSecrets;
}
export type Accounts = ReturnType<typeof makeAccounts>;

/** The day (`2027-02-15`) of an instant in an account's own time zone. */
export const dayOf = (account: Account, at: Date): string => dayIn(account.settings.timeZone ?? 'UTC', at.getTime());

/** Connected accounts on outside services, with their secrets unsealed. */
export function makeAccounts({ db, tables, config }: Context) {
  const open = (row: AccountRow): Account => ({
    ...row,
    secrets: accountSecretsSchema.parse(unseal(config.secretKey, row.secrets)),
  });
  return {
    /**
     * Connects an account: its work begins, and what was held for want of it is taken up.
     * @param also what else is done in the same transaction
     * @throws where the business has one of that key or ID
     */
    async connect(
      businessId: string,
      account: AccountRow,
      also?: (transaction: Transaction) => Promise<void>,
    ): Promise<void> {
      await inTransaction(db, async (transaction) => {
        await tables.accounts.create(account, { transaction });
        const waiting = plain(
          await tables.reportBacks.findAll({
            attributes: ['subjectKind', 'subjectId'],
            where: { businessId, account: account.key, accountId: nilId, state: 'held' },
            transaction,
          }),
        );
        await markSubjects(db, businessId, waiting, transaction);
        await takeUpTellings({ db, tables }, businessId, account.key, transaction);
        await also?.(transaction);
      });
    },

    /** Every account of a business, the oldest first. */
    async all(businessId: string): Promise<Account[]> {
      const rows = await tables.accounts.findAll({ where: { businessId }, order: [['createdAt', 'ASC']], limit: 200 });
      return plain(rows).map(open);
    },

    /** Secrets as they are stored. */
    seal: (secrets: AccountSecrets): Buffer => seal(config.secretKey, secrets),

    async byId(businessId: string, id: string): Promise<Account | null> {
      const row = (await tables.accounts.findOne({ where: { businessId, id } }))?.get({ plain: true });
      return row ? open(row) : null;
    },
    async byKey(businessId: string, key: string): Promise<Account | null> {
      const row = (await tables.accounts.findOne({ where: { businessId, key } }))?.get({ plain: true });
      return row ? open(row) : null;
    },
  };
}
