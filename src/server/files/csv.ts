/* How CSV files come (RFC 4180): commas, semicolons or tabs; UTF-8 or UTF-16. */

export const encodingOf = (bytes: Uint8Array): 'utf-8' | 'utf-16le' | 'utf-16be' =>
  bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';

export const notText = { was: 'The file’s letters are not in UTF-8', fix: 'Save it as “CSV UTF-8”, or as XLSX' };
export const notCsv = (error: unknown) => ({
  was: `The file is no CSV: ${(error as Error).message}`,
  fix: 'Save it from a spreadsheet as CSV or XLSX',
});
export const longRow = (cells: number, columns: number) => ({
  was: `it has ${cells} cells, the heading ${columns}`,
  fix: 'Put cells that hold a comma into quotation marks.',
});

/** What stands between the cells of a file, by its heading. */
export const delimiterOf = (heading: string): string =>
  [',', ';', '\t'].sort((a, b) => heading.split(b).length - heading.split(a).length)[0]!;

/** What a spreadsheet would have run was written with an apostrophe in front; it is taken off again. */
export const unguard = (cell: string): string => cell.replace(/^'(?='*[=+\-@\t\r＝＋－＠])/, '');

export const columnName = (cell: string): string => unguard(cell).trim().toLowerCase();

/** How csv-parse reads one with that delimiter. */
export const csvOptions = (delimiter: string) => ({
  bom: true,
  delimiter,
  relax_column_count: true,
  skip_empty_lines: true,
  max_record_size: 200_000,
});
