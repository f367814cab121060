import type { Sentence } from '../../strands/sentence';
import type { FilePart } from './parts';
import type { FiledHow } from './schema';

/** `open`: its columns are to be confirmed; `reading`, `taking`: being worked on; `taken`: all its rows are answered. */
export type FiledState = 'open' | 'reading' | 'taking' | 'taken' | 'failed';

/** What became of a row. */
export type FiledAnswer = 'taken' | 'repeated' | 'refused';

export interface FiledFileView {
  id: string;
  name: string;
  state: FiledState;
  /** Who brought it, and when (ISO 8601). */
  by: string;
  at: string;
  takenAt: string | null;
  /** Rows that were read so far; of all of them once that is known. */
  read: number;
  rows: number | null;
  counts: Record<FiledAnswer, number>;
  /** Why it could not be read as a whole; '' where it could. */
  problem: string;
  /** What it is compared with; '' where its rows count. */
  compares: string;
}

/** A file that was written for another program. */
export interface WrittenFileView {
  id: string;
  folder: string;
  name: string;
  bytes: number;
  at: string;
}

/** Files of conversions that were brought, and those that were written. */
export interface FiledFilesView {
  sentence: Sentence;
  files: FiledFileView[];
  written: WrittenFileView[];
  /** Whether conversions can be written into files: not for who may not see money. */
  seesMoney: boolean;
  mayChange: boolean;
  timeZone: string;
}

export interface FiledRowView {
  id: string;
  /** As a spreadsheet counts, the heading being row 1. */
  row: number;
  answer: FiledAnswer;
  /** Why, and what would be right; '' where it was taken. */
  why: string;
  clickId: string;
  outcome: string;
  happenedAt: string;
  /** In words; and as it is written, with its currency. '' for who may not see money. */
  amount: string;
  written: string;
  currency: string;
  order: string;
  change: string;
  /** What became of it since: told, held … of each account. */
  standing: string;
  /** Below the business's address; '' where there is none. */
  path: string;
}

/** The first rows of a file as they would be read. */
export interface FiledSample {
  /** `happened_at` as ISO 8601 where the row could be read. */
  rows: { row: number; parts: Record<FilePart, string>; wrong: string }[];
  /** Rows that were looked at, and how many of them would be refused. */
  of: number;
  wrong: number;
}

/** One file: before it is taken how it is read, after it what became of its rows. */
export interface FiledOneView {
  file: FiledFileView;
  sentence: Sentence;
  /** Headings of its columns, and how they are read; remembered of files with the same. */
  columns: string[];
  how: FiledHow;
  isRemembered: boolean;
  /** The name of a file with the same bytes that was taken before, and when; null where there is none. */
  sameAs: { name: string; at: string } | null;
  /** What rows may call an outcome. */
  outcomes: { says: string; code: string; words: string }[];
  /** What it could be compared with, as it is only worked out: by its key, in words. */
  compared: { key: string; words: string }[];
  platforms: { key: string; words: string }[];
  rows: FiledRowView[];
  total: number;
  pageSize: number;
  mayChange: boolean;
  timeZone: string;
}
