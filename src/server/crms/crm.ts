import { crmContractOf, type CrmContract } from '../../core/crms';
import type { OutgoingRequest, Question } from '../../core/outgoing';
import type { HttpClient } from '../http';
import type { Account, Accounts } from '../platforms/accounts';
import { askAccount } from '../platforms/call';
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

/** The CRM behind an account; null where its kind is none. */
export function openCrm(http: HttpClient, account: Account): Crm | null {
  const contract = crmContractOf(account.kind);
  if (!contract) return null;
  const tell = (request: OutgoingRequest) => askAccount(http, account, contract.authorised, request);
  return { account, contract, tell, ask: async ({ request, read }) => read(await tell(request)) };
}

/** Businesses' CRMs. */
export function makeCrms(http: HttpClient, accounts: Accounts, releases: Releases) {
  return {
    /** The CRM that a business's rules name; null where none is connected. */
    async of(businessId: string): Promise<Crm | null> {
      const { crm } = (await releases.live(businessId)).content;
      const account = crm && (await accounts.byKey(businessId, crm.account));
      return account ? openCrm(http, account) : null;
    },

    /** The CRM behind one account of a business; null where there is none. */
    async ofAccount(businessId: string, accountId: string): Promise<Crm | null> {
      const account = await accounts.byId(businessId, accountId);
      return account ? openCrm(http, account) : null;
    },
  };
}
