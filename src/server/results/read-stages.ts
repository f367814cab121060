import type { Sequelize } from 'sequelize';
import type { Dimension } from '../../core/results/dimensions';
import type { RegisteredStage } from '../../core/results/reading';
import { pick, selectRows } from '../db';
import { campaigns } from '../plan/table';

/** What campaigns of the register are there for, where something is broken down by that. */
export const readStages = async (
  db: Sequelize,
  businessId: string,
  by: readonly (Dimension | '')[],
): Promise<RegisteredStage[]> =>
  by.includes('stage')
    ? selectRows(db, pick(campaigns, ['name', 'stage']), 'FROM campaigns WHERE business_id = ?', [businessId])
    : [];
