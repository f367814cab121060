import type { WireRule } from '../events/schema';
import type { OwnPlatform } from '../platforms/schema';

/** What somebody who sees through a page is shown beside what its pages work by. */
export interface Seen {
  /** Whose rules these are. */
  rules: 'draft' | 'live';
  wires: readonly WireRule[];
  /** Platforms that the business describes itself. */
  platforms: readonly OwnPlatform[];
  /** What people call accounts, by their keys. */
  accounts: Record<string, string>;
}
