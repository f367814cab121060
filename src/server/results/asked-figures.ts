import type { MessagePort } from 'node:worker_threads';
import type { BroughtRules } from '../../core/results/brought';
import type { Dimension } from '../../core/results/dimensions';
import type { CountedSubject } from '../../core/results/figures';
import type { Measure } from '../../core/results/measures';
import type { CreditModel } from '../../core/results/schema';
import type { SubjectKind } from '../../core/strands';
import type { Compiled } from '../leads/segments/condition-sql';
import type { AskedBusiness } from './asked-business';
import type { CostAccount } from './work-out-costs';

/** What is to be counted of a business, as plain data that a thread takes. */
export interface AskedFigures extends AskedBusiness {
  rules: BroughtRules;
  counted: Measure[];
  /** Each one a table of its own: what it is broken down by, and the days (the business's) with their instants (ms). */
  tables: { by: Dimension[]; firstDay: string; lastDay: string; from: number; to: number }[];
  model: CreditModel;
  /** Only enquiries of a segment; null for everyone. */
  segment: Compiled | null;
  /** Accounts whose ads cost something. */
  accounts: CostAccount[];
  /** Where to say how far it is. */
  progress?: MessagePort;
}

/** What a counted subject is. */
export interface SubjectOf {
  kind: SubjectKind;
  subjectId: string;
  /** The code of the outcome; '' for the enquiry itself. */
  code: string;
  /** When (ms) it is counted. */
  at: number;
}
export type Subject = CountedSubject & SubjectOf;

/** All that the tables are broken down by. */
export const allOf = (tables: AskedFigures['tables']): Dimension[] => tables.flatMap(({ by }) => by);
