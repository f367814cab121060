import { setTimeout as wait } from 'node:timers/promises';
import { z } from 'zod';
import type { CatalogueView } from '../../core/events/catalogue';
import { AvrixError } from '../../core/errors';
import { destinationOf, type DestinationContract } from '../../core/destinations';
import { isRefusal, askAccount, ServiceAway } from '../platforms/call';
import type { Account, Accounts } from '../platforms/accounts';
import type { Context } from '../context';
import type { Membership } from '../people/people';
import { requireEditor, type Draft } from '../releases/draft';

/** What is to be made at a place that has to know a name first. */
export const makeNameSchema = z.strictObject({
  account: z.string().min(1).max(80),
  name: z.string().min(1, 'must be a name').max(120),
});

export type Catalogues = ReturnType<typeof makeCatalogues>;

/** The names that places know, asked of them where they have to know one before they count it, and made there. */
export function makeCatalogues(context: Context, accounts: Accounts, draft: Draft) {
  async function contractFor(businessId: string, key: string): Promise<[Account, DestinationContract]> {
    const { draft: edited } = await draft.content(businessId);
    const account = await accounts.byKey(businessId, key);
    const contract = account && destinationOf(account.kind, edited.platforms);
    if (!account || !contract?.catalogue)
      throw new AvrixError('AVX_NOT_FOUND', { what: 'account with names of its own' });
    return [account, contract];
  }

  async function list(account: Account, { authorised, catalogue }: DestinationContract): Promise<CatalogueView> {
    try {
      const body = await askAccount(context, account, authorised, catalogue!.list.request);
      return { known: catalogue!.list.read(body), problem: '' };
    } catch (error) {
      if (error instanceof ServiceAway) return { known: null, problem: error.message.slice(0, 200) };
      if (error instanceof z.ZodError) return { known: null, problem: `${account.name} answered something else` };
      throw error;
    }
  }

  return {
    /**
     * The names that an account's place knows; null where it cannot be asked within so many ms, undefined where it counts any.
     */
    async known(businessId: string, key: string, within: number): Promise<string[] | null | undefined> {
      const { draft: edited } = await draft.content(businessId);
      const account = await accounts.byKey(businessId, key);
      const contract = account && destinationOf(account.kind, edited.platforms);
      if (!account || !contract?.catalogue) return undefined;
      return Promise.race([list(account, contract).then(({ known }) => known), wait(within, null, { ref: false })]);
    },

    /** @throws AVX_NOT_FOUND where the account has no names of its own */
    async names({ business }: Membership, key: string): Promise<CatalogueView> {
      return list(...(await contractFor(business.id, key)));
    },

    /**
     * Makes a name there, and answers with what it knows then.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where the place refuses it
     */
    async make(membership: Membership, { account: key, name }: z.infer<typeof makeNameSchema>): Promise<CatalogueView> {
      requireEditor(membership);
      const [account, contract] = await contractFor(membership.business.id, key);
      try {
        await askAccount(context, account, contract.authorised, contract.catalogue!.make(name));
      } catch (error) {
        if (!(error instanceof ServiceAway)) throw error;
        const fix = isRefusal(error) ? 'Change the name.' : 'Try again once it answers, or make it there by hand.';
        throw new AvrixError('AVX_FIELD_WRONG', { field: 'name', was: error.message.slice(0, 200), fix });
      }
      return list(account, contract);
    },
  };
}
