import type { WrongField } from '../errors';
import type { ReleaseContent } from '../releases/schema';
import type { Place } from './place';
import type { Beside, Piece } from './says';

/** What is wrong with a rule where it stands: `stops` keeps it from going live, `warns` is said. */
export interface RuleProblem extends WrongField {
  weighs?: 'stops' | 'warns';
}

/** A rule that another one needs, by its kind and its own name; without it the other `stops` a release, or `warns`. */
export interface RuleRef {
  kind: string;
  id: string;
  weighs?: 'stops' | 'warns';
}

/** One kind of rule, whole: where it stands in a release, its sentence, what it needs, and what is wrong with it. */
export interface RuleKind<Rule> {
  station: 'Plan' | 'Capture' | 'Events' | 'Leads' | 'Report-backs' | 'Connections';
  at: Place<Rule>;
  says: readonly Piece<Rule>[];
  /** What people call one of it by its own name. */
  calls?(id: string, content: ReleaseContent): string;
  /** What a new one begins with. @param names those that are taken */
  start?(beside: Beside, names: string[]): Rule;
  /** Rules that it cannot do without. */
  refs?(rule: Rule): RuleRef[];
  /** What else differs between two of it, a sentence each: what its sentence does not say. */
  details?(before: Rule, after: Rule): string[];
  /** Whether that is said of a new one too, by what differs from what it began with. */
  detailsOfNew?: true;
  /** What is wrong with it in the content it would stand in. */
  check?(rule: Rule, content: ReleaseContent): RuleProblem[];
}

export const defineRule = <Rule>(kind: RuleKind<Rule>): RuleKind<Rule> => kind;
