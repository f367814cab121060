import type { WriteRowView } from '../../core/leads/writes-view';
import type { Context } from '../context';
import { plain, selectOne, whole, type CrmWriteRow } from '../db';
import { calledBy } from './dry-run';

const newestWrites = 50;

/** What was written into a CRM's records, the newest first, and how many wait for it. */
export async function readWriteLog(
  { db, tables }: Context,
  businessId: string,
  cause: CrmWriteRow['cause'],
  seesPeople: boolean,
): Promise<{ log: WriteRowView[]; waiting: number }> {
  const [rows, { waiting }] = await Promise.all([
    tables.crmWrites.findAll({ where: { businessId, cause }, order: [['id', 'DESC']], limit: newestWrites }),
    selectOne(
      db,
      { waiting: whole().of('COUNT(*)') },
      // By rules each record is first looked at; what is repaired is known beforehand.
      cause === 'rule'
        ? "FROM work WHERE business_id = ? AND kind = 'crm_write'"
        : "FROM crm_writes WHERE business_id = ? AND state = 'waiting' AND cause = 'repair'",
      [businessId],
    ),
  ]);
  const writes = plain(rows);
  const deals = plain(
    await tables.deals.findAll({ where: { businessId, id: [...new Set(writes.map(({ dealId }) => dealId))] } }),
  );
  const recordOf = new Map(deals.map(({ id, record }) => [id, record]));
  const log = writes.map((row): WriteRowView => {
    const record = recordOf.get(row.dealId);
    return {
      id: row.id,
      enquiryId: row.enquiryId,
      number: row.number,
      state: row.state,
      answer: row.answer,
      words: record ? calledBy(record, seesPeople) : row.number,
      fields: row.fields.map(({ field, was, becomes }) => ({ field, was, becomes, found: row.found?.[field] ?? null })),
      by: row.byName,
      isRepair: row.cause === 'repair',
      at: (row.writtenAt ?? row.madeAt).toISOString(),
    };
  });
  return { log, waiting };
}
