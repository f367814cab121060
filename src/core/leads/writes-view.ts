import { z } from 'zod';
import type { ReleaseContent } from '../releases';
import type { ChangedRule } from '../rules';
import type { Sentence } from '../strands';
import { crmWriteRuleSchema, type CrmWriteRule } from './schema';
import type { LeftBecause } from './write-back';

/** One call that wrote, or is to write, fields of a record. */
export interface WriteRowView {
  id: string;
  enquiryId: string;
  words: string;
  number: string;
  fields: { field: string; was: string; becomes: string; found: string | null }[];
  state: 'waiting' | 'written' | 'refused' | 'dropped';
  answer: string;
  /** Who had it written; '' where a rule did. */
  by: string;
  isRepair: boolean;
  at: string;
}

export interface WritesView {
  sentence: Sentence;
  rules: CrmWriteRule[];
  beside: Pick<ReleaseContent, 'capture' | 'events'>;
  /** Fields that records of the CRM were seen to have. */
  fields: string[];
  /** The key of the CRM's account; '' where none is read. */
  account: string;
  changed: ChangedRule[];
  log: WriteRowView[];
  waiting: number;
  mayChange: boolean;
  timeZone: string;
}

/** What rules would write into the newest records. */
export interface DryRunView {
  /** Records that were looked at, and how many of them would be written to. */
  records: number;
  written: number;
  /** Values that would be written, and how many of them that a field would cut. */
  values: number;
  cut: number;
  examples: { enquiryId: string; words: string; field: string; was: string; becomes: string; cut: string | null }[];
  left: { because: LeftBecause; fields: number }[];
}

/** What the visit knows and the CRM's record lacks. */
export interface RepairView {
  sentence: Sentence;
  records: number;
  values: number;
  examples: DryRunView['examples'];
  /** The causes, the most frequent first, with what fixes each, and whether it went on lately. */
  causes: { text: string; fix: string; records: number; goesOn: boolean }[];
  waiting: number;
  log: WriteRowView[];
  mayChange: boolean;
  timeZone: string;
}

export const dryRunSchema = z.strictObject({ rules: z.array(crmWriteRuleSchema).max(60, 'must be at most 60 rules') });
