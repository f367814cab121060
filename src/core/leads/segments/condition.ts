import type { WayInKind } from '../../strands/types';
import type { Quality } from '../quality';

/** What a condition is about; those with `not_` or `no_` are its opposite. */
export const conditionKinds = [
  'touch',
  'form',
  'not_form',
  'way',
  'stage',
  'reached',
  'not_reached',
  'quality',
  'not_quality',
  'field',
  'enquired',
  'answered',
  'outcome',
  'no_outcome',
  'segment',
  'not_segment',
] as const;
export type ConditionKind = (typeof conditionKinds)[number];

/** `enquiry`: the touch that brought the enquiry. */
export const whichTouches = ['any', 'first', 'last', 'enquiry'] as const;
export const touchParts = ['source', 'medium', 'campaign', 'content', 'term', 'referrer', 'landing'] as const;
export type TouchPartName = (typeof touchParts)[number];
export const touchTests = ['is', 'is_not', 'begins', 'contains', 'empty', 'not_empty'] as const;
export type TouchTest = (typeof touchTests)[number];
export const whens = ['last', 'before', 'between'] as const;

/** One condition. What it is not about keeps its usual value. */
export interface Condition {
  about: ConditionKind;
  touch: (typeof whichTouches)[number];
  part: TouchPartName;
  test: TouchTest;
  /** Of which any may hold. */
  values: string[];
  way: WayInKind;
  quality: Quality;
  /** A field of the CRM's records. */
  field: string;
  when: (typeof whens)[number];
  days: number;
  /** Days of the business, both in it. */
  from: string;
  to: string;
  /** Another segment's ID. */
  segment: string;
}

/** Which leads a segment means. */
export interface SegmentMeans {
  match: 'all' | 'any';
  conditions: Condition[];
}

export const freshCondition = (about: ConditionKind = 'touch'): Condition => ({
  about,
  touch: 'any',
  part: 'source',
  test: 'is',
  values: [],
  way: 'form',
  quality: 'unanswered',
  field: '',
  when: 'last',
  days: 30,
  from: '',
  to: '',
  segment: '',
});

/** Whether a test is held against a value. */
export const needsValue = (test: TouchTest): boolean => test !== 'empty' && test !== 'not_empty';
export const hasTest = (about: ConditionKind): boolean => about === 'touch' || about === 'field';
export const hasDates = (about: ConditionKind): boolean => about === 'enquired' || about === 'answered';
/** Conditions that are held against names alone: of forms, stages, outcomes. */
export const hasNames = (about: ConditionKind): boolean =>
  ['form', 'not_form', 'stage', 'reached', 'not_reached', 'outcome', 'no_outcome'].includes(about);

/** Whether all of it is said. */
export function isComplete({ about, test, values, field, when, from, to, segment }: Condition): boolean {
  if (about === 'segment' || about === 'not_segment') return segment !== '';
  if (hasDates(about)) return when !== 'between' || (from !== '' && to !== '' && from <= to);
  if (hasNames(about)) return values.length > 0;
  if (!hasTest(about)) return true;
  return (about !== 'field' || field !== '') && (!needsValue(test) || values.length > 0);
}

/** Whether somebody who is no enquiry can be meant: they are left out of every list but where they are asked for. */
export const meansNoEnquiry = ({ conditions }: SegmentMeans): boolean =>
  conditions.some(({ about, quality }) => about === 'quality' && quality === 'no_enquiry');

/** The segments that a segment is made of, without those that these are made of. */
export const segmentsIn = ({ conditions }: SegmentMeans): string[] =>
  conditions.flatMap(({ about, segment }) =>
    (about === 'segment' || about === 'not_segment') && segment !== '' ? [segment] : [],
  );
