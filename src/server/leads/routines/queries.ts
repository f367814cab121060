import type { Sequelize } from 'sequelize';
import type { Takes } from '../../../core/leads/routines/routine';
import { selectOne, selectRows, text, time, uuid, whole } from '../../db';
import type { Compiled } from '../segments/condition-sql';

/** Which enquiries a routine means: a condition over `enquiries e`, and since when they were sent where that counts. */
export interface Meant {
  businessId: string;
  /** null for one that is not there yet, which took nobody. */
  routineId: string | null;
  once: Takes['once'];
  where: Compiled;
  from: Date | null;
}

const withLead = 'LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id';

/** Those that are meant and that it has not taken, or passed over. @param ids of these alone */
function conditionOf({ businessId, routineId, once, where: [held, values], from }: Meant, ids: string[] | null) {
  const ofPerson = `SELECT 1 FROM leads ol
      JOIN enquiries o ON o.business_id = ol.business_id AND o.lead_id = ol.id
      JOIN routine_runs r ON r.business_id = o.business_id AND r.enquiry_id = o.id AND r.routine_id = ?
      WHERE ol.business_id = e.business_id AND ol.person_id = l.person_id`;
  const taken = `NOT EXISTS (SELECT 1 FROM routine_runs r WHERE r.business_id = e.business_id AND r.enquiry_id = e.id
      AND r.routine_id = ?) ${once === 'person' ? `AND NOT EXISTS (${ofPerson})` : ''}`;
  return {
    sql: `FROM enquiries e ${withLead} WHERE e.business_id = ? AND e.marked = '' AND e.quality <> 'no_enquiry'
      ${ids ? 'AND e.id IN (?)' : ''} ${from ? 'AND e.sent_at >= ?' : ''} AND ${held}
      ${routineId === null ? '' : `AND ${taken}`}`,
    values: [
      businessId,
      ...(ids ? [ids] : []),
      ...(from ? [from] : []),
      ...values,
      ...(routineId === null ? [] : once === 'person' ? [routineId, routineId] : [routineId]),
    ],
  };
}

/** Enquiries to be taken, the oldest first, each with what it takes once: itself, or its person. */
export async function findMeant(
  db: Sequelize,
  meant: Meant,
  ids: string[] | null,
  limit: number,
): Promise<{ id: string; subject: string }[]> {
  const { sql, values } = conditionOf(meant, ids);
  const subject = meant.once === 'person' ? 'COALESCE(l.person_id, e.id)' : 'e.id';
  return selectRows(
    db,
    { id: uuid().of('e.id'), subject: uuid().of(subject) },
    `${sql} ORDER BY e.sent_at, e.id LIMIT ?`,
    [...values, limit],
  );
}

/** How many enquiries are meant, and how many of them were sent since. */
export async function countMeant(db: Sequelize, meant: Meant, since: Date): Promise<{ now: number; lately: number }> {
  const { sql, values } = conditionOf(meant, null);
  return selectOne(db, { now: whole().of('COUNT(*)'), lately: whole().of('COALESCE(SUM(e.sent_at >= ?), 0)') }, sql, [
    since,
    ...values,
  ]);
}

/** How many leads routines took, by routine and how they stand; those that were passed over aside. */
export const countRuns = (db: Sequelize, businessId: string, now: Date) =>
  selectRows(
    db,
    {
      routineId: uuid().of('routine_id'),
      state: text<'going' | 'done' | 'let_go'>().of('state'),
      lastStep: uuid().nullable().of('last_step'),
      stepsDone: whole().of('steps_done'),
      runs: whole().of('COUNT(*)'),
      due: whole().of("COALESCE(SUM(state = 'going' AND due_at <= ?), 0)"),
    },
    `FROM routine_runs WHERE business_id = ? AND state <> 'passed' GROUP BY routine_id, state, last_step, steps_done`,
    [now, businessId],
  );

/** How often each email was sent, and last. */
export const countSent = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    { mailId: uuid().of('mail_id'), sent: whole().of('COUNT(*)'), lastAt: time().of('MAX(at)') },
    `FROM routine_acts WHERE business_id = ? AND mail_id IS NOT NULL AND state IN ('done', 'unsure') GROUP BY mail_id`,
    [businessId],
  );
