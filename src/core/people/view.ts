import type { Sentence } from '../strands/sentence';
import type { Rights } from './rights';

export interface TokenView {
  id: string;
  name: string;
  /** Its first characters. */
  begins: string;
  rights: string;
  maker: string;
  madeAt: string;
  usedAt: string | null;
  expiresAt: string;
  state: 'runs' | 'revoked' | 'expired';
}

export interface TokensView {
  sentence: Sentence;
  rows: TokenView[];
  /** What this person may give away. */
  mayGive: { change: boolean; seesPeople: boolean; seesMoney: boolean };
  /** Where a call goes, for the example. */
  example: string;
  timeZone: string;
}

/** Somebody with a role in a business. */
export interface MemberView extends Rights {
  id: string;
  name: string;
  mail: string;
  /** When they last did something here; null where that was never or long ago. */
  seenAt: string | null;
  isYou: boolean;
}

export interface InvitationView extends Rights {
  id: string;
  mail: string;
  invitedBy: string;
  madeAt: string;
  endsAt: string;
}

export interface PeopleView {
  sentence: Sentence;
  members: MemberView[];
  invitations: InvitationView[];
  isOwner: boolean;
  /** Whether you are the only owner, who cannot leave. */
  isLastOwner: boolean;
  timeZone: string;
}
