import { createHash } from 'node:crypto';
import { Op } from 'sequelize';
import { AvrixError } from '../../../core/errors';
import { groupBy } from '../../../core/group-by';
import {
  fileParts,
  guessHow,
  type FiledFilesView,
  type FiledFileView,
  type FiledHow,
  type FiledListQuery,
  type FiledOneView,
  type FiledRowView,
  type FiledSample,
} from '../../../core/outcomes/filed';
import { readAmount } from '../../../core/outcomes';
import type { ReleaseContent } from '../../../core/releases';
import { faceOf } from '../../../core/destinations/faces';
import { comparedKey, isCompared } from '../../../core/reportbacks/compare';
import { mayChange } from '../../../core/people/rights';
import { contractOf } from '../../../core/platforms';
import { counted, count, type Sentence } from '../../../core/strands';
import type { Changes } from '../../changes/changes';
import { now } from '../../clock';
import type { Connections } from '../../connections/connections';
import type { Context } from '../../context';
import {
  inTransaction,
  insertRows,
  markWork,
  plain,
  type BusinessRow,
  type FiledFileRow,
  type RoleRow,
} from '../../db';
import { streamTable } from '../../files/stream-table';
import { newId } from '../../ids';
import { mostInFile, pageSize } from '../../lists';
import type { Membership } from '../../people/people';
import { requireEditor } from '../../releases/draft';
import type { Releases } from '../../releases/releases';
import { moneyWords } from '../../strands/trace-events';
import { storeContent } from './content';
import { countFiledRows, noAnswers, readFiledRows, readStandings } from './queries';
import { filedOutcomes } from './read';
import { readFirst, readSample } from './sample';
import type { FiledRowRow } from './table';

/** Files that are listed, the newest first. */
const mostFiles = 100;
const everyRow: FiledListQuery = { page: 1, find: '', answer: '' };

/** Files of conversions: brought, looked at, taken, and answered row by row. */
export function makeFiledStation(context: Context, releases: Releases, connections: Connections, changes: Changes) {
  const { db, tables } = context;

  /** @throws AVX_NOT_FOUND */
  async function readOne(businessId: string, id: string): Promise<FiledFileRow> {
    const found = await tables.filedFiles.findOne({ where: { businessId, id } });
    if (!found) throw new AvrixError('AVX_NOT_FOUND', { what: 'file' });
    return found.get({ plain: true });
  }

  /** How files with the same columns were read the last time. */
  async function remembered(businessId: string, columns: string[]): Promise<FiledHow | null> {
    const files = plain(
      await tables.filedFiles.findAll({
        where: { businessId, state: { [Op.in]: ['taking', 'taken'] } },
        order: [['at', 'DESC']],
        limit: mostFiles,
      }),
    );
    return files.find((file) => JSON.stringify(file.columns) === JSON.stringify(columns))?.how ?? null;
  }

  async function toRowViews(
    business: BusinessRow,
    role: RoleRow,
    rows: FiledRowRow[],
    isCompared: boolean,
  ): Promise<FiledRowView[]> {
    const ids = rows.flatMap(({ conversionId }) => conversionId ?? []);
    const [standings, accounts] = await Promise.all([
      readStandings(db, business.id, [...new Set(ids)]),
      connections.names(business.id),
    ]);
    const nameOf = (key: string | null) => accounts.find((one) => one.key === key)?.name ?? key ?? '';
    const of = groupBy(standings, ({ subjectId }) => subjectId);
    return rows.map((row) => {
      const own = of.get(row.conversionId ?? '') ?? [];
      const money = role.seesMoney ? readAmount(row.amount, row.currency) : null;
      const told = own.flatMap(({ account, state }) => (state ? [`${state} at ${nameOf(account)}`] : []));
      return {
        id: String(row.line),
        row: row.line,
        answer: row.answer,
        why: row.why,
        clickId: row.clickId,
        outcome: row.says,
        happenedAt: row.at?.toISOString() ?? '',
        amount: money ? moneyWords(money) : '',
        written: money ? row.amount : '',
        currency: money ? row.currency : '',
        order: row.orderId,
        change: row.revision,
        standing:
          row.conversionId === null || isCompared
            ? ''
            : own.length === 0
              ? 'not counted'
              : told.length > 0
                ? told.join(', ')
                : 'counted, nobody is told',
        path: pathOf(row, isCompared),
      };
    });
  }

  return {
    async list({ business, role }: Membership): Promise<FiledFilesView> {
      const files = plain(
        await tables.filedFiles.findAll({
          where: { businessId: business.id },
          order: [['at', 'DESC']],
          limit: mostFiles,
        }),
      );
      const views = files.map(toFileView);
      const written = role.seesMoney ? await context.folders.list(business.id) : [];
      const { content } = await releases.live(business.id);
      return {
        sentence: listSentence(views, filedOutcomes(content.outcomes).size),
        files: views,
        written: written.map(({ at, ...file }) => ({
          ...file,
          id: `${file.folder}/${file.name}`,
          at: at.toISOString(),
        })),
        seesMoney: role.seesMoney,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** A file that was written for another program. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async written({ business, role }: Membership, folder: string, name: string): Promise<Response> {
      if (!role.seesMoney) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'see money' });
      return context.folders.read(business.id, folder, name);
    },

    /**
     * Takes in the bytes of a file; nothing of it is read into the books yet.
     * @throws AVX_ROLE_TOO_SMALL, AVX_FILE_WRONG where it is no table
     */
    async bring(
      membership: Membership,
      byName: string,
      { name, compares }: { name: string; compares: string },
      request: Request,
    ): Promise<{ id: string }> {
      requireEditor(membership);
      const { business } = membership;
      const parts: Uint8Array[] = [];
      for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) parts.push(part);
      const bytes = Buffer.concat(parts);
      const { columns, rows } = await streamTable(inOne(bytes));
      if (columns.filter(Boolean).length === 0)
        throw new AvrixError('AVX_FILE_WRONG', {
          was: 'The file is empty',
          fix: `Its first row must name its columns, such as ${fileParts.join(',')}`,
        });
      const cells = (await readFirst(rows)).flatMap((row) => ('cells' in row ? [row.cells] : []));
      const known = (await remembered(business.id, columns)) ?? guessHow(columns, cells, business);
      const how = { ...known, compares };
      const id = newId();
      await inTransaction(db, async (transaction) => {
        await storeContent(context, { businessId: business.id, fileId: id }, bytes, transaction);
        await insertRows(
          tables.filedFiles,
          [
            {
              businessId: business.id,
              id,
              name,
              byName,
              at: now(),
              columns,
              state: 'open',
              problem: '',
              hash: createHash('sha256').update(bytes).digest('hex'),
              how,
              rowsRead: 0,
              rowsAll: null,
              rowsStored: 0,
              counts: noAnswers,
              ruledAt: null,
              takenAt: null,
            },
          ],
          [],
          transaction,
        );
      });
      return { id };
    },

    /** @throws AVX_NOT_FOUND */
    async one({ business, role }: Membership, id: string, query: FiledListQuery = everyRow): Promise<FiledOneView> {
      const file = await readOne(business.id, id);
      const [{ content }, before, twin, total, rows] = await Promise.all([
        releases.live(business.id),
        file.state === 'open' ? remembered(business.id, file.columns) : null,
        tables.filedFiles.findOne({
          where: { businessId: business.id, hash: file.hash, id: { [Op.ne]: id }, state: ['taking', 'taken'] },
        }),
        countFiledRows(db, business.id, id, query),
        readFiledRows(db, business.id, id, query, { limit: pageSize, offset: (query.page - 1) * pageSize }),
      ]);
      const view = toFileView(file);
      const outcomes = [...filedOutcomes(content.outcomes)];
      const same = twin?.get({ plain: true });
      return {
        file: view,
        sentence: oneSentence(view),
        columns: file.columns,
        how: file.how,
        isRemembered: before !== null,
        sameAs: same ? { name: same.name, at: same.at.toISOString() } : null,
        outcomes: outcomes.map(([says, { code, words }]) => ({ says, code, words })),
        compared: comparedOf(content, file.how.compares),
        platforms: content.capture.keep.clickIds.map(({ platform }) => ({
          key: platform,
          words: contractOf(platform, content.platforms)?.words ?? platform,
        })),
        rows: await toRowViews(business, role, rows, file.how.compares !== ''),
        total,
        pageSize,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** How its first rows would be read. @throws AVX_NOT_FOUND */
    async tryOut({ business }: Membership, id: string, how: FiledHow): Promise<FiledSample> {
      return readSample(context, await releases.live(business.id), await readOne(business.id, id), how);
    },

    /**
     * Has a file taken, as it is read now.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FILE_TAKEN where it was before
     */
    async take(membership: Membership, id: string, how: FiledHow): Promise<void> {
      requireEditor(membership);
      const { business, role } = membership;
      const file = await readOne(business.id, id);
      await inTransaction(db, async (transaction) => {
        const where = { businessId: business.id, id, state: 'open' };
        const [begun] = await tables.filedFiles.update({ state: 'reading', how }, { where, transaction });
        if (begun === 0) throw new AvrixError('AVX_FILE_TAKEN', { name: file.name });
        await markWork(db, 'filed_file', business.id, [id], now(), transaction, id);
        const change = { kind: 'report-back' as const, subject: `File “${file.name}”`, was: '', became: 'taken' };
        await changes.note(business.id, role.personId, [change], transaction);
      });
    },

    /** Takes one that was not taken off the list. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FILE_TAKEN */
    async drop(membership: Membership, id: string): Promise<void> {
      requireEditor(membership);
      const { business } = membership;
      const file = await readOne(business.id, id);
      await inTransaction(db, async (transaction) => {
        const where = { businessId: business.id, id, state: ['open', 'failed'] };
        if ((await tables.filedFiles.destroy({ where, transaction })) === 0)
          throw new AvrixError('AVX_FILE_TAKEN', { name: file.name });
        await tables.filedChunks.destroy({ where: { businessId: business.id, fileId: id }, transaction });
      });
    },

    /** What became of its rows, part by part. */
    async *answers({ business, role }: Membership, id: string, query: FiledListQuery): AsyncGenerator<FiledRowView[]> {
      const { how } = await readOne(business.id, id);
      let after = 0;
      for (let read = 0; read < mostInFile;) {
        // eslint-disable-next-line no-await-in-loop -- part by part, so that memory holds one
        const rows = await readFiledRows(db, business.id, id, query, { limit: 2000 }, after);
        if (rows.length === 0) return;
        after = rows.at(-1)!.line;
        read += rows.length;
        // eslint-disable-next-line no-await-in-loop -- as above
        yield await toRowViews(business, role, rows, how.compares !== '');
      }
    },
  };
}

/** What is only worked out, or was until a stated moment; and what the file is compared with already. */
function comparedOf({ telling, events, platforms }: ReleaseContent, chosen: string): FiledOneView['compared'] {
  // Events too, where their clicks are known there: rows belong to each other by them.
  const wires = events.wires
    .filter(({ kind }) => faceOf(kind, platforms)?.toldOf !== 'every event')
    .map((wire) => ({ ...wire, outcome: wire.event, platform: wire.kind }));
  return [...telling, ...wires]
    .filter((rule) => isCompared(rule) || comparedKey(rule) === chosen)
    .map((rule) => ({
      key: comparedKey(rule),
      words: `${contractOf(rule.platform, platforms)?.words ?? rule.platform} of ${rule.outcome}`,
    }));
}

/** Where a row leads: to what it says, or of one that is only compared to its click. */
function pathOf({ strandId, conversionId }: FiledRowRow, isCompared: boolean): string {
  if (!strandId || !conversionId) return '';
  return isCompared ? `/strands/${strandId}` : `/strands/${strandId}?way=conversion&of=${conversionId}`;
}

async function* inOne(bytes: Buffer): AsyncGenerator<Buffer> {
  yield bytes;
}

const toFileView = (file: FiledFileRow): FiledFileView => ({
  id: file.id,
  name: file.name,
  state: file.state,
  by: file.byName,
  at: file.at.toISOString(),
  takenAt: file.takenAt?.toISOString() ?? null,
  read: file.rowsRead,
  rows: file.rowsAll,
  counts: file.counts,
  problem: file.problem,
  compares: file.how.compares,
});

function listSentence(files: FiledFileView[], outcomes: number): Sentence {
  const [first] = files;
  if (!first)
    return {
      title: 'No conversions have been imported from a file yet.',
      under:
        outcomes === 0
          ? 'First say in Outcomes which one is reached when a row of a file says it; then bring the file.'
          : `Bring a CSV or XLSX file, such as one with the columns ${fileParts.join(', ')}.`,
    };
  const open = files.filter(({ state }) => state === 'open');
  if (open.length > 0)
    return {
      title: `${counted(open.length, 'file waits', 'files wait')} to be taken.`,
      under: `Look at how ${open.length === 1 ? `“${open[0]!.name}” is` : 'they are'} read; nothing of ${open.length === 1 ? 'it' : 'them'} is counted before.`,
    };
  const refused = files.reduce((sum, { counts }) => sum + counts.refused, 0);
  const taken = files.reduce((sum, { counts }) => sum + counts.taken, 0);
  return {
    title: `${counted(taken, 'row', 'rows')} taken from ${counted(files.length, 'file', 'files')}.`,
    under:
      refused > 0 ? `${counted(refused, 'row was', 'rows were')} refused; each file says why.` : 'No row was refused.',
  };
}

function oneSentence({ state, name, counts, rows, read, problem, compares }: FiledFileView): Sentence {
  if (state === 'failed') return { title: `Nothing of “${name}” was taken.`, under: problem };
  if (state === 'open')
    return {
      title: `“${name}” waits to be ${compares === '' ? 'taken' : 'compared'}.`,
      under: `Look at how its columns are read. ${compares === '' ? 'Nothing is counted before.' : 'It is counted nowhere.'}`,
    };
  if (state !== 'taken')
    return {
      title: `“${name}” is being read: ${count(read)}${rows === null ? '' : ` of ${count(rows)}`} rows.`,
      under: 'You can leave this page. Nothing of it counts before all of it is read.',
    };
  const others = [
    ...(counts.refused > 0 ? [`${count(counts.refused)} refused`] : []),
    ...(counts.repeated > 0 ? [`${count(counts.repeated)} known already`] : []),
  ];
  if (compares !== '')
    return {
      title: `${counted(counts.taken, 'row', 'rows')} of “${name}” compared${others.length > 0 ? `, ${others.join(', ')}` : ''}.`,
      under: 'They are counted nowhere. Compare shows where they differ from what Avrix would tell.',
    };
  return {
    title: `${counted(counts.taken, 'row', 'rows')} of “${name}” taken${others.length > 0 ? `, ${others.join(', ')}` : ''}.`,
    under:
      counts.refused > 0
        ? 'Fix the refused rows and bring them again: what was taken is known.'
        : 'Every row was answered.',
  };
}
