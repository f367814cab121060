import type { Sequelize } from 'sequelize';
import type { Config } from './config';
import type { Tables } from './db';
import type { HttpClient } from './http';
import type { NoteAnswer } from './platforms/note-answer';

/** What every service works with. */
export interface Context {
  db: Sequelize;
  tables: Tables;
  config: Config;
  http: HttpClient;
  /** Keeps how accounts' services last answered. */
  note: NoteAnswer;
}
