/* eslint-disable no-await-in-loop -- tables of the same days share what is read */
import type { Sequelize } from 'sequelize';
import { makeFigures, subjectsBehind, type FigureRow } from '../../core/results/figures';
import type { Measure } from '../../core/results/measures';
import { readingOf } from '../../core/results/reading';
import { allOf, type AskedFigures, type SubjectOf } from './asked-figures';
import { connected } from './connected';
import { areSummedUp, readLeadDays } from './lead-days';
import { columnsFor, readVisits } from './queries';
import { readStages } from './read-stages';
import { readSubjects } from './read-subjects';
import { makeReport } from './report-progress';
import { workOutCosts } from './work-out-costs';

export interface WorkedOut {
  rows: FigureRow[];
  /** Currencies whose exchange rate is not known on some day: such costs, revenue and profit are left out. */
  withoutRate: { ofCosts: string[]; ofOutcomes: string[] };
}

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
  const stages = await readStages(db, businessId, allOf(tables));
  const reading = readingOf(asked.content, stages);
  const answers: WorkedOut[] = [];
  const fromSums = counted.includes('leads') && (await areSummedUp(db, asked));
  const spans = await readSpans(db, asked, fromSums ? counted.filter((measure) => measure !== 'leads') : counted);
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
      const columns = columnsFor([...by, ...ofOrigin]);
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
    if (fromSums)
      for (const { day, isUnknown, thousandths, ...values } of await readLeadDays(
        db,
        businessId,
        { firstDay, lastDay },
        model.kind,
        columnsFor(by),
      ))
        figures.addOf('leads', isUnknown ? 'not known' : values, day, thousandths);
    const { subjects, withoutRate: ofOutcomes } = spans.get(spanOf({ from, to }))!;
    for (const subject of subjects) figures.addSubject(subject, model);
    const without = costs?.parts.flatMap(({ row, amount }) => (amount === null ? [row.currency] : [])) ?? [];
    answers.push({ rows: figures.rows(), withoutRate: { ofCosts: [...new Set(without)], ofOutcomes } });
  }
  return answers;
}

type Span = Pick<AskedFigures['tables'][number], 'from' | 'to'>;
const spanOf = ({ from, to }: Span) => `${from} ${to}`;

/** What is counted one by one, for all tables of the same days once. */
async function readSpans(db: Sequelize, asked: AskedFigures, counted: readonly Measure[]) {
  const report = makeReport(asked.progress);
  const spans = new Map(asked.tables.map((table): [string, Span] => [spanOf(table), table]));
  const read = [...spans].map(async ([span, { from, to }]) => {
    const days = [new Date(from), new Date(to)] as const;
    return [span, await readSubjects(db, asked, counted, days, report)] as const;
  });
  return new Map(await Promise.all(read));
}

/** The enquiries and outcomes behind one figure, the newest first. */
export async function workOutBehind(asked: AskedBehind): Promise<Behind[]> {
  const { measure, model, cells } = asked;
  const { by, from, to } = asked.tables[0]!;
  const days = [new Date(from), new Date(to)] as const;
  const db = connected(asked.databaseUrl);
  const { subjects } = await readSubjects(db, asked, [measure], days);
  const reading = readingOf(asked.content, await readStages(db, asked.businessId, by));
  return subjectsBehind(subjects, by, cells, measure, model, reading)
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
