import type { PlatformContract } from './contract';
import { quillsearch } from './quillsearch';

export type { PlatformContract, RowAnswer, TellingRow } from './contract';

const contracts: Record<string, PlatformContract> = { quillsearch };

/** The contract of a kind of platform, or null where Avrix knows none. */
export function contractOf(kind: string): PlatformContract | null {
  return contracts[kind] ?? null;
}
