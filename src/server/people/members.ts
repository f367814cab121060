import { randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Transaction } from 'sequelize';
import { AvrixError, fieldsWrong } from '../../core/errors';
import { rightsWords, type Rights } from '../../core/people/rights';
import type { NewInvitation } from '../../core/people/schema';
import type { PeopleView } from '../../core/people/view';
import { counted } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Changes } from '../changes/changes';
import { requireOwner } from '../connections/connections';
import type { Context } from '../context';
import { inTransaction, plain, selectRows, time, uuid, type InvitationRow, type RoleRow } from '../db';
import { newId } from '../ids';
import { sha256 } from '../secrets';
import type { Membership, SignedIn } from './people';

const invitationDays = 7;

/** An invitation as the person who was invited sees it. */
export interface Invited {
  business: string;
  mail: string;
  invitedBy: string;
  rights: string;
  /** Whether somebody of that address signs in here already. */
  isKnown: boolean;
}

const rightsOf = ({ role, mayRelease, seesPeople, seesMoney }: Rights): Rights => ({
  role,
  mayRelease,
  seesPeople,
  seesMoney,
});

/** Who has a role in a business: invited, changed, taken away, leaving; and a person's own password. */
export function makeMembers({ db, tables, config }: Context, changes: Changes) {
  async function rolesOf(businessId: string, transaction: Transaction | null = null): Promise<RoleRow[]> {
    return plain(await tables.roles.findAll({ where: { businessId }, limit: 500, transaction }));
  }

  /** @throws AVX_LAST_OWNER where nobody would own the business any more */
  function refuseOwnerless(roles: RoleRow[], personId: string): void {
    if (!roles.some(({ role, personId: id }) => role === 'owner' && id !== personId))
      throw new AvrixError('AVX_LAST_OWNER');
  }

  async function openInvitation(token: string): Promise<InvitationRow> {
    const rows = plain(await tables.invitations.findAll({ where: { tokenHash: sha256(token) }, limit: 1 }));
    const [row] = rows;
    if (!row || row.withdrawnAt) throw new AvrixError('AVX_INVITATION_UNKNOWN');
    if (row.usedAt) throw new AvrixError('AVX_INVITATION_USED');
    if (row.endsAt <= now()) throw new AvrixError('AVX_INVITATION_OVER', { days: invitationDays });
    return row;
  }

  const noteRole = (
    businessId: string,
    by: string,
    subject: string,
    was: Rights | null,
    became: Rights | null,
    transaction: Transaction,
  ) =>
    changes.note(
      businessId,
      by,
      [{ kind: 'person', subject, was: was ? rightsWords(was) : '', became: became ? rightsWords(became) : '' }],
      transaction,
    );

  return {
    async view({ business, role }: Membership): Promise<PeopleView> {
      const roles = await rolesOf(business.id);
      const ids = roles.map(({ personId }) => personId);
      const isOwner = role.role === 'owner';
      const [people, seen, invitations] = await Promise.all([
        tables.people.findAll({ where: { id: ids } }),
        selectRows(
          db,
          { personId: uuid(), seenAt: time().of('MAX(seen_at)') },
          'FROM sessions WHERE person_id IN (?) GROUP BY person_id',
          [ids],
        ),
        isOwner
          ? tables.invitations.findAll({
              where: { businessId: business.id, usedAt: null, withdrawnAt: null },
              order: [['madeAt', 'DESC']],
              limit: 100,
            })
          : [],
      ]);
      const byId = new Map(plain(people).map((person) => [person.id, person]));
      const seenAt = new Map(seen.map((one) => [one.personId, one.seenAt.toISOString()]));
      const members = roles
        .flatMap((one) => {
          const person = byId.get(one.personId);
          return person
            ? [
                {
                  id: person.id,
                  name: person.name,
                  mail: isOwner || person.id === role.personId ? person.mail : '',
                  seenAt: seenAt.get(person.id) ?? null,
                  isYou: person.id === role.personId,
                  ...rightsOf(one),
                },
              ]
            : [];
        })
        .sort((a, b) => a.name.localeCompare(b.name));
      const open = plain(invitations as never[]) as InvitationRow[];
      const owners = members.filter((one) => one.role === 'owner');
      return {
        sentence: {
          title:
            members.length === 1
              ? `Only you can see ${business.name}.`
              : `${counted(members.length, 'person', 'people')} can see ${business.name}; ${counted(owners.length, 'owns it', 'own it')}.`,
          under: isOwner
            ? 'Invite others by a link that works once; what each may do can be changed at any time.'
            : 'Owners invite others and say what each may do.',
        },
        members,
        invitations: open
          .filter(({ endsAt }) => endsAt > now())
          .map((one) => ({
            id: one.id,
            mail: one.mail,
            invitedBy: byId.get(one.invitedBy)?.name ?? 'somebody who left',
            madeAt: one.madeAt.toISOString(),
            endsAt: one.endsAt.toISOString(),
            ...rightsOf(one),
          })),
        isOwner,
        isLastOwner: isOwner && owners.length === 1,
        timeZone: business.timeZone,
      };
    },

    /**
     * Invites somebody by a link that works once and ends after 7 days; it is answered this once.
     * @throws AVX_ROLE_TOO_SMALL for all but owners, AVX_FIELD_WRONG where they have a role already
     */
    async invite(membership: Membership, { mail, ...rights }: NewInvitation): Promise<{ link: string }> {
      requireOwner(membership, 'invite people');
      const { business, role } = membership;
      const known = (await tables.people.findOne({ where: { mail } }))?.get({ plain: true });
      const has = known && (await tables.roles.count({ where: { businessId: business.id, personId: known.id } }));
      if (known && has)
        throw fieldsWrong([
          { field: 'mail', was: `${known.name} has a role here already`, fix: 'Change what they may do in the list.' },
        ]);
      const token = randomBytes(24).toString('base64url');
      await inTransaction(db, async (transaction) => {
        const id = newId();
        await tables.invitations.create(
          {
            id,
            businessId: business.id,
            tokenHash: sha256(token),
            mail,
            ...rights,
            invitedBy: role.personId,
            madeAt: now(),
            endsAt: new Date(nowMs() + invitationDays * 86_400_000),
            usedAt: null,
            withdrawnAt: null,
          },
          { transaction },
        );
        await noteRole(business.id, role.personId, `Invitation of ${mail}`, null, rights, transaction);
      });
      return { link: `${config.origin}/join/${token}` };
    },

    async withdraw(membership: Membership, id: string): Promise<void> {
      requireOwner(membership, 'invite people');
      const [done] = await tables.invitations.update(
        { withdrawnAt: now() },
        { where: { businessId: membership.business.id, id, usedAt: null, withdrawnAt: null } },
      );
      if (done === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'open invitation' });
    },

    /**
     * Changes what somebody may do.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_LAST_OWNER
     */
    async change(membership: Membership, personId: string, rights: Rights): Promise<void> {
      requireOwner(membership, 'change what people may do');
      const { id: businessId } = membership.business;
      await inTransaction(db, async (transaction) => {
        const roles = await rolesOf(businessId, transaction);
        const before = roles.find((one) => one.personId === personId);
        if (!before) throw new AvrixError('AVX_NOT_FOUND', { what: 'person of that name in this business' });
        if (rights.role !== 'owner') refuseOwnerless(roles, personId);
        await tables.roles.update(rights, { where: { businessId, personId }, transaction });
        const name = (await tables.people.findByPk(personId, { transaction }))!.get('name') as string;
        await noteRole(businessId, membership.role.personId, name, before, rights, transaction);
      });
    },

    /**
     * Takes somebody's role away; one's own is leaving.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_LAST_OWNER
     */
    async remove(membership: Membership, personId: string): Promise<void> {
      const { id: businessId } = membership.business;
      if (personId !== membership.role.personId) requireOwner(membership, 'take people out');
      await inTransaction(db, async (transaction) => {
        const roles = await rolesOf(businessId, transaction);
        const before = roles.find((one) => one.personId === personId);
        if (!before) throw new AvrixError('AVX_NOT_FOUND', { what: 'person of that name in this business' });
        refuseOwnerless(roles, personId);
        await tables.roles.destroy({ where: { businessId, personId }, transaction });
        // Their tokens speak for them no longer.
        await tables.tokens.update(
          { revokedAt: now() },
          { where: { businessId, personId, revokedAt: null }, transaction },
        );
        const name = (await tables.people.findByPk(personId, { transaction }))!.get('name') as string;
        await noteRole(businessId, membership.role.personId, name, before, null, transaction);
      });
    },

    /** What an invitation is for. @throws AVX_INVITATION_UNKNOWN, AVX_INVITATION_USED, AVX_INVITATION_OVER */
    async invited(token: string): Promise<Invited> {
      const row = await openInvitation(token);
      const business = (await tables.businesses.findByPk(row.businessId))!.get({ plain: true });
      const inviter = (await tables.people.findByPk(row.invitedBy))?.get({ plain: true });
      return {
        business: business.name,
        mail: row.mail,
        invitedBy: inviter?.name ?? 'somebody who left',
        rights: rightsWords(row),
        isKnown: (await tables.people.count({ where: { mail: row.mail } })) > 0,
      };
    },

    /**
     * Takes an invitation up, once. Somebody new makes an account of their own with it; who signs in already must be
     * signed in as the one who was invited.
     *
     * @returns the business's key
     * @throws AVX_INVITATION_UNKNOWN, AVX_INVITATION_USED, AVX_INVITATION_OVER, AVX_INVITATION_OTHER
     */
    async join(
      token: string,
      signedIn: SignedIn | null,
      fresh: { name: string; password: string } | null,
    ): Promise<string> {
      const row = await openInvitation(token);
      const known = (await tables.people.findOne({ where: { mail: row.mail } }))?.get({ plain: true });
      if (known && signedIn?.id !== known.id) throw new AvrixError('AVX_INVITATION_OTHER', { mail: row.mail });
      if (!known && !fresh) throw new AvrixError('AVX_INVITATION_OTHER', { mail: row.mail });
      const passwordHash = fresh ? await hash(fresh.password) : '';
      return inTransaction(db, async (transaction) => {
        const [taken] = await tables.invitations.update(
          { usedAt: now() },
          { where: { businessId: row.businessId, id: row.id, usedAt: null, withdrawnAt: null }, transaction },
        );
        if (taken === 0) throw new AvrixError('AVX_INVITATION_USED');
        const personId = known?.id ?? newId();
        if (!known)
          await tables.people.create(
            {
              id: personId,
              mail: row.mail,
              name: fresh!.name,
              passwordHash,
              preferences: { theme: 'system', singleKeys: true },
              createdAt: now(),
            },
            { transaction },
          );
        await tables.roles.upsert({ businessId: row.businessId, personId, ...rightsOf(row) }, { transaction });
        await noteRole(row.businessId, personId, known?.name ?? fresh!.name, null, rightsOf(row), transaction);
        return (await tables.businesses.findByPk(row.businessId, { transaction }))!.get('key') as string;
      });
    },

    /**
     * Changes one's own password and ends every other session.
     * @throws AVX_FIELD_WRONG where the one before is wrong
     */
    async setPassword(person: SignedIn, before: string, password: string): Promise<void> {
      const row = (await tables.people.findByPk(person.id))!.get({ plain: true });
      if (!(await verify(row.passwordHash, before)))
        throw fieldsWrong([
          { field: 'before', was: 'is not your password', fix: 'Enter the one you sign in with now.' },
        ]);
      const passwordHash = await hash(password);
      await inTransaction(db, async (transaction) => {
        await tables.people.update({ passwordHash }, { where: { id: person.id }, transaction });
        await db.query('UPDATE sessions SET revoked_at = ? WHERE person_id = ? AND id <> ? AND revoked_at IS NULL', {
          replacements: [now(), person.id, person.sessionId],
          transaction,
        });
      });
    },

    /** Gives somebody a new password, for a command of the operator, and ends their sessions. @returns null for an unknown address */
    async resetPassword(mail: string): Promise<{ name: string; password: string } | null> {
      const row = (await tables.people.findOne({ where: { mail: mail.trim() } }))?.get({ plain: true });
      if (!row) return null;
      const password = randomBytes(12).toString('base64url');
      await tables.people.update({ passwordHash: await hash(password) }, { where: { id: row.id } });
      await tables.sessions.update({ revokedAt: now() }, { where: { personId: row.id, revokedAt: null } });
      return { name: row.name, password };
    },
  };
}
