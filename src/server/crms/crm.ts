import { crmContractOf, type CrmContract } from '../../core/crms';
import type { OwnCrm } from '../../core/crms/schema';
import type { OutgoingRequest, Question } from '../../core/outgoing';
import type { Account, Accounts } from '../platforms/accounts';
import { askAccount, type Outside } from '../platforms/call';
import type { Releases } from '../releases/releases';

/** A connected CRM: its account, what its kind can do, and how it is asked. */
export interface Crm {
  account: Account;
  contract: CrmContract;
  /** @throws ServiceAway; a ZodError where the answer is not understood */
  ask<T>(question: Question<T>): Promise<T>;
  /** @throws ServiceAway */
  tell(request: OutgoingRequest): Promise<unknown>;
}
export type Crms = ReturnType<typeof makeCrms>;

/** The CRM behind an account; null where its kind is none. @param own those that the business describes itself */
export function openCrm(outside: Outside, account: Account, own: readonly OwnCrm[]): Crm | null {
  const contract = crmContractOf(account.kind, own);
  if (!contract) return null;
  const tell = (request: OutgoingRequest) => askAccount(outside, account, contract.authorised, request);
  return { account, contract, tell, ask: async ({ request, read }) => read(await tell(request)) };
}

/** Businesses' CRMs. */
export function makeCrms(outside: Outside, accounts: Accounts, releases: Releases) {
  const own = async (businessId: string) => (await releases.live(businessId)).content.crms;
  return {
    /** The CRM that a business's rules name; null where none is connected and in use. */
    async of(businessId: string): Promise<Crm | null> {
      const { crm, crms } = (await releases.live(businessId)).content;
      const account = crm && (await accounts.byKey(businessId, crm.account));
      return account && !account.pausedAt && !account.retiredAt ? openCrm(outside, account, crms) : null;
    },

    /** The CRM behind one account of a business; null where there is none. */
    async ofAccount(businessId: string, accountId: string): Promise<Crm | null> {
      const account = await accounts.byId(businessId, accountId);
      return account ? openCrm(outside, account, await own(businessId)) : null;
    },
  };
}
