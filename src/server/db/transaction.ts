/* eslint-disable no-await-in-loop -- a transaction is tried again after its last try failed */
import { Transaction, type Sequelize } from 'sequelize';

/** Lock wait timed out, deadlock, record changed since last read: the transaction may simply run again. */
const again = new Set([1205, 1213, 1020]);

/** MariaDB's number of an error, whatever it is wrapped in. */
export function errorNumber(error: unknown): number | undefined {
  const carrier = error as { errno?: number; original?: { errno?: number }; parent?: { errno?: number } };
  return carrier?.original?.errno ?? carrier?.parent?.errno ?? carrier?.errno;
}

/**
 * Runs `work` in one transaction and commits. It runs again, up to five times, when the database asks for it, also
 * from the commit itself; so `work` does nothing outside the database.
 */
export const inTransaction = <T>(db: Sequelize, work: (transaction: Transaction) => Promise<T>): Promise<T> =>
  run(db, {}, work);

/** The same for statements that write what they read elsewhere: what they read is not locked against others. */
export const inReadCommitted = <T>(db: Sequelize, work: (transaction: Transaction) => Promise<T>): Promise<T> =>
  run(db, { isolationLevel: Transaction.ISOLATION_LEVELS.READ_COMMITTED }, work);

async function run<T>(
  db: Sequelize,
  options: { isolationLevel?: Transaction.ISOLATION_LEVELS },
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> {
  for (let tried = 1; ; tried++) {
    const transaction = await db.transaction(options);
    try {
      const result = await work(transaction);
      await transaction.commit();
      return result;
    } catch (error) {
      await transaction.rollback().catch(() => undefined);
      if (tried >= 5 || !again.has(errorNumber(error) ?? 0)) throw error;
    }
  }
}
