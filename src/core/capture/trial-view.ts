import type { Sentence } from '../strands/sentence';
import type { TrialPage } from './trial';

/** Rules that are not live yet, tried in one's own browser. */
export interface TrialView {
  sentence: Sentence;
  /** Rules that are not live. */
  changes: number;
  trial: {
    id: string;
    /** Whose rules are tried. */
    rules: 'draft' | 'live';
    endsAt: string;
    /** Pages to begin at, each with made-up values; the newest that links led to first. */
    links: { page: string; link: string }[];
    /** Begins the trial on a page that has no snippet. */
    bookmarklet: string;
    pages: TrialPage[];
  } | null;
  mayChange: boolean;
  timeZone: string;
}
