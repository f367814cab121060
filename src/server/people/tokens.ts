import { randomBytes } from 'node:crypto';
import { AvrixError } from '../../core/errors';
import { fewerRights, mayChange } from '../../core/people/rights';
import type { NewToken } from '../../core/people/schema';
import type { TokensView, TokenView } from '../../core/people/view';
import { counted } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { plain, type BusinessRow, type TokenRow } from '../db';
import { newId } from '../ids';
import { sha256 } from '../secrets';
import type { Membership } from './people';

/** How long (ms) the time of its last use may lag behind. */
const usedLag = 60_000;

function stateOf({ revokedAt, expiresAt }: TokenRow): TokenView['state'] {
  if (revokedAt) return 'revoked';
  return expiresAt <= now() ? 'expired' : 'runs';
}

function rightsWords(row: TokenRow): string {
  const sees = [row.seesPeople && 'sees people', row.seesMoney && 'sees money'].filter(Boolean);
  return [row.mayChange ? 'reads and changes' : 'reads', ...sees].join(', ');
}

function tokensSentence(running: number, business: string): TokensView['sentence'] {
  return {
    title:
      running === 0
        ? `No program speaks to ${business} yet.`
        : `${counted(running, 'token lets', 'tokens let')} programs speak to ${business}.`,
    under: 'A token can do what its maker can, or less. It is shown once; only its hash is kept.',
  };
}

/** Tokens by which programs speak for a person in one business, with that person's rights or fewer. */
export function makeTokens({ tables, config }: Context) {
  return {
    /**
     * Makes a token. It is returned this once and stored hashed.
     * @throws AVX_ROLE_TOO_SMALL where it would have more rights than its maker
     */
    async make({ business, role }: Membership, wanted: NewToken): Promise<string> {
      const seesPeople = wanted.seesPeople === 'on';
      const seesMoney = wanted.seesMoney === 'on';
      if (wanted.rights === 'change' && !mayChange(role))
        throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'change something' });
      if (seesPeople && !role.seesPeople) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'see people' });
      if (seesMoney && !role.seesMoney) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'see money' });
      const token = `avx_${randomBytes(32).toString('base64url')}`;
      await tables.tokens.create({
        businessId: business.id,
        id: newId(),
        personId: role.personId,
        name: wanted.name,
        begins: token.slice(0, 10),
        tokenHash: sha256(token),
        mayChange: wanted.rights === 'change',
        seesPeople,
        seesMoney,
        madeAt: now(),
        usedAt: null,
        revokedAt: null,
        expiresAt: new Date(nowMs() + wanted.days * 86_400_000),
      });
      return token;
    },

    /** Who speaks by this token in a business: its maker, with the rights both have now. Null where it is not good. */
    async open(business: BusinessRow, token: string): Promise<Membership | null> {
      const where = { businessId: business.id, tokenHash: sha256(token) };
      const row = (await tables.tokens.findOne({ where }))?.get({ plain: true });
      if (!row || row.revokedAt || row.expiresAt <= now()) return null;
      const role = (await tables.roles.findOne({ where: { businessId: business.id, personId: row.personId } }))?.get({
        plain: true,
      });
      if (!role) return null;
      if (nowMs() - (row.usedAt?.getTime() ?? 0) > usedLag)
        await tables.tokens.update({ usedAt: now() }, { where: { businessId: business.id, id: row.id } });
      const given = {
        role: row.mayChange ? ('editor' as const) : ('reader' as const),
        mayRelease: false,
        seesPeople: row.seesPeople,
        seesMoney: row.seesMoney,
      };
      return { business, role: { ...role, ...fewerRights(role, given) } };
    },

    /** Tokens of a business, newest first: all of them for an owner, else one's own. */
    async view({ business, role }: Membership): Promise<TokensView> {
      const own = role.role === 'owner' ? {} : { personId: role.personId };
      const rows = plain(
        await tables.tokens.findAll({
          where: { businessId: business.id, ...own },
          order: [['madeAt', 'DESC']],
          limit: 200,
        }),
      );
      const people = plain(await tables.people.findAll({ where: { id: rows.map((row) => row.personId) } }));
      const names = new Map(people.map((person) => [person.id, person.name]));
      const running = rows.filter((row) => stateOf(row) === 'runs').length;
      return {
        sentence: tokensSentence(running, business.name),
        rows: rows.map((row) => ({
          id: row.id,
          name: row.name,
          begins: row.begins,
          rights: rightsWords(row),
          state: stateOf(row),
          maker: names.get(row.personId) ?? '',
          madeAt: row.madeAt.toISOString(),
          usedAt: row.usedAt?.toISOString() ?? null,
          expiresAt: row.expiresAt.toISOString(),
        })),
        mayGive: { change: mayChange(role), seesPeople: role.seesPeople, seesMoney: role.seesMoney },
        example: `${config.origin}/api/v1/businesses/${business.key}/line`,
        timeZone: business.timeZone,
      };
    },

    /** Ends a token at once. @throws AVX_NOT_FOUND where it is none of this person's, or ended already */
    async revoke({ business, role }: Membership, id: string): Promise<void> {
      const own = role.role === 'owner' ? {} : { personId: role.personId };
      const [count] = await tables.tokens.update(
        { revokedAt: now() },
        { where: { businessId: business.id, id, revokedAt: null, ...own } },
      );
      if (count === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'running token' });
    },
  };
}
