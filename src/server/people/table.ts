import { defineTable, type RowOf, json, text, time, uuid, yes } from '../db/columns';
import type { Rights } from '../../core/people/rights';

export interface Preferences {
  theme: 'avrix' | 'avrix-night' | 'system';
  singleKeys: boolean;
}

export const people = defineTable('people', ['id'], {
  id: uuid(),
  mail: text(),
  name: text(),
  passwordHash: text(),
  preferences: json<Preferences>(),
  createdAt: time(),
});
export type PersonRow = RowOf<typeof people>;

export const sessions = defineTable('sessions', ['id'], {
  id: uuid(),
  tokenHash: text(),
  personId: uuid(),
  agent: text(),
  createdAt: time(),
  seenAt: time(),
  expiresAt: time(),
  revokedAt: time().nullable(),
});
export type SessionRow = RowOf<typeof sessions>;

export const roles = defineTable('roles', ['businessId', 'personId'], {
  businessId: uuid(),
  personId: uuid(),
  role: text<Rights['role']>(),
  mayRelease: yes(),
  seesPeople: yes(),
  seesMoney: yes(),
});
export type RoleRow = RowOf<typeof roles>;

/** One-time links by which people come to have a role. */
export const invitations = defineTable('invitations', ['businessId', 'id'], {
  id: uuid(),
  businessId: uuid(),
  tokenHash: text(),
  mail: text(),
  role: text<Rights['role']>(),
  mayRelease: yes(),
  seesPeople: yes(),
  seesMoney: yes(),
  invitedBy: uuid(),
  madeAt: time(),
  endsAt: time(),
  usedAt: time().nullable(),
  withdrawnAt: time().nullable(),
});
export type InvitationRow = RowOf<typeof invitations>;

export const tokens = defineTable('tokens', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  personId: uuid(),
  name: text(),
  /** Its first characters, by which a person tells it from others. */
  begins: text(),
  tokenHash: text(),
  mayChange: yes(),
  seesPeople: yes(),
  seesMoney: yes(),
  madeAt: time(),
  usedAt: time().nullable(),
  expiresAt: time(),
  revokedAt: time().nullable(),
});
export type TokenRow = RowOf<typeof tokens>;

/** Tries to sign in, counted by mail address and by the address they came from. */
export const signInTries = defineTable('sign_in_tries', ['id'], {
  id: uuid(),
  mailHash: text(),
  address: text(),
  at: time(),
});
