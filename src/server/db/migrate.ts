/* eslint-disable no-await-in-loop -- each migration builds on the one before */
import { selectRows } from './select';
import { pick } from './columns';
import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations';
import { leases } from './table';

/**
 * Brings the database to the newest form. Several processes may start at once: one holds the lease row, the others
 * wait for it and then find nothing left to do.
 */
export async function migrate(db: Sequelize): Promise<void> {
  await db.query(
    `CREATE TABLE IF NOT EXISTS leases (
      name VARCHAR(60) NOT NULL PRIMARY KEY, owner CHAR(36) NOT NULL, until DATETIME(3) NOT NULL)`,
  );
  const owner = randomUUID();
  while (!(await takeLease(db, owner))) await wait(300);
  try {
    await new Umzug({
      migrations: migrations.map(({ name, sql }) => ({ name, up: async () => void (await db.query(sql)) })),
      storage: new SequelizeStorage({ sequelize: db, tableName: 'migrations' }),
      logger: undefined,
    }).up();
  } finally {
    await db.query("DELETE FROM leases WHERE name = 'migrations' AND owner = ?", { replacements: [owner] });
  }
}

async function takeLease(db: Sequelize, owner: string): Promise<boolean> {
  await db.query(
    `INSERT INTO leases (name, owner, until) VALUES ('migrations', ?, UTC_TIMESTAMP(3) + INTERVAL 2 MINUTE)
     ON DUPLICATE KEY UPDATE
       owner = IF(until < UTC_TIMESTAMP(3), VALUES(owner), owner),
       until = IF(owner = VALUES(owner), VALUES(until), until)`,
    { replacements: [owner] },
  );
  const [held] = await selectRows(db, pick(leases, ['owner']), "FROM leases WHERE name = 'migrations'", []);
  return held?.owner === owner;
}
