import { firstContent } from '../../core/businesses/first-content';
import { businessKey } from '../../core/businesses/key';
import { hostOfWebsite, type NewBusiness } from '../../core/businesses/schema';
import { AvrixError } from '../../core/errors';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain } from '../db';
import { newId } from '../ids';
import type { Membership, SignedIn } from '../people/people';
import type { Releases } from '../releases/releases';
import { registrableOf, websiteWrong } from './website';

/** Businesses that people make in the interface. */
export function makeBusinessMaking({ db, tables }: Context, releases: Releases, log: Changes) {
  return {
    /** Whether somebody may make a business: the first there is, or a further one by who owns one. */
    async mayMake(memberships: Membership[]): Promise<boolean> {
      return memberships.some(({ role }) => role.role === 'owner') || (await tables.businesses.count()) === 0;
    },

    /**
     * Makes a business with its first website and release 1; who makes it owns it, and nobody else has a role in it.
     * @returns its key in addresses
     * @throws AVX_MAY_NOT_MAKE, AVX_FIELD_WRONG where its website is nobody's own, or another business's
     */
    async make(person: SignedIn, memberships: Membership[], wanted: NewBusiness): Promise<string> {
      if (!(await this.mayMake(memberships))) throw new AvrixError('AVX_MAY_NOT_MAKE');
      const host = hostOfWebsite(wanted.website);
      const registrable = registrableOf(host);
      const { name, timeZone, currency } = wanted;
      return inTransaction(db, async (transaction) => {
        const isTaken = await tables.websites.count({ where: { registrable }, transaction });
        if (isTaken > 0)
          throw websiteWrong(
            `the website ${registrable} belongs to another business here`,
            'Ask its owner for a role there, or write the address of another website.',
          );
        const keys = plain(await tables.businesses.findAll({ attributes: ['key'], transaction })).map(({ key }) => key);
        const [businessId, key] = [newId(), businessKey(name, new Set(keys))];
        await tables.businesses.create(
          { id: businessId, key, name, timeZone, currency, createdAt: now() },
          { transaction },
        );
        await tables.websites.create({ businessId, host, registrable, place: 0 }, { transaction });
        const all = { mayRelease: true, seesPeople: true, seesMoney: true };
        await tables.roles.create({ businessId, personId: person.id, role: 'owner', ...all }, { transaction });
        const content = firstContent([registrable]);
        const release = { name: 'First rules', note: `${name} was made.`, content, madeBy: person.id };
        await releases.make(businessId, release, transaction);
        const made = { kind: 'business' as const, subject: name, was: '', became: `${host}, ${timeZone}, ${currency}` };
        await log.note(businessId, person.id, [made], transaction);
        return key;
      });
    },
  };
}
