import type { Sentence } from '../../strands';
import type { SegmentMeans } from './condition';

export interface SegmentView {
  id: string;
  name: string;
  means: SegmentMeans;
  /** Its sentence. */
  says: string;
  isShared: boolean;
  /** Whose it is; '' for one's own. */
  owner: string;
  isRetired: boolean;
  changedAt: string;
  mayChange: boolean;
  /** Others, and routines, that are made of it, each in words. */
  usedBy: string[];
}

export interface SegmentsView {
  sentence: Sentence;
  segments: SegmentView[];
  /** What there is to pick from. */
  offers: {
    sources: string[];
    mediums: string[];
    campaigns: string[];
    forms: string[];
    paths: string[];
    stages: string[];
    outcomes: string[];
    crmFields: string[];
  };
  mayMake: boolean;
  timeZone: string;
}

/** Whom a segment means now. */
export interface SegmentEffectView {
  enquiries: number;
  people: number;
  /** The newest. */
  newest: { id: string; company: string; cameFrom: string; at: string }[];
}
