import { stageMoves, type Stages } from '../outcomes';
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

/** A record that arrived, with when each of its fields got what it has: now, where that is something else than before. */
export function withFieldTimes(known: CrmRecord | null, arrived: CrmRecord): CrmRecord {
  if (!known) return arrived;
  const fieldsAt = { ...known.fieldsAt };
  for (const [name, value] of Object.entries(arrived.fields))
    if (value !== (known.fields[name] ?? '')) fieldsAt[name] = arrived.changedAt;
  return Object.keys(fieldsAt).length === 0 ? arrived : { ...arrived, fieldsAt };
}

/** A move of a deal along the pipeline. */
export interface Move {
  /** ms */
  at: number;
  stage: string;
  /** Whether it went to an earlier stage than it was at. */
  isBack: boolean;
  /** Stages between the one it was at and this one that it was never at. */
  skipped: string[];
}

/** The moves of a deal in their order, the first stage aside, each with what is odd in it by the stages of the pipeline. */
export function movesOf(record: Pick<CrmRecord, 'stageChanges'>, { inOrder }: Pick<Stages, 'inOrder'>): Move[] {
  const moves = stageMoves(record.stageChanges, inOrder);
  return moves.slice(1).map(({ at, what }) => {
    const [from, to] = [inOrder.indexOf(what.before.at(-1)!), inOrder.indexOf(what.stage)];
    const between = from >= 0 && to > from ? inOrder.slice(from + 1, to) : [];
    return {
      at,
      stage: what.stage,
      isBack: to >= 0 && to < from,
      skipped: between.filter((stage) => !what.before.includes(stage)),
    };
  });
}
