import type { Sentence } from '../strands/sentence';

export const changeKinds = [
  'business',
  'connection',
  'person',
  'rule',
  'release',
  'rehearsal',
  'lead',
  'report-back',
  'result',
] as const;
export type ChangeKind = (typeof changeKinds)[number];

export const changeKindWords: Record<ChangeKind, string> = {
  business: 'Business',
  connection: 'Connection',
  person: 'Person',
  rule: 'Rule in the draft',
  release: 'Release',
  rehearsal: 'Saved rehearsal',
  lead: 'Lead',
  'report-back': 'Report-back',
  result: 'Results',
};

/** Something that was changed; '' as what it was where it is new, as what it became where it was taken away. */
export interface ChangeLogRow {
  id: string;
  at: string;
  by: string;
  kind: ChangeKind;
  subject: string;
  was: string;
  became: string;
}

export interface ChangeLogView {
  sentence: Sentence;
  rows: ChangeLogRow[];
  total: number;
  pageSize: number;
  timeZone: string;
}
