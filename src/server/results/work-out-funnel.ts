import type { Sequelize } from 'sequelize';
import { passes } from '../../core/events/compare';
import { groupBy } from '../../core/group-by';
import { winningCodes, type BroughtRules } from '../../core/results/brought';
import { exchangeBy } from '../../core/results/exchange';
import { cellOf, notKnown, type Dimension } from '../../core/results/dimensions';
import { countSteps, missedBy, walk, type Done, type StepCounts, type Walked } from '../../core/results/funnel';
import type { FunnelBehind, FunnelStep } from '../../core/results/funnel-view';
import { stepProblem } from '../../core/results/funnel-words';
import { readingOf } from '../../core/results/reading';
import type { Compiled } from '../leads/segments/condition-sql';
import { readEveryPage } from '../capture/queries';
import { dayIn } from '../days';
import { inParts } from '../lists';
import type { AskedBusiness } from './asked-business';
import { connected } from './connected';
import { readRates } from './cost-queries';
import { columnsFor } from './queries';
import { readStages } from './read-stages';
import { makeValues } from './touch-values';
import {
  readOpened,
  readOpenedBy,
  readReachedBy,
  readSent,
  readVisitorsOf,
  readVisitsBegun,
  readWentOff,
} from './funnel-queries';

/** What a thread is asked: a funnel of a business over some days. */
export interface AskedFunnelWork extends AskedBusiness {
  rules: BroughtRules;
  steps: FunnelStep[];
  within: number | 'visit';
  by: Dimension | '';
  firstDay: string;
  lastDay: string;
  /** ms: journeys begin within these. */
  from: number;
  to: number;
  now: number;
  segment: Compiled | null;
}
export interface FunnelRow {
  cell: string;
  made: number[];
  worth: number;
}
export interface WorkedOutFunnel {
  steps: (StepCounts & { instead: { page: string; count: number }[]; left: number; elsewhere: number })[];
  rows: FunnelRow[];
  /** What those who came to the end brought since, minor units of the business's currency. */
  worth: number;
  /** Currencies in which something was won that is left out, since no exchange rate is known. */
  withoutRate: string[];
}
export interface Journey extends Walked {
  visitor: string;
  cell: string;
  isOpen: boolean;
  /** Until when (ms) it could go on. */
  until: number;
}

const day = 86_400_000;
/** Read at once: a thread holds what browsers did, and beside it the rows of so much time (ms). */
const slice = 2 * day;
/** So many pages are named in a query; of more all are read. */
const mostNamed = 2000;
/** Of so few browsers their hits are read, of more what everybody opened meanwhile, which stands together. */
const few = 300;
/** Pages that are named of where people went instead. */
const mostInstead = 5;
/** A visit ends after so long (ms) without a hit. */
const idle = 30 * 60_000;

interface Browser {
  done: Done[];
  visits: { from: number; to: number; cell: string }[];
}

/** How a funnel was walked: its steps, where people went instead, and what those at its end brought. */
export async function workOutFunnel(asked: AskedFunnelWork): Promise<WorkedOutFunnel> {
  const db = connected(asked.databaseUrl);
  const skips = skipsOf(asked.steps);
  const journeys = await readJourneys(db, asked);
  const counts = countSteps(skips);
  for (const journey of journeys) counts.add(journey, journey.isOpen);
  const instead = asked.steps.map(() => ({ pages: new Map<string, number>(), left: 0 }));
  const lost = journeys.filter(({ last, isOpen }) => !isOpen && missedBy(skips, last) !== null);
  const nextOf = await readNext(db, asked, lost);
  for (const journey of lost) {
    const at = instead[missedBy(skips, journey.last)!]!;
    const page = nextOf(journey);
    if (page === '') at.left += 1;
    else at.pages.set(page, (at.pages.get(page) ?? 0) + 1);
  }
  const { worthOf, withoutRate } = await readWorth(db, asked, journeys);
  const rows = new Map<string, FunnelRow>();
  let worth = 0;
  for (const journey of journeys) {
    const row = rows.get(journey.cell) ?? { cell: journey.cell, made: skips.map(() => 0), worth: 0 };
    rows.set(journey.cell, row);
    journey.times.forEach((at, step) => (row.made[step]! += at === null ? 0 : 1));
    const own = worthOf(journey);
    row.worth += own;
    worth += own;
  }
  return {
    steps: counts.steps().map((step, i) => {
      const sorted = [...instead[i]!.pages].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
      return {
        ...step,
        instead: sorted.slice(0, mostInstead).map(([page, count]) => ({ page, count })),
        elsewhere: sorted.slice(mostInstead).reduce((sum, [, count]) => sum + count, 0),
        left: instead[i]!.left,
      };
    }),
    rows:
      asked.by === '' ? [] : [...rows.values()].sort((a, b) => b.made[0]! - a.made[0]! || (a.cell < b.cell ? -1 : 1)),
    worth,
    withoutRate,
  };
}

/** The journeys behind a figure, the newest first: one part of them, and how many there are. */
export async function workOutJourneys(
  asked: AskedFunnelWork & { behind: FunnelBehind; offset: number; limit: number },
): Promise<{ rows: (Journey & { instead: string })[]; total: number }> {
  const db = connected(asked.databaseUrl);
  const skips = skipsOf(asked.steps);
  const { step, end, cell } = asked.behind;
  const found = (await readJourneys(db, asked))
    .filter((journey) => cell === undefined || journey.cell === cell)
    .filter(({ times, last, isOpen }) =>
      end === 'made' ? (times[step] ?? null) !== null : missedBy(skips, last) === step && isOpen === (end === 'open'),
    )
    .sort((a, b) => b.times[0]! - a.times[0]! || (a.visitor < b.visitor ? -1 : 1));
  const rows = found.slice(asked.offset, asked.offset + asked.limit);
  const nextOf = await readNext(db, asked, rows);
  return { rows: rows.map((journey) => ({ ...journey, instead: nextOf(journey) })), total: found.length };
}

/** What is read of some time, a slice after the other. */
function inSpans<Row>(
  from: number,
  to: number,
  read: (span: readonly [Date, Date]) => Promise<Row[]>,
): AsyncGenerator<Row[]> {
  const spans = Array.from({ length: Math.ceil(Math.max(0, to - from) / slice) }, (_, n) => {
    const at = from + n * slice;
    return [new Date(at), new Date(Math.min(at + slice, to))] as const;
  });
  return inParts(spans, ([span]) => read(span!), 1);
}

/** The first never may be skipped, nor the last. */
const skipsOf = (steps: readonly FunnelStep[]): boolean[] =>
  steps.map(({ skip }, i) => skip && i > 0 && i < steps.length - 1);

async function readJourneys(db: Sequelize, asked: AskedFunnelWork): Promise<Journey[]> {
  const { steps, within, from, to, now } = asked;
  const skips = skipsOf(steps);
  const browsers = await readBrowsersDone(db, asked);
  const of = asked.segment && (await readVisitorsOf(db, asked.businessId, asked.segment));
  const journeys: Journey[] = [];
  for (const [visitor, { done, visits }] of browsers) {
    if (of && !of.has(visitor)) continue;
    done.sort((a, b) => a.at - b.at);
    if (within === 'visit') {
      for (const { from: begun, to: until, cell } of visits) {
        const own = done.filter(({ at }) => at >= begun && at <= until);
        const walked = walk(skips, own, from, to, Infinity);
        if (walked) journeys.push({ ...walked, visitor, cell, isOpen: until + idle > now, until });
      }
    } else {
      const walked = walk(skips, done, from, to, within * day);
      if (!walked) continue;
      const begun = walked.times[0]!;
      const cell = visits.find((visit) => visit.from <= begun && begun <= visit.to)?.cell ?? notKnown;
      journeys.push({ ...walked, visitor, cell, isOpen: begun + within * day > now, until: begun + within * day });
    }
  }
  return journeys;
}

/** What customers' browsers did of the steps, and their visits. */
async function readBrowsersDone(db: Sequelize, asked: AskedFunnelWork): Promise<Map<string, Browser>> {
  const { businessId, steps, within, by, from, to, now } = asked;
  const reading = readingOf(asked.content, await readStages(db, businessId, [by]));
  const end = Math.min(now + 1, within === 'visit' ? to + day : to + within * day);
  const browsers = new Map<string, Browser>();
  const pages = await pagesOf(db, asked);
  const named = pages.size <= mostNamed ? [...pages.keys()] : null;
  const stepsNamed = (kind: FunnelStep['kind'], name: string) =>
    steps.flatMap((step, i) => (step.kind === kind && step.value === name ? [i] : []));
  const take = (kind: FunnelStep['kind'], rows: { visitorId: string; at: number; name: string }[]) => {
    for (const { visitorId, at, name } of rows) {
      const fits = kind === 'page' ? pages.get(name) : stepsNamed(kind, name);
      if (fits && fits.length > 0) browsers.get(visitorId)?.done.push({ at, fits });
    }
  };
  const columns = by === '' ? [] : columnsFor([by]).filter((name) => name !== 'day');
  const valuesOf = makeValues(columns);
  const cells = new Map<string, string>();
  const cellFor = (values: string | null): string => {
    if (by === '') return '';
    const known = cells.get(values ?? '') ?? cellOf(by, values === null ? 'direct' : valuesOf(values), '', reading);
    cells.set(values ?? '', known);
    return known;
  };
  // A visit may have begun before the days do.
  const begun = inSpans(from - day, to, (span) => readVisitsBegun(db, businessId, span, columns));
  for await (const visits of begun)
    for (const visit of visits) {
      const browser = browsers.get(visit.visitorId) ?? { done: [], visits: [] };
      browsers.set(visit.visitorId, browser);
      browser.visits.push({ from: visit.from, to: visit.to, cell: cellFor(visit.values) });
    }
  if (pages.size > 0)
    for await (const rows of inSpans(from, end, (span) => readOpened(db, businessId, span, named))) take('page', rows);
  const whole = [new Date(from), new Date(end)] as const;
  const values = (kind: FunnelStep['kind']) => steps.filter((step) => step.kind === kind).map(({ value }) => value);
  if (values('event').length > 0) take('event', await readWentOff(db, businessId, whole, values('event')));
  if (values('form').length > 0) take('form', await readSent(db, businessId, whole, values('form')));
  take('outcome', await readReachedBy(db, businessId, whole, values('outcome')));
  return browsers;
}

/** The pages that steps fit, each with those steps. */
async function pagesOf(db: Sequelize, { businessId, steps, from }: AskedFunnelWork): Promise<Map<string, number[]>> {
  const wanted = steps.flatMap((step, i) =>
    step.kind === 'page' && step.value !== '' && stepProblem(step) === '' ? [{ ...step, i }] : [],
  );
  if (wanted.length === 0) return new Map();
  const all = await readEveryPage(db, businessId, new Date(from));
  return new Map(
    all.flatMap((page) => {
      const path = page.slice(page.indexOf('/'));
      const fits = wanted.filter(({ test, value }) => passes(test, path, value)).map(({ i }) => i);
      return fits.length > 0 ? [[page, fits] as const] : [];
    }),
  );
}

/** The page that each journey went to after its last step, as long as it could go on; '' where it opened none. */
async function readNext(
  db: Sequelize,
  { businessId }: AskedFunnelWork,
  journeys: readonly Journey[],
): Promise<(journey: Journey) => string> {
  const opened = new Map(journeys.map(({ visitor }) => [visitor, [] as { at: number; page: string }[]]));
  if (opened.size === 0) return () => '';
  // One text for each page, however often it was opened.
  const pages = new Map<string, string>();
  const until = journeys.reduce((latest, journey) => Math.max(latest, journey.until), 0) + 1;
  const take = (rows: Awaited<ReturnType<typeof readOpened>>) => {
    for (const row of rows) {
      const page = pages.get(row.name) ?? row.name;
      pages.set(page, page);
      opened.get(row.visitorId)?.push({ at: row.at, page });
    }
  };
  const first = journeys.reduce((earliest, journey) => Math.min(earliest, lastAt(journey)), until);
  if (opened.size <= few)
    take(await readOpenedBy(db, businessId, [new Date(first), new Date(until)], [...opened.keys()]));
  else for await (const rows of inSpans(first, until, (span) => readOpened(db, businessId, span, null))) take(rows);
  for (const own of opened.values()) own.sort((a, b) => a.at - b.at);
  return (journey) => {
    const own = opened.get(journey.visitor) ?? [];
    const from = lastAt(journey);
    const here = own.findLast(({ at }) => at <= from)?.page;
    return own.find(({ at, page }) => at > from && at <= journey.until && page !== here)?.page ?? '';
  };
}

/** When (ms) the last step was made that a journey made. */
const lastAt = ({ times, last }: Walked): number => times[last]!;

/** What browsers brought since they came to the end: what was won then and is worth something now. */
async function readWorth(
  db: Sequelize,
  { businessId, rules, from, now, steps, currency: own, timeZone }: AskedFunnelWork,
  journeys: readonly Journey[],
): Promise<{ worthOf: (journey: Journey) => number; withoutRate: string[] }> {
  const [won, rates] = await Promise.all([
    readReachedBy(db, businessId, [new Date(from), new Date(now + 1)], winningCodes(rules)),
    readRates(db, businessId),
  ]);
  const exchange = exchangeBy(rates, own);
  const ended = groupBy(
    journeys.filter(({ last }) => last === steps.length - 1).sort((a, b) => lastAt(a) - lastAt(b)),
    ({ visitor }) => visitor,
  );
  const worth = new Map<Journey, number>();
  const withoutRate = new Set<string>();
  for (const { visitorId, at, worth: minor, currency, isRealised } of won) {
    const journey = ended.get(visitorId)?.findLast((one) => lastAt(one) <= at);
    if (!journey || !isRealised) continue;
    const amount = exchange(minor, currency, dayIn(timeZone, at));
    if (amount === null) withoutRate.add(currency);
    else worth.set(journey, (worth.get(journey) ?? 0) + amount);
  }
  return { worthOf: (journey) => worth.get(journey) ?? 0, withoutRate: [...withoutRate] };
}
