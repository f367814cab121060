import type { Migration } from './index';

/** How far strands came, by way in, in place of columns of the strands themselves. */
export const waysIn: Migration[] = [
  {
    name: '0023-standings',
    sql: `CREATE TABLE IF NOT EXISTS standings (
      business_id UUID NOT NULL,
      way_in VARCHAR(20) NOT NULL,
      strand_id UUID NOT NULL,
      first_at DATETIME(3) NOT NULL,
      reached TINYINT UNSIGNED NOT NULL,
      state VARCHAR(10) NULL,
      reason VARCHAR(500) NULL,
      PRIMARY KEY (business_id, way_in, strand_id),
      KEY by_time (business_id, way_in, first_at))`,
  },
  {
    name: '0023-onward',
    sql: `UPDATE hops SET way_in = 'none', hop = 'onward'
      WHERE way_in = 'form' AND hop = 'form_sent' AND subject_id = '00000000-0000-0000-0000-000000000000'`,
  },
  {
    name: '0023-standings-shared',
    sql: `INSERT INTO standings (business_id, way_in, strand_id, first_at, reached, state, reason)
      SELECT s.business_id, 'none', s.id, s.first_at, LEAST(s.form_reached, 3),
        IF(s.form_reached < 3, s.form_state, COALESCE(o.state, 'left')),
        IF(s.form_reached < 3, s.form_reason, IF(o.state = 'waiting', '{"code":"visit_running"}', '{"code":"visit_ended"}'))
      FROM strands s LEFT JOIN hops o ON o.business_id = s.business_id AND o.strand_id = s.id AND o.way_in = 'none'
        AND o.hop = 'onward'
      ON DUPLICATE KEY UPDATE strand_id = VALUES(strand_id)`,
  },
  {
    name: '0023-standings-form',
    sql: `INSERT INTO standings (business_id, way_in, strand_id, first_at, reached, state, reason)
      SELECT business_id, 'form', id, first_at, form_reached, form_state, form_reason FROM strands
      WHERE form_reached > 3 OR (form_reached = 3 AND form_state IN ('lost', 'unknown'))
      ON DUPLICATE KEY UPDATE strand_id = VALUES(strand_id)`,
  },
  {
    name: '0023-strands-without-form',
    sql: `ALTER TABLE strands DROP COLUMN IF EXISTS form_reached, DROP COLUMN IF EXISTS form_state,
      DROP COLUMN IF EXISTS form_reason`,
  },
  { name: '0023-strand-kinds', sql: 'ALTER TABLE strands MODIFY kind VARCHAR(10) NOT NULL' },
  {
    name: '0023-strand-days-way',
    sql: `ALTER TABLE strand_days ADD COLUMN IF NOT EXISTS way_in VARCHAR(20) NOT NULL DEFAULT 'none' AFTER n,
      MODIFY strands INT NOT NULL`,
  },
  { name: '0023-sum-up-again', sql: 'DELETE FROM roll_up_zones' },
  {
    name: '0023-roll-up-all',
    sql: `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
      SELECT id, 'roll_up', id, UTC_TIMESTAMP(3), 1, 0 FROM businesses ON DUPLICATE KEY UPDATE marks = work.marks`,
  },
];
