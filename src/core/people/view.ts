import type { Sentence } from '../strands/sentence';

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
