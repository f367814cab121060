import { randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { AvrixError } from '../../core/errors';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { selectOne, whole, type BusinessRow, type PersonRow, type Preferences, type RoleRow } from '../db';
import { newId } from '../ids';
import { isPassFor, makePass, sha256 } from '../secrets';

const sessionDays = 30;
const triesMinutes = 15;
const triesByMail = 8;
const triesByAddress = 30;

/** Who is signed in, with the session that proves it. */
export interface SignedIn {
  id: string;
  sessionId: string;
  name: string;
  mail: string;
  preferences: Preferences;
}

/** A business as one person may see it. */
export interface Membership {
  business: BusinessRow;
  role: RoleRow;
}

/** Sign-in, sessions, and what a person may do in which business. */
export function makePeople({ db, tables, config }: Context) {
  /** So that an unknown address takes as long as a wrong password. */
  const anyHash = hash(randomBytes(16).toString('hex'));

  async function countTries(column: 'mail_hash' | 'address', value: string): Promise<number> {
    const { tries } = await selectOne(
      db,
      { tries: whole().of('COUNT(*)') },
      `FROM sign_in_tries WHERE ${column} = ? AND at > ?`,
      [value, new Date(nowMs() - triesMinutes * 60_000)],
    );
    return tries;
  }

  return {
    async create(mail: string, name: string, password: string): Promise<string> {
      const id = newId();
      await tables.people.create({
        id,
        mail,
        name,
        passwordHash: await hash(password),
        preferences: { theme: 'system', singleKeys: true },
        createdAt: now(),
      });
      return id;
    },

    /** Gives a person a role in a business, or changes it. */
    async grant(role: RoleRow): Promise<void> {
      await tables.roles.upsert(role);
    },

    /**
     * Signs a person in and returns the session's token, which is stored only hashed, and a pass by which this browser is
     * known from now on. A try is counted before its password is looked at, so that many at once are no more than a few
     * after another. Those of a known browser are counted apart: nobody can lock its person out from elsewhere.
     *
     * @param from where it came from; `pass`: what the browser was given when it last signed in
     * @throws AVX_SIGN_IN_WRONG, AVX_SIGN_IN_SLOW_DOWN after 8 wrong tries for a mail address or 30 from one place
     */
    async signIn(mail: string, password: string, from: { address: string; agent: string; pass?: string }) {
      const mailHash = sha256(mail.trim().toLowerCase());
      const subject = `sign in ${mailHash}`;
      const pass = from.pass && isPassFor(config.secretKey, subject, from.pass) ? from.pass : null;
      const [account, address] = pass ? [sha256(pass), ''] : [mailHash, from.address];
      const tried = newId();
      await db.query('INSERT INTO sign_in_tries (id, mail_hash, address, at) VALUES (?, ?, ?, ?)', {
        replacements: [tried, account, address, now()],
      });
      const forget = () => db.query('DELETE FROM sign_in_tries WHERE id = ?', { replacements: [tried] });
      const tooMany =
        (await countTries('mail_hash', account)) > triesByMail ||
        (!pass && (await countTries('address', address)) > triesByAddress);
      if (tooMany) {
        await forget();
        throw new AvrixError('AVX_SIGN_IN_SLOW_DOWN', { minutes: triesMinutes });
      }
      const person = (await tables.people.findOne({ where: { mail: mail.trim() } }))?.get({ plain: true });
      const right = await verify(person?.passwordHash ?? (await anyHash), password);
      if (!person || !right) throw new AvrixError('AVX_SIGN_IN_WRONG');
      await forget();
      const token = randomBytes(32).toString('base64url');
      await tables.sessions.create({
        id: newId(),
        tokenHash: sha256(token),
        personId: person.id,
        agent: from.agent.slice(0, 300),
        createdAt: now(),
        seenAt: now(),
        expiresAt: new Date(nowMs() + sessionDays * 86_400_000),
        revokedAt: null,
      });
      return { token, maxAge: sessionDays * 86_400, pass: makePass(config.secretKey, subject) };
    },

    /** The person behind a session's token; null where it is unknown, over or revoked. */
    async bySession(token: string | null): Promise<SignedIn | null> {
      if (!token) return null;
      const session = (await tables.sessions.findOne({ where: { tokenHash: sha256(token) } }))?.get({ plain: true });
      if (!session || session.revokedAt || session.expiresAt <= now()) return null;
      const person = (await tables.people.findByPk(session.personId))?.get({ plain: true });
      if (!person) return null;
      if (nowMs() - session.seenAt.getTime() > 60_000)
        await tables.sessions.update({ seenAt: now() }, { where: { id: session.id } });
      const { id, name, mail, preferences } = person as PersonRow;
      return { id, sessionId: session.id, name, mail, preferences };
    },

    /** Ends one of a person's own sessions. */
    async revoke(personId: string, sessionId: string): Promise<void> {
      const [count] = await tables.sessions.update(
        { revokedAt: now() },
        { where: { id: sessionId, personId, revokedAt: null } },
      );
      if (count === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'running session' });
    },

    /** A person's running sessions, newest use first. */
    async sessionsOf(personId: string) {
      const rows = await tables.sessions.findAll({
        where: { personId, revokedAt: null },
        order: [['seenAt', 'DESC']],
        limit: 50,
      });
      return rows.map((row) => row.get({ plain: true })).filter((row) => row.expiresAt > now());
    },

    async setPreferences(personId: string, preferences: Preferences): Promise<void> {
      await tables.people.update({ preferences }, { where: { id: personId } });
    },

    /** One of a business's owners, for what is set up in their name; null where it has none. */
    async anOwner(business: BusinessRow): Promise<(Membership & { name: string }) | null> {
      const role = (await tables.roles.findOne({ where: { businessId: business.id, role: 'owner' } }))?.get({
        plain: true,
      });
      const person = role && (await tables.people.findOne({ where: { id: role.personId } }));
      return role && person ? { business, role, name: person.get({ plain: true }).name } : null;
    },

    /** The businesses a person has a role in, by name. */
    async memberships(personId: string): Promise<Membership[]> {
      const roles = (await tables.roles.findAll({ where: { personId }, limit: 200 })).map((row) =>
        row.get({ plain: true }),
      );
      const businesses = await tables.businesses.findAll({ where: { id: roles.map((r) => r.businessId) } });
      return businesses
        .map((row) => row.get({ plain: true }))
        .map((business) => ({ business, role: roles.find((r) => r.businessId === business.id)! }))
        .sort((a, b) => a.business.name.localeCompare(b.business.name));
    },
  };
}
