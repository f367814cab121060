import type { Migration } from './index';

/** When (ms) a deal came to its last stage, so that deals of some days are found without reading the stages of all. */
export const dealsByStage: Migration[] = [
  {
    name: '0060-deals-by-stage',
    sql: `ALTER TABLE deals
      ADD COLUMN IF NOT EXISTS staged_at BIGINT AS (JSON_VALUE(record, '$.stageChanges[last].at')) STORED,
      ADD INDEX IF NOT EXISTS by_stage (business_id, staged_at)`,
  },
];
