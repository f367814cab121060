import type { Sequelize, Transaction } from 'sequelize';

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
export async function inTransaction<T>(db: Sequelize, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  for (let run = 1; ; run++) {
    const transaction = await db.transaction();
    try {
      const result = await work(transaction);
      await transaction.commit();
      return result;
    } catch (error) {
      await transaction.rollback().catch(() => undefined);
      if (run >= 5 || !again.has(errorNumber(error) ?? 0)) throw error;
    }
  }
}
