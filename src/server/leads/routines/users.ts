import { Op } from 'sequelize';
import { mailsOfRoutine, segmentsOfRoutine } from '../../../core/leads/routines/routine';
import type { Context } from '../../context';
import { plain } from '../../db';

/** A routine with the segments that decide whom it takes, and the emails that it sends. */
export interface RoutineUse {
  name: string;
  segments: string[];
  mails: string[];
}

/** What the routines of a business are made of; of those in use. */
export async function readRoutineUse({ tables }: Pick<Context, 'tables'>, businessId: string): Promise<RoutineUse[]> {
  const where = { businessId, state: { [Op.ne]: 'retired' as const } };
  const rows = plain(await tables.routines.findAll({ where, order: [['madeAt', 'ASC']] }));
  return rows.map(({ name, means }) => ({ name, segments: segmentsOfRoutine(means), mails: mailsOfRoutine(means) }));
}
