import type { LinkPlan } from './check-tags';
import type { Sentence } from '../strands/sentence';
import type { CarryRule } from '../capture/schema';
import type { ColumnOrder } from './schema';
import type { UsedIn } from './uses';
import type { ShortLinkWins } from './open';
import type { FoundOffer } from './take-over';
import type { PageCheckResult } from './page-check';

export interface TagSetView {
  id: string;
  name: string;
  tags: Record<string, string[]>;
  usedIn: UsedIn;
}

/** What making links needs to know. */
export interface MakingView {
  sentence: Sentence;
  /** The plan that is live, with the register's campaigns. */
  plan: LinkPlan;
  tagSets: TagSetView[];
  /** Campaigns of the register that have not ended long ago, with the medium of their type in the CRM. */
  campaigns: { name: string; friendly: string; medium: string }[];
  /** The source that mostly comes with a medium. */
  usual: Record<string, string>;
  /** Pages that links led to, the newest first; a business without links has its websites. */
  landings: string[];
  columnOrders: ColumnOrder[];
  /** Names under which click IDs travel, by the draft. */
  carry: CarryRule[];
  /** Platforms that there is an account of. */
  platforms: string[];
  mayChange: boolean;
  /** The business's own, for a campaign's budget. */
  currency: string;
  timeZone: string;
}

export interface LinkListRow {
  id: string;
  url: string;
  landing: string;
  tags: Record<string, string>;
  campaign: string;
  usedIn: UsedIn;
  place: string;
  owner: string;
  madeAt: string;
  retired: boolean;
  /** Tagged visits that came by it, as far as they are recorded. */
  arrivals: number;
  firstAt: string | null;
  lastAt: string | null;
  /** Problems by the plan that is live. */
  problems: string[];
  check: { state: 'waiting' | 'good' | 'bad'; at: string | null; words: string[] } | null;
}

export interface LinkListView {
  sentence: Sentence;
  rows: LinkListRow[];
  total: number;
  pageSize: number;
  timeZone: string;
}

export interface ShortLinkView {
  id: string;
  path: string;
  /** Under which host it is handed out; '' where it is the usual one. */
  host: string;
  /** The address that people open. */
  url: string;
  /** What is wrong with where it leads, by the plan that is live. */
  problems: string[];
  destination: string;
  wins: ShortLinkWins;
  status: number;
  hasPassword: boolean;
  expiresAt: string | null;
  state: 'open' | 'expired' | 'retired';
  clicks: number;
  bots: number;
  lastAt: string | null;
  history: { since: string; destination: string; by: string }[];
}

/** Where the people who clicked a short link came from, those who came most first; '' where nothing says it. */
export interface ShortClicksView {
  from: { host: string; clicks: number; lastAt: string }[];
}

export interface ShortLinksView {
  sentence: Sentence;
  rows: ShortLinkView[];
  /** Hosts under which short links are handed out, the usual one first. */
  hosts: string[];
  plan: LinkPlan;
  mayChange: boolean;
  timeZone: string;
}

export interface PageCheckView {
  id: string;
  url: string;
  state: 'waiting' | 'good' | 'bad';
  askedAt: string;
  checkedAt: string | null;
  steps: PageCheckResult['steps'];
  words: string[];
  snippets: number;
  release: number | null;
  /** What the page does already that no rule does yet. */
  found: FoundOffer[];
}

export interface PageChecksView {
  sentence: Sentence;
  rows: PageCheckView[];
  waiting: number;
  mayChange: boolean;
  timeZone: string;
}
