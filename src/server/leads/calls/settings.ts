import { guessCallReading, usualCallRules, type CallSettingsReading } from '../../../core/leads/calls';
import { now } from '../../clock';
import type { Context } from '../../context';
import type { CallSettingsRow } from './table';

/** The names by which calls are read until somebody says otherwise. */
export const usualReading: CallSettingsReading = {
  calls: '',
  ...guessCallReading(['id', 'dialled', 'caller', 'started_at', 'seconds', 'answered', 'reference']),
};

/** How a business's calls are read and counted; the usual ones where it never said. */
export async function readCallSettings(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
): Promise<CallSettingsRow> {
  const row = await tables.callSettings.findOne({ where: { businessId } });
  return (
    row?.get({ plain: true }) ?? {
      businessId,
      secret: null,
      proof: 'token',
      header: 'authorization',
      reading: usualReading,
      columnsRead: null,
      ...usualCallRules,
      lastAt: null,
      lastSent: null,
      lastProblem: '',
      changedAt: now(),
    }
  );
}
