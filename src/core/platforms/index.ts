import type { PlatformContract } from './contract';
import { quillsearch } from './quillsearch';
import { wrenwick } from './wrenwick';

export type { BatchAnswer, KeyKind, PlatformContract, RowAnswer, TellingRow } from './contract';

/** Every kind of platform that ships and is told outcomes. */
export const platformKinds: readonly PlatformContract[] = [quillsearch, wrenwick];

/** The contract of a kind of platform, or null where Avrix knows none. */
export const contractOf = (kind: string): PlatformContract | null =>
  platformKinds.find((contract) => contract.kind === kind) ?? null;
