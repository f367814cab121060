import { z } from 'zod';
import type { Sentence } from '../strands';
import { bridgeSteps, type BridgeStepKey } from './bridge';
import { daysQuery, inKnownDays, ranges, type DaysView } from './days-query';
import type { Ripe } from './ripeness-view';

/** By which day something lies in the chosen days: of its click, of when it happened, or the one that the platform counts it on. */
export const bridgeAxes = ['click', 'outcome', 'reported'] as const;
export type BridgeAxis = (typeof bridgeAxes)[number];

/** An end of the bridge: the website, the CRM, or an account by its key. */
const endSchema = z.string().regex(/^(?:website|crm|at:.{1,80})$/);

export const threeCountsQuerySchema = z
  .object({
    /** The code of an outcome; '' for the business's usual one. */
    outcome: z.string().max(20).catch(''),
    /** '' for the usual ones: the account that is told of it, and the CRM where it holds it, else the website. */
    start: endSchema.or(z.literal('')).catch(''),
    end: endSchema.or(z.literal('')).catch(''),
    axis: z.enum(bridgeAxes).catch('click'),
    ...daysQuery,
    // Long enough that most of what clicks bring has come.
    range: ranges.catch('weeks13'),
  })
  .transform(inKnownDays);
export type ThreeCountsQuery = z.output<typeof threeCountsQuerySchema>;

/** What can be opened: a step, an end, or a part of what all platforms claim. */
export const openedParts = [...bridgeSteps, 'start', 'end', 'again', 'different', 'elsewhere', 'nobody'] as const;
export type OpenedPart = (typeof openedParts)[number];
export const threeCountsBehindSchema = z.object({
  of: z.enum(openedParts).catch('end'),
  page: z.coerce.number().int().min(1).max(100_000).catch(1),
});
export type ThreeCountsBehind = z.output<typeof threeCountsBehindSchema>;

export interface EndView {
  /** As a query names it. */
  key: string;
  /** "Quillsearch counted", "Oakledger holds". */
  words: string;
  count: number;
  why: string;
  /** Whether anything of it is known one by one. */
  opens: boolean;
}
export interface StepView {
  key: BridgeStepKey;
  words: string;
  /** Where the step before it ended. */
  from: number;
  /** What it adds; below 0 what it takes away. */
  count: number;
  why: string;
  opens: boolean;
}

export interface ThreeCountsView {
  sentence: Sentence;
  asked: Pick<ThreeCountsQuery, 'outcome' | 'start' | 'end' | 'axis'>;
  outcomes: { code: string; words: string }[];
  /** Accounts that are, or were, told of the outcome. */
  accounts: { key: string; name: string }[];
  /** What the CRM is called; '' where it does not hold what the outcome is of, or none is connected. */
  crm: string;
  range: DaysView;
  /** What is counted: "lead", "leads". */
  unit: readonly [one: string, many: string];
  start: EndView;
  end: EndView;
  steps: StepView[];
  /** What all platforms claim, down to what the last end counts; null where no account is told of the outcome. */
  claims: {
    accounts: { key: string; name: string; count: number }[];
    sum: number;
    withoutUs: number;
    again: number;
    different: number;
    elsewhere: number;
    nobody: number;
    known: number;
    endWords: string;
  } | null;
  /** How long these outcomes take, and how complete those of clicks in these days are; null where days are not those of clicks. */
  ripe: Ripe | null;
  timeZone: string;
}

/** One of those behind a number of the bridge. */
export interface BridgedRowView {
  id: string;
  /** Below the business; null where nothing is to be opened. */
  path: string | null;
  name: string;
  at: string;
  /** Days on which it lies here and there; '' there where no platform counts it. */
  day: string;
  dayThere: string;
  /** What became of telling it; '' where nobody tells it. */
  told: string;
  why: string;
}
export interface ThreeCountsBehindView {
  sentence: Sentence;
  rows: BridgedRowView[];
  total: number;
  page: number;
  pageSize: number;
  timeZone: string;
}
