import type { Transaction } from 'sequelize';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows } from '../db';
import type { MailStopRow } from './table';

/** Keeps that nothing is sent to an address any more; the first reason stays. */
export const stopMail = (
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  hash: string,
  how: MailStopRow['how'],
  byName: string,
  transaction: Transaction,
): Promise<void> => insertRows(tables.mailStops, [{ businessId, hash, how, at: now(), byName }], [], transaction);

export const isStopped = async (
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  hash: string,
): Promise<boolean> => (await tables.mailStops.count({ where: { businessId, hash } })) > 0;
