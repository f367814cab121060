import { Sequelize } from 'sequelize';

/** Every connection speaks utf8mb4 compared by code point, UTC, strict SQL and reads what is committed. */
const sessionSql = [
  'SET NAMES utf8mb4 COLLATE utf8mb4_nopad_bin',
  "SET time_zone = '+00:00'",
  "SET sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION'",
  'SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED',
  // What is put together of many rows is never cut.
  'SET SESSION group_concat_max_len = 268435456',
  // A process that stands still within a transaction (s) loses it, so that its locks hold up nobody else.
  'SET SESSION idle_transaction_timeout = 10',
];

/** Opens the pool. Nothing is asked of the database yet. */
export function connect(url: string): Sequelize {
  const db = new Sequelize(url, {
    dialect: 'mariadb',
    logging: false,
    timezone: '+00:00',
    pool: { max: 12, min: 1, acquire: 20_000 },
    dialectOptions: { initSql: sessionSql, connectTimeout: 5000 },
    define: { timestamps: false, freezeTableName: true, underscored: true },
  });
  // `findOne` by the first column of a key leaves LIMIT out, taking it for the whole key: one read the ID of every hit.
  db.addHook('beforeFind', (options) => {
    if ((options as { plain?: boolean }).plain) options.limit ??= 1;
  });
  return db;
}
