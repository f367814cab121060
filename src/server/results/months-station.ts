import { addMonths, endOfMonth, format, min, parseISO } from 'date-fns';
import { fieldsWrong } from '../../core/errors';
import { cellView, cellWords, quarterOf } from '../../core/results/dimensions';
import { figurePlain } from '../../core/results/figure-text';
import { measures, measureWords, neededFor, type Measure } from '../../core/results/measures';
import { monthsTable, type KeptMonth, type MonthFigures, type MonthLine } from '../../core/results/months';
import {
  monthCredits,
  type MonthClosed,
  type MonthCredit,
  type MonthsQuery,
  type MonthsView,
} from '../../core/results/months-view';
import { monthsSentence } from '../../core/results/months-words';
import { mayChange } from '../../core/people/rights';
import type { Release } from '../../core/releases';
import type { Changes } from '../changes/changes';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { dayIn } from '../days';
import { inTransaction, plain, type ClosedMonthRow } from '../db';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import type { DaySpan } from '../strands/range';
import { longest, makeAsked, visibleTo } from './asked';

/** What grows until today, so that closing a month would keep half of it. */
const growing: readonly Measure[] = ['subscribers', 'lifetime'];

/** What each month brought, by what its campaigns are there for and by channel; a month can be closed. */
export function makeMonthsStation(context: Context, releases: Releases, changes: Changes) {
  const { db, tables } = context;
  const { askedOf } = makeAsked(context, releases);

  /** What is counted of some months by stage and channel, in the order of what is needed. */
  async function count(
    membership: Membership,
    release: Release,
    needed: Measure[],
    months: string[],
    credit: MonthCredit,
  ) {
    const spans = months.map((month) => ({
      by: ['stage', 'channel'] as ['stage', 'channel'],
      days: daysOf(membership, month),
    }));
    const found = await runInPool(
      'workOutFigures',
      await askedOf(membership, release, needed, spans, { credit, segment: '' }),
      longest,
    );
    return found.map(({ rows }) => rows);
  }

  const closedOf = async (businessId: string): Promise<Map<string, ClosedMonthRow>> =>
    new Map(plain(await tables.closedMonths.findAll({ where: { businessId } })).map((row) => [row.month, row]));

  async function view(membership: Membership, query: MonthsQuery): Promise<MonthsView> {
    const { business, role } = membership;
    const release = await releases.live(business.id);
    const counted = visibleTo(role, [query.count])[0]!;
    const asked = { ...query, count: counted };
    const { months, periods } = periodsOf(dayIn(business.timeZone, nowMs()), asked);
    const [found, closed] = await Promise.all([
      count(membership, release, neededFor([counted]), months, query.credit),
      closedOf(business.id),
    ]);
    const figuresOf = (month: string): MonthFigures => ({
      month,
      now: found[months.indexOf(month)]!,
      kept: closed.get(month)?.figures[query.credit] ?? null,
    });
    const table = monthsTable(
      counted,
      periods.map(({ of }) => of.map(figuresOf)),
    );
    const shown: Omit<MonthsView, 'sentence'> = {
      asked,
      outcomes: release.content.outcomes.map(({ code, words }) => ({ code, words })),
      periods: periods.map(({ key, of }, i) => {
        const rows = of.map((month) => closed.get(month));
        const last = rows.every((row) => row !== undefined) ? rows.at(-1) : undefined;
        return {
          key,
          firstDay: `${of[0]}-01`,
          lastDay: daysOf(membership, of.at(-1)!).lastDay,
          closed: last ? { by: last.closedBy, at: last.closedAt.toISOString() } : null,
          isOver: isOver(membership, of.at(-1)!),
          since: table.since[i]!,
        };
      }),
      stages: table.stages.map(({ stage, channels, ...line }) => ({
        ...line,
        cell: stage,
        stage: cellView('stage', stage),
        channels: channels.map(({ channel, ...own }) => ({
          ...own,
          cell: channel,
          channel: cellView('channel', channel),
        })),
      })),
      sums: table.sums,
      seesMoney: role.seesMoney,
      mayChange: mayChange(role),
      currency: business.currency,
      timeZone: business.timeZone,
    };
    return { sentence: monthsSentence(shown, periodName), ...shown };
  }

  return {
    view,

    /** The table for a file: a row for each stage and channel, a column for each period. */
    async table(membership: Membership, query: MonthsQuery): Promise<string[][]> {
      const { asked, periods, stages, sums, currency } = await view(membership, query);
      const plainOf = ({ figures, total }: MonthLine) =>
        [...figures, total].map((one) => (one === null ? '' : figurePlain(asked.count, one, currency)));
      return [
        ['funnel stage', 'channel', ...periods.map(({ key }) => key), measureWords(asked.count)],
        ...stages.flatMap(({ cell: stage, channels }) =>
          channels.map(({ cell, ...line }) => [cellWords(stage), cellWords(cell), ...plainOf(line)]),
        ),
        ['all together', '', ...plainOf(sums)],
      ];
    },

    /**
     * Closes a month that is over, with its figures as they are now, or opens it again.
     * @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG where it is not over, or closed already
     */
    async close(membership: Membership, byName: string, { month, closed }: MonthClosed): Promise<void> {
      requireEditor(membership);
      const { business, role } = membership;
      if (closed && !isOver(membership, month))
        throw fieldsWrong([{ field: 'month', was: `${month}, which is not over`, fix: 'Close it once it is.' }]);
      const release = await releases.live(business.id);
      const kept = closed ? await keptOf(membership, release, month) : null;
      await inTransaction(db, async (transaction) => {
        const where = { businessId: business.id, month };
        const known = await tables.closedMonths.findOne({ where, transaction, lock: transaction.LOCK.UPDATE });
        if (closed && known)
          throw fieldsWrong([
            { field: 'month', was: `${month}, which is closed already`, fix: 'Open it again first.' },
          ]);
        if (!closed && !known) return;
        if (kept)
          await tables.closedMonths.create(
            { ...where, figures: kept, closedBy: byName, closedAt: now() },
            { transaction },
          );
        else await tables.closedMonths.destroy({ where, transaction });
        const [was, became] = closed ? ['open', 'closed'] : ['closed', 'open'];
        await changes.note(
          business.id,
          role.personId,
          [{ kind: 'result', subject: `Month ${month}`, was, became }],
          transaction,
        );
      });
    },
  };

  /** All that can be counted of a month, by whoever is credited. */
  async function keptOf(
    membership: Membership,
    release: Release,
    month: string,
  ): Promise<Record<MonthCredit, KeptMonth>> {
    const everyone = { ...membership, role: { ...membership.role, seesMoney: true } };
    const codes = release.content.outcomes.map(({ code }) => `outcome.${code}` as const);
    const kept: Measure[] = [...measures.filter((one) => !growing.includes(one)), 'landed', ...codes];
    const [last, first] = await Promise.all(
      monthCredits.map(async (credit): Promise<KeptMonth> => {
        const [rows] = await count(everyone, release, kept, [month], credit);
        return { measures: kept, rows: rows! };
      }),
    );
    return { last: last!, first: first! };
  }
}

/** The days of a month, as far as they are over or running. */
function daysOf({ business }: Membership, month: string): DaySpan {
  const today = parseISO(dayIn(business.timeZone, nowMs()));
  const last = endOfMonth(parseISO(`${month}-01`));
  return { firstDay: `${month}-01`, lastDay: format(min([last, today]), 'yyyy-MM-dd') };
}

const isOver = ({ business }: Membership, month: string): boolean =>
  month < dayIn(business.timeZone, nowMs()).slice(0, 7);

/** The last months, and the periods that they make, the oldest first. */
function periodsOf(
  today: string,
  { each, months: many }: MonthsQuery,
): { months: string[]; periods: { key: string; of: string[] }[] } {
  const first = parseISO(`${today.slice(0, 7)}-01`);
  const months = Array.from({ length: many }, (_, i) => format(addMonths(first, i + 1 - many), 'yyyy-MM'));
  const keyOf = (month: string) => (each === 'month' ? month : quarterOf(`${month}-01`));
  const keys = [...new Set(months.map(keyOf))];
  return { months, periods: keys.map((key) => ({ key, of: months.filter((month) => keyOf(month) === key) })) };
}

const periodName = (key: string): string =>
  key.includes('Q') ? key.split('-').reverse().join(' ') : format(parseISO(`${key}-01`), 'MMMM yyyy');
