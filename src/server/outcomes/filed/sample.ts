import {
  fileParts,
  readFiledRow,
  type FiledHow,
  type FilePart,
  type FiledRow,
  type FiledSample,
} from '../../../core/outcomes/filed';
import { writeAmount } from '../../../core/outcomes';
import type { Release } from '../../../core/releases';
import { nowMs } from '../../clock';
import type { Context } from '../../context';
import { streamTable, type StreamedRow } from '../../files/stream-table';
import { readContent } from './content';
import { filedOutcomes, localTimeIn, noClickWhy, noOutcomeWhy, readClicks } from './read';

/** Rows that are tried, and those that are shown of them. */
const [tried, shown] = [1000, 5];

/** The first of some rows. */
export async function readFirst(all: AsyncIterable<StreamedRow>): Promise<StreamedRow[]> {
  const rows: StreamedRow[] = [];
  for await (const row of all) {
    rows.push(row);
    if (rows.length === tried) break;
  }
  return rows;
}

/** How the first rows of a file would be read, and which of them would be refused. */
export async function readSample(
  context: Pick<Context, 'db' | 'tables'>,
  { content }: Release,
  file: { businessId: string; id: string },
  how: FiledHow,
): Promise<FiledSample> {
  const outcomes = filedOutcomes(content.outcomes);
  const localTime = localTimeIn(how.timeZone);
  const table = await streamTable(readContent(context, file));
  const found = (await readFirst(table.rows)).map((row) => ({
    row,
    read: 'was' in row ? row : readFiledRow(row.cells, how, localTime, nowMs()),
  }));
  const good = found.flatMap(({ read }) => ('was' in read ? [] : [read]));
  const clicks = await readClicks(context.db, file.businessId, how.platform, content, good);
  const isUnknown = ({ clickId, change }: FiledRow) => change === 'new' && how.platform === '' && !clicks.has(clickId);
  // What is only compared needs no outcome, and no click that is known.
  const wrongOf = (read: FiledRow) =>
    how.compares !== '' ? '' : noOutcomeWhy(read, outcomes) || (isUnknown(read) ? noClickWhy : '');
  const rows = found.map(({ row, read }) =>
    'was' in read
      ? { row: row.row, parts: writtenParts(row, how), wrong: `${read.was}. ${read.fix}` }
      : {
          row: row.row,
          parts: readParts(read),
          wrong: wrongOf(read),
        },
  );
  const wrong = rows.filter((one) => one.wrong !== '');
  const first = new Set([...rows.slice(0, shown), ...wrong.slice(0, shown)]);
  return { rows: rows.filter((one) => first.has(one)), of: rows.length, wrong: wrong.length };
}

/** What a row says, as it was read. */
const readParts = ({ clickId, says, at, money, orderId, change }: FiledRow): Record<FilePart, string> => ({
  click_id: clickId,
  outcome: says,
  happened_at: new Date(at).toISOString(),
  amount: money ? writeAmount(money) : '',
  currency: money?.currency ?? '',
  order_id: orderId,
  change,
});

/** The same as it is written, of one that cannot be read. */
const writtenParts = (row: StreamedRow, { columns }: FiledHow): Record<FilePart, string> =>
  Object.fromEntries(
    fileParts.map((part) => [part, 'cells' in row ? (row.cells[columns[part] ?? ''] ?? '') : '']),
  ) as Record<FilePart, string>;
