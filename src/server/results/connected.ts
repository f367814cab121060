import type { Sequelize } from 'sequelize';
import { connect } from '../db';

let known: { url: string; db: Sequelize } | null = null;

/** The connections of a thread of the pool. */
export function connected(url: string): Sequelize {
  if (known?.url !== url) known = { url, db: connect(url) };
  return known.db;
}
