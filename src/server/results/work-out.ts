/* eslint-disable no-await-in-loop -- tables of the same days share what is read */
import type { Sequelize } from 'sequelize';
import {
  broughtBy,
  stepsBefore,
  winningCodes,
  type BroughtRules,
  type CountedOutcome,
} from '../../core/results/brought';
import { exchangeBy } from '../../core/results/exchange';
import type { Dimension, TouchValues } from '../../core/results/dimensions';
import {
  makeFigures,
  subjectsBehind,
  type CountedSubject,
  type CreditedTouch,
  type FigureRow,
} from '../../core/results/figures';
import type { Measure } from '../../core/results/measures';
import { readingOf } from '../../core/results/reading';
import type { CreditModel } from '../../core/results/schema';
import type { ReleaseContent } from '../../core/releases';
import type { SubjectKind } from '../../core/strands';
import { groupBy } from '../../core/group-by';
import { dayIn } from '../days';
import { inParts } from '../lists';
import type { Compiled } from '../leads/segments/condition-sql';
import { connected } from './connected';
import { readRates } from './cost-queries';
import {
  columnsOf,
  readBrowsers,
  readEnquired,
  readReached,
  readSteps,
  readTouchesNamed,
  readTouchesOf,
  readVisits,
  type CreditedTouchRow,
  type FollowedRow,
  type ReachedRow,
} from './queries';
import { workOutCosts, type CostAccount } from './work-out-costs';

/** What is to be counted of a business, as plain data that a thread takes. */
export interface AskedFigures {
  databaseUrl: string;
  businessId: string;
  timeZone: string;
  /** The business's. */
  currency: string;
  rules: BroughtRules;
  /** Of the release by which values are read. */
  content: Pick<ReleaseContent, 'plan' | 'capture'>;
  counted: Measure[];
  /** Each one a table of its own: what it is broken down by, and the days (the business's) with their instants (ms). */
  tables: { by: Dimension[]; firstDay: string; lastDay: string; from: number; to: number }[];
  model: CreditModel;
  /** Only enquiries of a segment; null for everyone. */
  segment: Compiled | null;
  /** Accounts whose ads cost something. */
  accounts: CostAccount[];
}

export interface WorkedOut {
  rows: FigureRow[];
  /** Currencies whose exchange rate is not known on some day: such costs, revenue and profit are left out. */
  withoutRate: { ofCosts: string[]; ofOutcomes: string[] };
}

/** What a counted subject is. */
interface SubjectOf {
  kind: SubjectKind;
  subjectId: string;
  /** The code of the outcome; '' for the enquiry itself. */
  code: string;
  /** When (ms) it is counted. */
  at: number;
}
type Subject = CountedSubject & SubjectOf;

/** One figure of a table, by its row's cells (null: all rows together). */
export interface AskedBehind extends AskedFigures {
  cells: string[] | null;
  measure: Measure;
}
export interface Behind extends SubjectOf {
  credited: number;
  whole: number;
  /** Touches on the way, in credit or not. */
  touches: number;
}

const ofVisits: readonly Measure[] = ['visits', 'visitors', 'landed'];
const ofCosts: readonly Measure[] = ['cost', 'clicks', 'landed'];

/** Works out tables of figures: what was visited, who enquired, what was reached, credited to the touches that led to it. */
export async function workOutFigures(asked: AskedFigures): Promise<WorkedOut[]> {
  const { businessId, counted, tables, model, segment } = asked;
  const db = connected(asked.databaseUrl);
  const reading = readingOf(asked.content);
  const answers: WorkedOut[] = [];
  const spans = new Map<string, ReturnType<typeof readSubjects>>();
  for (const { by, firstDay, lastDay, from, to } of tables) {
    const figures = makeFigures(counted, by, reading);
    const costs = counted.some((one) => ofCosts.includes(one))
      ? await workOutCosts(db, asked, { firstDay, lastDay }, reading)
      : null;
    for (const { day, origin, amount, clicks } of costs?.parts ?? []) {
      figures.addOf('cost', origin, day, amount ?? 0);
      figures.addOf('clicks', origin, day, clicks);
    }
    if (segment === null && counted.some((one) => ofVisits.includes(one))) {
      const ofOrigin = costs ? (['source', 'campaign', 'platform'] as const) : [];
      const columns = [...new Set([...by.flatMap((dimension) => columnsOf[dimension]), ...ofOrigin])];
      for (const { day, direct, visits, visitors, ...values } of await readVisits(
        db,
        businessId,
        { firstDay, lastDay },
        columns,
      )) {
        figures.addVisits({ day, origin: direct ? 'direct' : values, visits, visitors });
        if (!direct && costs?.isOfCosts(values)) figures.addOf('landed', values, day, visits);
      }
    }
    const days = [new Date(from), new Date(to)] as const;
    const span = spans.get(`${from} ${to}`) ?? readSubjects(db, asked, counted, days);
    spans.set(`${from} ${to}`, span);
    const { subjects, withoutRate: ofOutcomes } = await span;
    for (const subject of subjects) figures.addSubject(subject, model);
    const without = costs?.parts.flatMap(({ row, amount }) => (amount === null ? [row.currency] : [])) ?? [];
    answers.push({ rows: figures.rows(), withoutRate: { ofCosts: distinct(without), ofOutcomes } });
  }
  return answers;
}

/** The enquiries and outcomes behind one figure, the newest first. */
export async function workOutBehind(asked: AskedBehind): Promise<Behind[]> {
  const { measure, model, cells } = asked;
  const { by, from, to } = asked.tables[0]!;
  const days = [new Date(from), new Date(to)] as const;
  const db = connected(asked.databaseUrl);
  const { subjects } = await readSubjects(db, asked, [measure], days);
  return subjectsBehind(subjects, by, cells, measure, model, readingOf(asked.content))
    .map(({ subject: { kind, subjectId, code, at, until, touches }, credited, whole }) => ({
      kind,
      subjectId,
      code,
      at,
      credited,
      whole,
      touches: touches.filter((touch) => touch.at <= until).length,
    }))
    .sort((a, b) => b.at - a.at || (a.subjectId < b.subjectId ? -1 : 1));
}

/** The codes of the outcomes that some measures need. */
function codesFor(counted: readonly Measure[], rules: BroughtRules): string[] {
  const named = counted.flatMap((one) => (one.startsWith('outcome.') ? [one.slice('outcome.'.length)] : []));
  const needsAll = counted.some((one) => ['qualified', 'won', 'revenue', 'profit'].includes(one));
  return [...new Set([...named, ...(needsAll ? rules.outcomes.map(({ code }) => code) : [])])];
}

/** Enquiries and outcomes of some time, each with the touches of its person. */
async function readSubjects(
  db: Sequelize,
  { businessId, rules, segment, timeZone, currency }: AskedFigures,
  counted: readonly Measure[],
  days: readonly [Date, Date],
): Promise<{ subjects: Subject[]; withoutRate: string[] }> {
  const [enquired, reached, rates] = await Promise.all([
    counted.includes('leads') ? readEnquired(db, businessId, days, segment) : [],
    readReached(db, businessId, codesFor(counted, rules), winningCodes(rules), days, segment),
    readRates(db, businessId),
  ]);
  const exchange = exchangeBy(rates, currency);
  const before = await readBefore(db, businessId, reached, rules);
  const touchesOf = await readPaths(db, businessId, [...enquired, ...reached]);
  const without: string[] = [];
  const subjects: Subject[] = enquired.map((row) => ({
    id: row.id,
    kind: 'enquiry',
    subjectId: row.id,
    code: '',
    at: row.until.getTime(),
    day: dayIn(timeZone, row.until.getTime()),
    until: row.until.getTime(),
    touches: touchesOf(row),
    counts: ['leads'],
    amounts: {},
  }));
  for (const row of reached) {
    const at = row.happenedAt.getTime();
    const day = dayIn(timeZone, at);
    const { counts, amounts, hasNoRate } = broughtBy(asCounted(row, before.get(row.id) ?? 0, day), rules, exchange);
    if (hasNoRate) without.push(row.currency);
    subjects.push({
      id: row.id,
      kind: row.subjectKind,
      subjectId: row.subjectId,
      code: row.code,
      at,
      day,
      until: row.until.getTime(),
      touches: touchesOf(row),
      counts,
      amounts,
    });
  }
  return { subjects, withoutRate: distinct(without) };
}

const asCounted = (row: ReachedRow, before: number, day: string): CountedOutcome => ({
  code: row.code,
  subjectKind: row.subjectKind,
  currency: row.currency,
  amount: row.amountMinor,
  worth: row.worthMinor,
  corrected: row.correctedMinor,
  isTakenBack: row.isTakenBack,
  isExpected: row.isExpected,
  isFirstWon: row.isFirstWon,
  before,
  day,
});

/** What the steps before outcomes on their ladders are worth, by outcome. */
async function readBefore(
  db: Sequelize,
  businessId: string,
  reached: readonly ReachedRow[],
  rules: BroughtRules,
): Promise<Map<string, number>> {
  const stepsOf = new Map(rules.outcomes.map(({ code }) => [code, stepsBefore(rules, code)]));
  const after = reached.filter(({ code }) => (stepsOf.get(code) ?? []).length > 0);
  const codes = [...new Set(after.flatMap(({ code }) => stepsOf.get(code)!))];
  const subjects = distinct(after.map(({ subjectId }) => subjectId));
  const steps = new Map<string, Awaited<ReturnType<typeof readSteps>>>();
  for await (const rows of inParts(subjects, (part) => readSteps(db, businessId, codes, part)))
    for (const [subject, own] of groupBy(rows, ({ subjectId }) => subjectId)) steps.set(subject, own);
  return new Map(
    after.map(({ id, subjectId, code, currency }) => {
      const own = (steps.get(subjectId) ?? []).filter(
        (step) => step.currency === currency && stepsOf.get(code)!.includes(step.code),
      );
      return [id, own.reduce((sum, { worth }) => sum + worth, 0)];
    }),
  );
}

/** The touches of all browsers of a person, and the one that an enquiry itself names. */
async function readPaths(
  db: Sequelize,
  businessId: string,
  rows: readonly FollowedRow[],
): Promise<(row: FollowedRow) => CreditedTouch[]> {
  const browsers = new Map<string, string[]>();
  const people = distinct(rows.map(({ personId }) => personId));
  for await (const part of inParts(people, (ids) => readBrowsers(db, businessId, ids)))
    for (const [person, own] of groupBy(part, ({ personId }) => personId))
      browsers.set(
        person,
        own.map(({ visitorId }) => visitorId),
      );
  const visitorsOf = ({ personId, visitorId }: FollowedRow) =>
    distinct([...(personId === null ? [] : (browsers.get(personId) ?? [])), visitorId]);
  const byVisitor = new Map<string, CreditedTouch[]>();
  const byId = new Map<string, CreditedTouch>();
  const keep = (row: CreditedTouchRow): CreditedTouch => {
    const touch = { id: row.id, at: row.at.getTime(), values: valuesOf(row) };
    byId.set(row.id, touch);
    return touch;
  };
  for await (const part of inParts(distinct(rows.flatMap(visitorsOf)), (ids) => readTouchesOf(db, businessId, ids)))
    for (const [visitor, own] of groupBy(part, ({ visitorId }) => visitorId)) byVisitor.set(visitor, own.map(keep));
  const named = distinct(rows.map(({ touchId }) => touchId)).filter((id) => !byId.has(id));
  for await (const part of inParts(named, (ids) => readTouchesNamed(db, businessId, ids))) part.forEach(keep);
  return (row) => {
    const touches = visitorsOf(row).flatMap((visitor) => byVisitor.get(visitor) ?? []);
    const own = row.touchId === null ? undefined : byId.get(row.touchId);
    return own && !touches.includes(own) ? [...touches, own] : touches;
  };
}

const valuesOf = ({ id: _, visitorId: __, at: ___, ...values }: CreditedTouchRow): TouchValues => values;
const distinct = (ids: readonly (string | null)[]): string[] => [...new Set(ids.filter((id) => id !== null))];
