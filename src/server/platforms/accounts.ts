import { z } from 'zod';
import type { Context } from '../context';
import type { AccountRow } from '../db';
import { unseal } from '../secrets';

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

/** Connected accounts on outside services, with their secrets unsealed. */
export function makeAccounts({ tables, config }: Context) {
  const open = (row: AccountRow): Account => ({
    ...row,
    secrets: accountSecretsSchema.parse(unseal(config.secretKey, row.secrets)),
  });
  return {
    async byId(businessId: string, id: string): Promise<Account | null> {
      const row = (await tables.accounts.findOne({ where: { businessId, id } }))?.get({ plain: true });
      return row ? open(row) : null;
    },
    async byKey(businessId: string, key: string): Promise<Account | null> {
      const row = (await tables.accounts.findOne({ where: { businessId, key } }))?.get({ plain: true });
      return row ? open(row) : null;
    },
    /** All accounts of a kind, such as every Quillsearch account. */
    async ofKind(businessId: string, kind: string): Promise<Account[]> {
      const rows = await tables.accounts.findAll({ where: { businessId, kind }, order: [['key', 'ASC']], limit: 50 });
      return rows.map((row) => open(row.get({ plain: true })));
    },
  };
}
