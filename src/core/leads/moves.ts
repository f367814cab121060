import type { CrmRecord } from './schema';

/** Whether a record that arrived is at least as new as the one that is known; an older one that comes late changes nothing. */
export const isRecordNewer = (known: CrmRecord, arrived: CrmRecord): boolean => arrived.changedAt >= known.changedAt;

/**
 * A record of a CRM that says only the stage it is at now, with the moves that are known from records before it. It was
 * made when the first of them was.
 */
export function withMoves(known: CrmRecord | null, arrived: CrmRecord): CrmRecord {
  if (!known) return arrived;
  const last = known.stageChanges.at(-1)?.stage ?? '';
  const moved = arrived.stage !== '' && arrived.stage !== last ? [{ stage: arrived.stage, at: arrived.changedAt }] : [];
  return {
    ...arrived,
    madeAt: Math.min(known.madeAt, arrived.madeAt),
    stage: arrived.stage || known.stage,
    stageChanges: [...known.stageChanges, ...moved],
  };
}
