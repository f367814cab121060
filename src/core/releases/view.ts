import type { Sentence } from '../strands/sentence';
import type { RuleName } from '../rules';

/** One rule as the draft changes it: the sentence that is live, and the one that would be. */
export interface ChangeView extends RuleName {
  station: string;
  /** null where the rule is new. */
  live: string | null;
  /** null where the rule is taken out. */
  draft: string | null;
  /** What differs besides. */
  details: string[];
  by: string;
  changedAt: string;
}

export interface NotLiveView {
  sentence: Sentence;
  changes: ChangeView[];
  /** The release that is live. */
  release: { number: number; name: string; madeAt: string };
  mayRelease: boolean;
  mayChange: boolean;
  timeZone: string;
}
