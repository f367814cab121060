import { stringify } from 'csv-stringify/sync';

/** At most this many rows stand in one exported file. */
export const mostRows = 50_000;

/**
 * A CSV file (RFC 4180, UTF-8) as a download. A text that a spreadsheet would run as a formula gets an apostrophe in
 * front.
 */
export function csvResponse<Row extends object>(
  name: string,
  rows: Row[],
  columns: Partial<Record<keyof Row, string>>,
): Response {
  const body = stringify(rows as Record<string, unknown>[], {
    header: true,
    columns: columns as Record<string, string>,
    escape_formulas: true,
    bom: true,
  });
  return new Response(body, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${name}.csv"`,
    },
  });
}
