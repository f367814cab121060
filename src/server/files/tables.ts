import { columnsOf, makeRows, readColumn, type GridRow, type LinkPlan } from '../../core/links';
import { campaignFields, type OutsideCampaign } from '../../core/plan/compare-campaigns';
import { AvrixError } from '../../core/errors';
import { readFileBody, readTable, type Table } from './read-table';
import { listResponse, tableResponse, type TableFormat } from './write-table';

/** Rows that a workbook takes in memory. */
const mostInBook = 100_000;

/** What stands in files, as rows of a table. */
export const files = {
  /**
   * The rows of a list as a CSV file, written as they are read, with the columns wanted under their headings, in their
   * order.
   *
   * @param drained waits until what was written is taken, before more is read
   */
  writeList<Row extends object>(
    name: string,
    parts: AsyncIterable<Row[]> | Iterable<Row[]>,
    columns: Partial<Record<keyof Row & string, string>>,
    drained: () => Promise<void> = async () => {},
  ): Response {
    const wanted = Object.keys(columns) as (keyof Row & string)[];
    async function* cells() {
      yield wanted.map((column) => columns[column]!);
      for await (const part of parts) {
        yield* part.map((row) => wanted.map((column) => String(row[column] ?? '')));
        await drained();
      }
    }
    return listResponse(name, cells());
  },

  /** The same rows as a workbook, which is written as a whole: no more than `mostInBook` of them. */
  async writeBook<Row extends object>(
    name: string,
    parts: AsyncIterable<Row[]>,
    columns: Partial<Record<keyof Row & string, string>>,
  ): Promise<Response> {
    const wanted = Object.keys(columns) as (keyof Row & string)[];
    const rows: string[][] = [wanted.map((column) => columns[column]!)];
    for await (const part of parts) {
      rows.push(...part.map((row) => wanted.map((column) => String(row[column] ?? ''))));
      if (rows.length > mostInBook) throw new AvrixError('AVX_BOOK_TOO_LONG', { limit: mostInBook });
    }
    return tableResponse(name, 'xlsx', rows);
  },

  /** A table of texts, its heading first. */
  writeTable: (name: string, format: TableFormat, rows: string[][]): Promise<Response> =>
    tableResponse(name, format, rows),

  /** Rows of the grid from a file with the columns `landing` and the plan's tags; `link` alone is read into them. */
  async readLinks(request: Request, plan: LinkPlan): Promise<{ rows: GridRow[]; problems: Table['problems'] }> {
    const table = await readTable(await readFileBody(request), []);
    return columnsOf(table, plan);
  },

  /** The grid's links as a file, with the columns wanted, in their order. */
  writeLinks(format: TableFormat, plan: LinkPlan, rows: GridRow[], columns: string[]): Promise<Response> {
    const made = makeRows(plan, rows);
    const wanted = columns.map(readColumn);
    const table = rows.map((row, index) => wanted.map(({ valueOf }) => valueOf(row, made[index]!.link)));
    return tableResponse('links', format, [wanted.map(({ heading }) => heading), ...table]);
  },

  async readCampaigns(
    request: Request,
    currency: string,
  ): Promise<{ rows: OutsideCampaign[]; problems: Table['problems'] }> {
    const { rows, problems } = await readTable(await readFileBody(request), ['name']);
    const usual = { stage: 'asking', currency };
    return {
      problems,
      rows: rows.map(({ cells }) => {
        const given = campaignFields.map((field) => [
          field,
          cells[field.toLowerCase()] || (usual as Record<string, string>)[field] || '',
        ]);
        return Object.fromEntries(given) as OutsideCampaign;
      }),
    };
  },

  writeCampaigns: (format: TableFormat, rows: OutsideCampaign[]): Promise<Response> =>
    tableResponse('campaigns', format, [
      campaignFields,
      ...rows.map((row) => campaignFields.map((field) => row[field])),
    ]),
};
