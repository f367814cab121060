import type { WireRule } from '../events/schema';

/** What somebody who sees through a page is shown beside what its pages work by. */
export interface Seen {
  /** Whose rules these are. */
  rules: 'draft' | 'live';
  wires: readonly WireRule[];
  /** What people call accounts, by their keys. */
  accounts: Record<string, string>;
}
