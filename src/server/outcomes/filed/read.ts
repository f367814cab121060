import type { Sequelize, Transaction } from 'sequelize';
import { readFiledRow, type FiledAnswer, type FiledRow } from '../../../core/outcomes/filed';
import { writeAmount, type OutcomeRule } from '../../../core/outcomes';
import { linksOf } from '../../../core/platforms/links';
import type { ReleaseContent } from '../../../core/releases';
import { quoteValue } from '../../../core/quote-value';
import { clickStrandId, filedConversionId } from '../../../core/strands';
import { listed } from '../../../core/listed';
import { nowMs } from '../../clock';
import type { Context } from '../../context';
import { instantIn } from '../../days';
import { inTransaction, insertRows, pick, plain, selectRows, type FiledFileRow, type FiledRowRow } from '../../db';
import { streamTable, type StreamedRow } from '../../files/stream-table';
import type { Releases } from '../../releases/releases';
import { strands } from '../../strands/table';
import { readContent } from './content';

/** Rows that are stored in one transaction. */
const batch = 2000;
/** Rows of one file; more are another kind of thing. */
const mostRows = 1_000_000;

/** A day without its time counts as its noon. */
export const localTimeIn = (timeZone: string) => (text: string) =>
  instantIn(timeZone, text) ?? instantIn(timeZone, `${text} 12:00`);

/** Outcomes that rows of files reach, by what the rows call them. */
export const filedOutcomes = (outcomes: readonly OutcomeRule[]) =>
  new Map(outcomes.flatMap((rule) => (rule.reachedBy.kind === 'file' ? [[rule.reachedBy.says, rule] as const] : [])));

/** Why a row reaches no outcome; '' where it does. */
export const noOutcomeWhy = ({ says }: FiledRow, outcomes: ReadonlyMap<string, OutcomeRule>): string =>
  outcomes.has(says)
    ? ''
    : `No live outcome is reached by a row that says ${quoteValue(says)}. ${
        outcomes.size > 0 ? `Write ${listed([...outcomes.keys()].map(quoteValue), 'or')}, or make` : 'Make'
      } such an outcome live first.`;

/** Why a row's click cannot be told. */
export const noClickWhy = 'No click with this ID is known. Say of the whole file which platform’s click IDs it has.';

/** What is decided of a row. */
interface Decided {
  answer: FiledAnswer;
  why: string;
  conversionId: string | null;
  strandId: string | null;
  platform: string;
}

/** Reads the rows of files and decides what becomes of each. Nothing counts before all of them are read. */
export function makeReadFiled(context: Context, releases: Releases) {
  const { db, tables } = context;

  /**
   * Reads what was not read yet; what was stays as it is.
   * @param goesOn asked before each batch; false where somebody else reads it by now
   * @returns how many rows there are
   * @throws AVX_FILE_WRONG where it cannot be read to its end
   */
  return async function read(file: FiledFileRow, goesOn: () => Promise<boolean>): Promise<number> {
    const { rows } = await streamTable(readContent(context, file));
    let waiting: StreamedRow[] = [];
    let all = 0;
    const store = async () => {
      const part = waiting;
      waiting = [];
      if (part.length === 0 || all <= file.rowsRead) return;
      if (!(await goesOn())) throw new Error('somebody else reads this file by now');
      await inTransaction(db, (transaction) => storePart(file, part, all, transaction));
    };
    for await (const row of rows) {
      all += 1;
      if (all > mostRows) break;
      waiting.push(row);
      if (waiting.length === batch) await store();
    }
    await store();
    return Math.min(all, mostRows);
  };

  async function storePart(file: FiledFileRow, part: StreamedRow[], read: number, transaction: Transaction) {
    const { businessId, id: fileId } = file;
    const { content } = await releases.live(businessId);
    const outcomes = filedOutcomes(content.outcomes);
    const localTime = localTimeIn(file.how.timeZone);
    const now = nowMs();
    const found = part.map((row) => {
      const read = 'was' in row ? row : readFiledRow(row.cells, file.how, localTime, now);
      return { line: row.row, read };
    });
    const good = found.flatMap(({ read }) => ('was' in read ? [] : [read]));
    const clicks = await readClicks(db, businessId, file.how.platform, content, good, transaction);
    const idOf = (row: FiledRow) =>
      filedConversionId(businessId, file.how.compares ? `compared ${file.how.compares}` : row.says, keyOf(row));
    const { compares } = file.how;
    const known = await (compares === '' ? readKnown : readCompared)(businessId, file, good.map(idOf), transaction);
    /** Of another way of telling: it is only compared, so it needs no outcome, and no click that is known. */
    const compare = (row: FiledRow): Decided => {
      const id = idOf(row);
      const click = clicks.get(row.clickId);
      const of = { conversionId: id, strandId: click?.id ?? null, platform: click?.platform ?? file.how.platform };
      const refused = (why: string): Decided => ({ ...of, answer: 'refused', why });
      if (row.change !== 'new') return refused('Only new rows are compared.');
      const isOther = file.how.says !== '' && row.says !== file.how.says;
      if (isOther) return refused(`It says ${quoteValue(row.says)}, which is another outcome.`);
      if (known.has(id)) return { ...of, answer: 'repeated', why: 'It was imported before.' };
      known.add(id);
      return { ...of, answer: 'taken', why: '' };
    };
    const decide = (row: FiledRow): Decided => {
      if (compares !== '') return compare(row);
      const id = idOf(row);
      const of = { conversionId: id, strandId: null, platform: '' };
      const refused = (why: string): Decided => ({ ...of, conversionId: null, answer: 'refused', why });
      const rule = outcomes.get(row.says);
      if (!rule) return refused(noOutcomeWhy(row, outcomes));
      if (row.change !== 'new')
        return known.has(id)
          ? { ...of, answer: 'taken', why: '' }
          : refused(
              `No conversion ${row.orderId === '' ? 'of this click at this time' : `with the order ${quoteValue(row.orderId)}`} is known that it could change. Send it as new first.`,
            );
      if (known.has(id))
        return {
          ...of,
          answer: 'repeated',
          why: 'It is known already. To change it, send it as revalued or taken-back.',
        };
      if (rule.countedOnceFor === 'order' && row.orderId === '')
        return refused(`${rule.code} is counted once for each order, and it names none. Give it an order number.`);
      const click = clicks.get(row.clickId);
      if (!click && file.how.platform === '') return refused(noClickWhy);
      known.add(id);
      const platform = click?.platform ?? file.how.platform;
      const strandId = click?.id ?? clickStrandId(businessId, platform, row.clickId);
      return { ...of, strandId, platform, answer: 'taken', why: '' };
    };
    await insertRows(
      tables.filedRows,
      found.map(({ line, read: row }): FiledRowRow => {
        if ('was' in row)
          return {
            ...nothing,
            businessId,
            fileId,
            line,
            why: `${row.was}. ${row.fix}`.replace(/^./, (first) => first.toUpperCase()),
          };
        return {
          ...decide(row),
          businessId,
          fileId,
          line,
          clickId: row.clickId,
          says: row.says,
          at: new Date(row.at),
          amount: row.money ? writeAmount(row.money) : '',
          currency: row.money?.currency ?? '',
          orderId: row.orderId,
          revision: row.change,
        };
      }),
      ['answer'],
      transaction,
    );
    await tables.filedFiles.update({ rowsRead: read }, { where: { businessId, id: fileId }, transaction });
  }

  /** Which conversions there are, or are said by rows of the same file before. */
  async function readKnown(businessId: string, { id: fileId }: FiledFileRow, ids: string[], transaction: Transaction) {
    const id = [...new Set(ids)];
    const where = { businessId, fileId, conversionId: id, answer: 'taken' };
    const [stored, before] = await Promise.all([
      tables.conversions.findAll({ attributes: ['id'], where: { businessId, id }, transaction }),
      tables.filedRows.findAll({ attributes: ['conversionId'], where, transaction }),
    ]);
    return new Set([...plain(stored).map((one) => one.id), ...plain(before).map((one) => one.conversionId!)]);
  }

  /** Which of them another row says, of this file or of one before that is compared with the same. */
  async function readCompared(businessId: string, _file: FiledFileRow, ids: string[], transaction: Transaction) {
    const where = { businessId, conversionId: [...new Set(ids)], answer: 'taken' };
    const rows = await tables.filedRows.findAll({ attributes: ['conversionId'], where, transaction });
    return new Set(plain(rows).map((one) => one.conversionId!));
  }
}

/**
 * The newest click of each click ID that rows name, with its platform.
 * @param platform '' where it may be any that Avrix knows
 */
export async function readClicks(
  db: Sequelize,
  businessId: string,
  platform: string,
  { platforms: own }: Pick<ReleaseContent, 'platforms'>,
  rows: readonly FiledRow[],
  transaction: Transaction | null = null,
): Promise<Map<string, { id: string; platform: string }>> {
  const platforms = platform === '' ? linksOf(own).map(({ kind }) => kind) : [platform];
  const clickIds = [...new Set(rows.map(({ clickId }) => clickId))].filter((one) => one !== '');
  if (clickIds.length === 0 || platforms.length === 0) return new Map();
  const found = await selectRows(
    db,
    pick(strands, ['id', 'platform', 'clickId']),
    'FROM strands WHERE business_id = ? AND platform IN (?) AND click_id IN (?) ORDER BY first_at',
    [businessId, platforms, clickIds],
    transaction,
  );
  return new Map(found.map((click) => [click.clickId, { id: click.id, platform: click.platform }]));
}

/** By what a row is known: the order that it names, else its click and when it happened. */
const keyOf = ({ orderId, clickId, at }: FiledRow): string =>
  orderId === '' ? `click ${clickId} ${at}` : `order ${orderId}`;

/** A row of which nothing could be read. */
const nothing = {
  ...({
    answer: 'refused',
    conversionId: null,
    strandId: null,
    platform: '',
    clickId: '',
    says: '',
    at: null,
  } as const),
  ...({ amount: '', currency: '', orderId: '', revision: '' } as const),
};
