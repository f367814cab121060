import { say } from './say.mjs';

/** What people did, table by table, with the texts that must differ from one copy to the next. */
const copied = {
  hits: [],
  visits: [],
  touches: ['click_id'],
  touch_tags: [],
  findings: [],
  strands: ['click_id'],
  standings: [],
  events: ['event_id'],
  event_tellings: ['click_id'],
  orders: ['number'],
  calls: ['number'],
  platform_leads: ['number'],
  leads: ['crm_person'],
  identities: [],
  companies: ['number'],
  deals: ['number'],
  enquiries: [],
  hops: [],
  outcomes: ['dedupe_key'],
  report_backs: ['click_id'],
  attempts: [],
  short_clicks: [],
  counted_landings: [],
};
/** What all copies have in common. */
const shared = ['business_id', 'account_id', 'short_link_id'];
const nil = '00000000-0000-0000-0000-000000000000';

/** Copies that one statement makes. */
const atOnce = 10;

/**
 * Makes many of what a small demo's people did: each copy has IDs of its own, which are the first one's with the last
 * digits changed in the same way everywhere, so that everything belongs together as it did. For measuring at sizes that
 * no replay reaches in an hour.
 *
 * @param times how many there are afterwards
 */
export async function multiply(databaseUrl, times) {
  // Not before the packages are installed.
  const { createConnection } = await import('mariadb');
  const { hostname, port, username, password, pathname } = new URL(databaseUrl);
  const database = pathname.slice(1);
  const connection = await createConnection({
    host: hostname,
    port: Number(port),
    user: username,
    password,
    database,
    bigIntAsNumber: true,
  });
  try {
    await connection.query('SET unique_checks = 0, foreign_key_checks = 0');
    for (const [table, varied] of Object.entries(copied)) {
      const columns = await connection.query(
        `SELECT column_name AS name, data_type AS type FROM information_schema.columns
         WHERE table_schema = ? AND table_name = ? AND is_generated = 'NEVER' ORDER BY ordinal_position`,
        [database, table],
      );
      const value = ({ name, type }) => {
        if (type === 'uuid' && !shared.includes(name))
          return `IF(${name} IS NULL OR ${name} = '${nil}', ${name}, CAST(CONCAT(LEFT(${name}, 24),
            LPAD(LOWER(CONV(CONV(RIGHT(${name}, 12), 16, 10) ^ (copy.seq << 20), 10, 16)), 12, '0')) AS UUID))`;
        if (name === 'hash') return "SHA2(CONCAT(hash, '-', copy.seq), 256)";
        if (varied.includes(name))
          return `IF(${name} IS NULL OR ${name} = '', ${name}, CONCAT(${name}, '-', copy.seq))`;
        return `\`${name}\``;
      };
      const names = columns.map(({ name }) => `\`${name}\``).join(', ');
      // The rows of the first are read before any copy stands among them.
      await connection.query(`CREATE TEMPORARY TABLE first_of AS SELECT * FROM ${table}`);
      for (let from = 1; from < times; from += atOnce) {
        const to = Math.min(from + atOnce - 1, times - 1);
        await connection.query(
          `INSERT INTO ${table} (${names})
           SELECT ${columns.map(value).join(', ')} FROM first_of JOIN seq_${from}_to_${to} AS copy`,
        );
      }
      await connection.query('DROP TEMPORARY TABLE first_of');
      const [{ n }] = await connection.query(`SELECT COUNT(*) AS n FROM ${table}`);
      say(`${table}: ${n.toLocaleString('en-GB')} rows`);
    }
    // All of it is to be added up by day.
    await connection.query('DELETE FROM roll_up_zones');
    await connection.query(
      `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
       SELECT id, 'roll_up', id, UTC_TIMESTAMP(3), 1, 0 FROM businesses
       ON DUPLICATE KEY UPDATE due_at = UTC_TIMESTAMP(3), marks = work.marks + 1`,
    );
    await connection.query(`ANALYZE TABLE ${Object.keys(copied).join(', ')}`);
  } finally {
    await connection.end();
  }
}
