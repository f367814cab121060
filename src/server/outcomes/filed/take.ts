/* eslint-disable no-await-in-loop -- batch after batch, each in a transaction of its own */
import { Op, QueryTypes, type Transaction } from 'sequelize';
import { AvrixError } from '../../../core/errors';
import { postedAmount } from '../../../core/outcomes';
import type { Strand } from '../../../core/strands';
import { now } from '../../clock';
import type { Context } from '../../context';
import { inTransaction, insertRows, plain, workMarked, type ConversionRow, type FiledFileRow } from '../../db';
import type { Releases } from '../../releases/releases';
import { toStrandRow } from '../../strands/store';
import { countAnswers, readTaken, type TakenRow } from './queries';
import { makeReadFiled } from './read';

const batch = 2000;

/**
 * Takes a file: reads its rows, then stores what they say, then has all of it counted at once. It goes on where it was after a
 * process ended; a file that cannot be read to its end takes nothing.
 */
export function makeTakeFiled(context: Context, releases: Releases) {
  const { db, tables } = context;
  const read = makeReadFiled(context, releases);

  /** @param goesOn false where somebody else works on it by now */
  return async function take(businessId: string, id: string, goesOn: () => Promise<boolean>): Promise<null> {
    const where = { businessId, id };
    const found = await tables.filedFiles.findOne({ where });
    const file = found?.get({ plain: true });
    if (!file || (file.state !== 'reading' && file.state !== 'taking')) return null;
    if (file.state === 'reading') {
      try {
        const rowsAll = await read(file, goesOn);
        file.ruledAt = now();
        await tables.filedFiles.update({ state: 'taking', rowsAll, ruledAt: file.ruledAt }, { where });
      } catch (error) {
        if (!(error instanceof AvrixError)) throw error;
        await refuse(file, error.message);
        return null;
      }
    }
    // What another way told is compared, and counted nowhere.
    if (file.how.compares === '') await store(file, goesOn);
    await count(file);
    return null;
  };

  /** Nothing of a file that cannot be read to its end is kept. */
  async function refuse({ businessId, id }: FiledFileRow, problem: string): Promise<void> {
    await inTransaction(db, async (transaction) => {
      const of = { where: { businessId, fileId: id }, transaction };
      await tables.filedRows.destroy(of);
      await tables.filedChunks.destroy(of);
      await tables.filedFiles.update(
        { state: 'failed', problem: problem.slice(0, 600), rowsRead: 0 },
        { where: { businessId, id }, transaction },
      );
    });
  }

  /** Stores what its rows say; nothing of it is counted yet. */
  async function store(file: FiledFileRow, goesOn: () => Promise<boolean>): Promise<void> {
    const { businessId, id: fileId } = file;
    const { number } = await releases.live(businessId);
    for (let line = file.rowsStored; ;) {
      const rows = await readTaken(db, businessId, fileId, line, batch);
      if (rows.length === 0) return;
      if (!(await goesOn())) throw new Error('somebody else takes this file by now');
      line = rows.at(-1)!.line;
      await inTransaction(db, async (transaction) => {
        await storeNew(file, rows, number, transaction);
        await storeRevised(file, rows, transaction);
        await tables.filedFiles.update({ rowsStored: line }, { where: { businessId, id: fileId }, transaction });
      });
    }
  }

  async function storeNew(file: FiledFileRow, rows: TakenRow[], releaseNumber: number, transaction: Transaction) {
    const { businessId, how, ruledAt } = file;
    const fresh = rows.filter(({ revision }) => revision === 'new');
    const strands = fresh.map((row): Strand => ({
      id: row.strandId!,
      kind: 'click',
      platform: row.platform,
      clickId: row.clickId,
      firstAt: row.at!.getTime(),
      source: '',
      medium: '',
      campaign: '',
      content: '',
      utmId: '',
      visitor: row.conversionId!,
      marked: '',
    }));
    const said = await readSaid(businessId, [...new Set(fresh.map(({ strandId }) => strandId!))], transaction);
    // One that landed is there already, and stays as it is.
    await insertRows(
      tables.strands,
      strands.map((strand) => toStrandRow(businessId, strand)),
      [],
      transaction,
    );
    await insertRows(
      tables.conversions,
      fresh.map((row): ConversionRow => ({
        businessId,
        id: row.conversionId!,
        kind: 'file',
        name: row.says,
        fields: {},
        amounts: amountsOf(row),
        visitorId: row.conversionId!,
        hitId: file.id,
        page: '',
        at: row.at!,
        visitNumber: 0,
        strands: [row.strandId!],
        lastPaid: row.strandId,
        marked: '',
        // What they said on the website holds, whatever the file says of all of them.
        consent:
          said.get(row.strandId!) ??
          (how.agreed === 'yes' ? { measurement: 'yes', advertising: 'yes', at: row.at!.getTime() } : null),
        releaseNumber,
        orderId: row.orderId,
        ruledAt,
        takenBackAt: null,
      })),
      [],
      transaction,
    );
  }

  /** What those who enquired by a click said of consent, as pages last said it. */
  async function readSaid(businessId: string, strandId: string[], transaction: Transaction) {
    const rows = plain(
      await tables.enquiries.findAll({
        attributes: ['strandId', 'consent'],
        where: { businessId, strandId, consent: { [Op.ne]: null } },
        order: [['sentAt', 'ASC']],
        transaction,
      }),
    );
    return new Map(rows.map((row) => [row.strandId, row.consent]));
  }

  /** Of several changes of one conversion the last one holds. */
  async function storeRevised({ businessId }: FiledFileRow, rows: TakenRow[], transaction: Transaction) {
    const revised = rows.filter(({ revision }) => revision !== 'new');
    const last = new Map(revised.map((row) => [row.conversionId!, row]));
    if (last.size === 0) return;
    const where = { businessId, id: [...last.keys()] };
    const stored = plain(await tables.conversions.findAll({ where, transaction, lock: transaction.LOCK.UPDATE }));
    await insertRows(
      tables.conversions,
      stored.map((conversion) => {
        const row = last.get(conversion.id)!;
        return row.revision === 'revalued'
          ? { ...conversion, amounts: amountsOf(row), takenBackAt: null }
          : { ...conversion, takenBackAt: row.at };
      }),
      ['amounts', 'takenBackAt'],
      transaction,
    );
  }

  /** Has all that it says counted: from here on it is taken. Its bytes are needed no more. */
  async function count({ businessId, id, how }: FiledFileRow): Promise<void> {
    await inTransaction(db, async (transaction) => {
      if (how.compares === '') await markConversions(businessId, id, transaction);
      await tables.filedChunks.destroy({ where: { businessId, fileId: id }, transaction });
      const counts = await countAnswers(db, businessId, id, transaction);
      await tables.filedFiles.update(
        { state: 'taken', takenAt: now(), counts },
        { where: { businessId, id }, transaction },
      );
    });
    workMarked.emit('marked');
  }

  async function markConversions(businessId: string, id: string, transaction: Transaction): Promise<void> {
    await db.query(
      `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts)
         SELECT DISTINCT business_id, 'conversion', conversion_id, '', ?, 1, 0 FROM filed_rows
         WHERE business_id = ? AND file_id = ? AND answer = 'taken'
         ON DUPLICATE KEY UPDATE marks = marks + 1, due_at = LEAST(due_at, VALUES(due_at))`,
      { replacements: [now(), businessId, id], type: QueryTypes.INSERT, transaction },
    );
  }
}

const amountsOf = ({ amount, currency }: TakenRow): ConversionRow['amounts'] =>
  amount === '' ? [] : [{ name: postedAmount, amount, currency }];
