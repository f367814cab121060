import { z } from 'zod';
import {
  attemptAnswerSchema,
  foundSchema,
  reportBackAnswerSchema,
  reportBackStates,
} from '../../../core/reportbacks/answers';
import type { ReportBackRow, RoleRow } from '../../db';
import { listReportBacks } from '../../reportbacks/queries';
import { listOf, operation, pageOf, readPage, type Operation } from '../operation';

const parameters = z.object({ reportBack: z.uuid() });

function reportBackAnswer(row: ReportBackRow, { seesMoney }: RoleRow) {
  const { id, outcomeId, subjectKind, subjectId, platform, account, toldAs, state, reason, keyKind, keyValue } = row;
  return {
    id,
    outcomeId,
    subject: { kind: subjectKind, id: subjectId },
    enquiryId: subjectKind === 'enquiry' ? subjectId : null,
    platform,
    account,
    toldAs,
    correction: row.correction,
    newWorth: row.tellsMinor === null || !seesMoney ? null : Number(row.tellsMinor),
    state,
    reason,
    key: { kind: keyKind, value: keyValue },
    clickId: keyKind === 'click_id' ? keyValue : '',
    madeAt: row.madeAt.toISOString(),
    dueAt: row.dueAt?.toISOString() ?? null,
    answeredAt: row.answeredAt?.toISOString() ?? null,
    confirmedAt: row.confirmedAt?.toISOString() ?? null,
  };
}

export const reportBacks: Operation[] = [
  operation({
    id: 'listReportBacks',
    method: 'get',
    path: '/report-backs',
    summary: 'What was or will be told to platforms, newest first.',
    query: z.strictObject({
      ...pageOf,
      state: z.enum(reportBackStates).optional(),
      platform: z.string().max(40).optional(),
    }),
    answer: listOf(reportBackAnswerSchema),
    run: ({ context: { db } }, { caller: { business, role }, query }) =>
      readPage(
        query,
        (limit, after) => listReportBacks(db, business.id, query, limit, after),
        ({ madeAt, id }) => ({ at: madeAt, id }),
        (row) => reportBackAnswer(row, role),
      ),
  }),
  operation({
    id: 'getReportBack',
    method: 'get',
    path: '/report-backs/{reportBack}',
    summary: 'One report-back with every attempt to tell it.',
    parameters,
    answer: reportBackAnswerSchema.extend({ attempts: z.array(attemptAnswerSchema) }),
    async run(services, { caller: { business, role }, parameters: { reportBack: id } }) {
      const { reportBack, attempts } = await services.reportBacks.one(business.id, id);
      return {
        ...reportBackAnswer(reportBack, role),
        attempts: attempts.map(({ startedAt, status, answer }) => ({ at: startedAt.toISOString(), status, answer })),
      };
    },
  }),
  operation({
    id: 'decideReportBack',
    method: 'post',
    path: '/report-backs/{reportBack}/found',
    summary: 'Says whether the platform has a report-back that is unsure.',
    right: 'change',
    parameters,
    body: foundSchema,
    answer: reportBackAnswerSchema,
    async run(services, { caller: { business, role }, parameters: { reportBack: id }, body: { found } }) {
      await services.reportBacks.decide(business.id, id, found, 'a program');
      return reportBackAnswer((await services.reportBacks.one(business.id, id)).reportBack, role);
    },
  }),
];
