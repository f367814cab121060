import { addDays, endOfMonth, endOfQuarter, format, max, min, parseISO } from 'date-fns';
import {
  cellOf,
  cellWords,
  direct,
  isTime,
  noValue,
  type Dimension,
  type Reading,
} from '../../core/results/dimensions';
import { readingOf } from '../../core/results/reading';
import { spanWords } from '../../core/evidence';
import { visitsSentence } from '../../core/results/visits-words';
import type { VisitColumn, VisitListRow, VisitsQuery, VisitsView } from '../../core/results/visits-view';
import { markWords } from '../../core/reasons/words';
import { clickStrandId, landingStrandId } from '../../core/strands/ids';
import type { WayInKind } from '../../core/strands';
import type { Context } from '../context';
import { plain } from '../db';
import { called, nameless } from '../leads/called';
import { mostInFile, pageSize } from '../lists';
import type { Membership } from '../people/people';
import type { Releases } from '../releases/releases';
import { periodOf, type DaySpan } from '../strands/range';
import { makeAsked } from './asked';
import { originOf } from './origin-of';
import { readStages } from './read-stages';
import { columnsFor, readVisits } from './queries';
import { countVisits, readEnquiriesIn, readVisitList, type VisitFilter, type VisitQueryRow } from './visits-queries';

/** Rows of a file that are read at once. */
const partSize = 2000;

/** Visits one by one, with and without a lead; those behind a figure, or all of one browser. */
export function makeVisitsStation(context: Context, releases: Releases) {
  const { resultsDb: db, tables } = context;
  const { daysOf } = makeAsked(context, releases);

  async function asked(membership: Membership, query: VisitsQuery) {
    const { business } = membership;
    const release = await releases.live(business.id);
    const { days, cycle } = await daysOf(membership, release, { ...query, against: 'none' });
    const reading = readingOf(release.content, await readStages(db, business.id, query.by));
    const isOfRow = query.row !== null && query.by.length === query.row.length;
    const span = isOfRow ? withinCells(days, query.by, query.row!) : days;
    const { from, to } = periodOf(span.firstDay, span.lastDay, business.timeZone);
    const filter: VisitFilter = {
      span: query.browser === '' ? [new Date(from), new Date(to)] : null,
      lead: query.lead,
      isEveryone: query.whose === 'everyone' || query.browser !== '',
      browser: query.browser,
      firstSince: query.first === 'yes' ? days.firstDay : '',
      find: query.find,
      origins: isOfRow ? await originsOf(business.id, span, query.by, query.row!, reading) : null,
    };
    return { release, reading, days, cycle, filter };
  }

  /** The values of touches that a row of figures is made of. */
  async function originsOf(
    businessId: string,
    span: DaySpan,
    by: readonly Dimension[],
    row: readonly string[],
    reading: Reading,
  ): Promise<VisitFilter['origins']> {
    const dimensions = by.flatMap((dimension, i) => (isTime(dimension) ? [] : [{ dimension, cell: row[i]! }]));
    if (dimensions.length === 0) return null;
    const columns = columnsFor(dimensions.map(({ dimension }) => dimension)).filter((column) => column !== 'day');
    const rows = (await readVisits(db, businessId, span, columns)).filter(({ direct: isDirect, day, ...values }) =>
      dimensions.every(({ dimension, cell }) => cellOf(dimension, isDirect ? 'direct' : values, day, reading) === cell),
    );
    const valueOf = {
      source: 'source',
      medium: 'medium',
      campaign: 'campaign',
      content: 'content',
      term: 'term',
      platform: 'platform',
      referrer_host: 'referrerHost',
      landing: 'landing',
    } as const;
    return {
      columns,
      values: rows.filter((one) => !one.direct).map((one) => columns.map((column) => one[valueOf[column]])),
      isDirect: rows.some((one) => one.direct),
    };
  }

  async function rowsOf({ business, role }: Membership, found: VisitQueryRow[], query: VisitsQuery, reading: Reading) {
    const ids = found.map(({ id }) => id);
    const strandOf = new Map(found.flatMap((row) => strandIdOf(business.id, row).map((id) => [row.id, id] as const)));
    const [enquiries, strands] = await Promise.all([
      ids.length > 0 ? readEnquiriesIn(db, business.id, ids) : [],
      tables.strands.findAll({ attributes: ['id'], where: { businessId: business.id, id: [...strandOf.values()] } }),
    ]);
    const isStrand = new Set(plain(strands).map(({ id }) => id));
    const leadOf = new Map(enquiries.map((one) => [one.visitId, one]));
    // That a visit is direct is said once.
    const first = query.columns.find((column) => !ofVisit.includes(column));
    return found.map((row): VisitListRow => {
      const lead = leadOf.get(row.id);
      const name = lead ? (lead.name === null ? nameless(lead.wayIn as WayInKind) : called(lead, role.seesPeople)) : '';
      const strand = strandOf.get(row.id);
      return {
        id: row.id,
        at: row.startedAt.toISOString(),
        path: lead ? `/leads/${lead.enquiryId}` : strand && isStrand.has(strand) ? `/strands/${strand}` : null,
        mark: markWords[row.marked],
        visitor: row.visitorId,
        cells: Object.fromEntries(
          query.columns.map((column) => [column, cellIn(column, row, name, reading, column === first)]),
        ),
      };
    });
  }

  return {
    async view(membership: Membership, query: VisitsQuery): Promise<VisitsView> {
      const { business } = membership;
      const { release, reading, days, cycle, filter } = await asked(membership, query);
      const [found, total, withLead] = await Promise.all([
        readVisitList(db, business.id, filter, query, { limit: pageSize, offset: (query.page - 1) * pageSize }),
        countVisits(db, business.id, filter),
        query.lead === 'any' ? countVisits(db, business.id, { ...filter, lead: 'with' }) : 0,
      ]);
      const { lead, whose, browser, first, columns, by, row } = query;
      return {
        sentence: visitsSentence(query, total, withLead),
        asked: { lead, whose, browser, first, columns, by, row },
        range: { choice: query.range, ...days, cycleDays: cycle, release: release.number },
        rows: await rowsOf(membership, found, query, reading),
        total,
        page: query.page,
        pageSize,
        timeZone: business.timeZone,
      };
    },

    /** All of them for a file, part by part, each with the columns that are asked for. */
    async *all(membership: Membership, query: VisitsQuery): AsyncGenerator<Record<string, string>[]> {
      const { reading, filter } = await asked(membership, query);
      for (let offset = 0; offset < mostInFile; offset += partSize) {
        // eslint-disable-next-line no-await-in-loop -- a part is read once the one before is written
        const found = await readVisitList(db, membership.business.id, filter, query, { limit: partSize, offset });
        // eslint-disable-next-line no-await-in-loop -- the same
        const rows = await rowsOf(membership, found, query, reading);
        yield rows.map(({ at, cells, visitor }) => ({
          at,
          ...Object.fromEntries(query.columns.map((column) => [column, cells[column]?.text ?? ''])),
          visitor,
        }));
        if (found.length < partSize) return;
      }
    },
  };
}

/** Columns that are of the visit itself, whatever brought it. */
const ofVisit: readonly VisitColumn[] = ['pages', 'length', 'browser', 'lead'];

/** The trace of the click that brought a visit, where there is one. */
function strandIdOf(businessId: string, { touchId, platform, clickId }: VisitQueryRow): string[] {
  if (touchId === null) return [];
  return [platform && clickId ? clickStrandId(businessId, platform, clickId) : landingStrandId(touchId)];
}

function cellIn(
  column: VisitColumn,
  row: VisitQueryRow,
  lead: string,
  reading: Reading,
  saysDirect: boolean,
): { text: string; isValue: boolean } {
  const words = (text: string) => ({ text, isValue: false });
  switch (column) {
    case 'pages':
      return words(String(row.pages));
    case 'length':
      return words(row.endedAt > row.startedAt ? spanWords(row.endedAt.getTime() - row.startedAt.getTime()) : '');
    case 'browser':
      return words(row.browser);
    case 'lead':
      return words(lead);
    default: {
      const cell = cellOf(column, originOf(row), '', reading);
      if (cell === noValue || (cell === direct && !saysDirect)) return words('');
      return { text: cellWords(cell), isValue: cell !== direct && column !== 'channel' };
    }
  }
}

/** The days that cells of a time leave of some days. */
function withinCells({ firstDay, lastDay }: DaySpan, by: readonly Dimension[], row: readonly string[]): DaySpan {
  let [from, to] = [parseISO(firstDay), parseISO(lastDay)];
  by.forEach((dimension, i) => {
    if (!isTime(dimension)) return;
    const [begins, ends] = spanOf(dimension, row[i]!);
    if (Number.isNaN(begins.getTime())) return;
    [from, to] = [max([from, begins]), min([to, ends])];
  });
  return { firstDay: format(from, 'yyyy-MM-dd'), lastDay: format(to, 'yyyy-MM-dd') };
}

/** The first and the last day of a cell of time. */
function spanOf(dimension: Dimension, cell: string): [Date, Date] {
  if (dimension === 'quarter') {
    const begins = parseISO(`${cell.slice(0, 4)}-${String(3 * Number(cell.slice(-1)) - 2).padStart(2, '0')}-01`);
    return [begins, endOfQuarter(begins)];
  }
  const begins = parseISO(dimension === 'month' ? `${cell}-01` : cell);
  return [begins, dimension === 'month' ? endOfMonth(begins) : addDays(begins, dimension === 'week' ? 6 : 0)];
}
