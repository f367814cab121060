import { faceOf } from '../../core/destinations/faces';
import type { OwnPlatform } from '../../core/platforms/schema';
import type { Context } from '../context';
import { plain } from '../db';
import { makeLastKnown } from '../last-known';

export type Openers = ReturnType<typeof makeOpeners>;

/**
 * Where the openers of connected accounts are, known within some seconds: no rule holds them, so that a page tells nothing
 * to an account from the moment it is paused.
 */
export function makeOpeners({ tables }: Pick<Context, 'tables'>) {
  const accounts = makeLastKnown(async (businessId) =>
    plain(
      await tables.accounts.findAll({
        attributes: ['key', 'kind', 'endpoint'],
        where: { businessId, pausedAt: null, retiredAt: null },
        limit: 200,
      }),
    ),
  );
  return {
    /** @returns the address of each account's opener, by its key */
    async of(businessId: string, platforms: readonly OwnPlatform[]): Promise<Record<string, string>> {
      const known = await accounts.get(businessId);
      return Object.fromEntries(
        known.flatMap(({ key, kind, endpoint }) => {
          const page = faceOf(kind, platforms)?.page;
          return page ? [[key, endpoint + page.opener] as const] : [];
        }),
      );
    },
    forget: (businessId: string) => accounts.forget(businessId),
  };
}
