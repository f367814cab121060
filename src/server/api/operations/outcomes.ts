import { z } from 'zod';
import { outcomeAnswerSchema } from '../../../core/outcomes/answers';
import { listOutcomes } from '../../outcomes/queries';
import { worthNow } from '../../outcomes/worth-now';
import { listOf, operation, pageOf, readPage, type Operation } from '../operation';

export const outcomes: Operation[] = [
  operation({
    id: 'listOutcomes',
    method: 'get',
    path: '/outcomes',
    summary: 'Counted outcomes, newest first.',
    query: z.strictObject({ ...pageOf, code: z.string().max(20).optional() }),
    answer: listOf(outcomeAnswerSchema),
    async run({ context: { db } }, { caller: { business, role }, query }) {
      const money = (minor: number, currency: string) => (role.seesMoney ? { minor: Number(minor), currency } : null);
      return readPage(
        query,
        (limit, after) => listOutcomes(db, business.id, query, limit, after),
        ({ countedAt, id }) => ({ at: countedAt, id }),
        (row) => ({
          id: row.id,
          code: row.code,
          version: row.version,
          subject: { kind: row.subjectKind, id: row.subjectId },
          enquiryId: row.subjectKind === 'enquiry' ? row.subjectId : null,
          happenedAt: row.happenedAt.toISOString(),
          countedAt: row.countedAt.toISOString(),
          stage: row.evidence.kind === 'stage' ? row.evidence.stage : null,
          stageSkipped: row.evidence.kind === 'stage' && row.evidence.skipped,
          amount: money(row.amountMinor, row.currency),
          worth: money(row.worthMinor, row.currency),
          worthNow: money(worthNow(row).minor, row.currency),
          change: row.worthChange,
          winRate: row.winRateOf === null ? '' : `${row.winRateWon} of ${row.winRateOf}`,
          release: row.releaseNumber,
        }),
      );
    },
  }),
];
