import type { Sequelize } from 'sequelize';
import type { Config } from './config';
import type { Tables } from './db';
import type { Folders } from './files/folders';
import type { HttpClient } from './http';
import type { NoteAnswer } from './platforms/note-answer';

/** What every service works with. */
export interface Context {
  db: Sequelize;
  /** The database that results are read from: a replica, where there is one. Nothing is written there. */
  resultsDb: Sequelize;
  tables: Tables;
  config: Config;
  http: HttpClient;
  /** Folders that other programs take files from. */
  folders: Folders;
  /** Keeps how accounts' services last answered. */
  note: NoteAnswer;
}
