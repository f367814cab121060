import type { PlatformContract } from './contract';
import { ownContract } from './own';
import { quillsearch } from './quillsearch';
import type { OwnPlatform } from './schema';
import { tessaloop } from './tessaloop';
import { wrenwick } from './wrenwick';

export type { BatchAnswer, ChangeRow, KeyKind, PlatformContract, RowAnswer, TellingRow } from './contract';

/** Every kind of platform that ships and is told outcomes. */
export const platformKinds: readonly PlatformContract[] = [quillsearch, tessaloop, wrenwick];

/** The contract of a kind of platform, or null where Avrix knows none. @param own those that the business describes itself */
export function contractOf(kind: string, own: readonly OwnPlatform[]): PlatformContract | null {
  const shipped = platformKinds.find((contract) => contract.kind === kind);
  if (shipped) return shipped;
  const described = own.find((platform) => platform.kind === kind);
  return described ? ownContract(described) : null;
}
