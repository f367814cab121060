import type { FileChange, FiledAnswer, FiledHow, FiledState } from '../../../core/outcomes/filed';
import { bytes, defineTable, json, text, time, uuid, whole, type RowOf } from '../../db/columns';

/** Files of conversions that somebody brought. */
export const filedFiles = defineTable('filed_files', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  byName: text(),
  at: time(),
  /** SHA-256 of its bytes: the same file again is said to be. */
  hash: text(),
  /** The headings of its columns. */
  columns: json<string[]>(),
  how: json<FiledHow>(),
  state: text<FiledState>(),
  /** Why it could not be read as a whole; '' where it could. */
  problem: text(),
  /** Rows that are read, all there are once that is known, and those of which what they say is stored. */
  rowsRead: whole(),
  rowsAll: whole().nullable(),
  rowsStored: whole(),
  /** How many rows there are of each answer, once it is taken. */
  counts: json<Record<FiledAnswer, number>>(),
  /** By whose rules its rows count: when all of them were read. */
  ruledAt: time().nullable(),
  takenAt: time().nullable(),
});
export type FiledFileRow = RowOf<typeof filedFiles>;

/** The bytes of a file, until it is taken. */
export const filedChunks = defineTable('filed_chunks', ['businessId', 'fileId', 'n'], {
  businessId: uuid(),
  fileId: uuid(),
  n: whole(),
  bytes: bytes(),
});

/** The rows of a file and what became of each. */
export const filedRows = defineTable('filed_rows', ['businessId', 'fileId', 'line'], {
  businessId: uuid(),
  fileId: uuid(),
  /** As a spreadsheet counts, the heading being row 1. */
  line: whole(),
  answer: text<FiledAnswer>(),
  /** Why, and what would be right; '' where it is taken. */
  why: text(),
  /** The conversion that it says or changes; null where it says none. */
  conversionId: uuid().nullable(),
  strandId: uuid().nullable(),
  platform: text(),
  clickId: text(),
  says: text(),
  at: time().nullable(),
  /** As it is written: a decimal number, '' for none. */
  amount: text(),
  currency: text(),
  orderId: text(),
  revision: text<FileChange | ''>(),
});
export type FiledRowRow = RowOf<typeof filedRows>;
