import { z } from 'zod';
import { leadAnswerSchema } from '../../../core/leads/answers';
import type { Reason } from '../../../core/reasons/codes';
import { waysIn } from '../../../core/ways-in';
import { traceAnswerSchema } from '../../../core/strands/answers';
import { readLeadFinding } from '../../leads/find';
import { findEnquiries, readEnquiries } from '../../leads/queries';
import { listOf, operation, pageOf, readPage, type Operation } from '../operation';
import { traceAnswer } from './strands';

const order = { sort: 'sentAt', descending: 'yes' } as const;

export const leads: Operation[] = [
  operation({
    id: 'listLeads',
    method: 'get',
    path: '/leads',
    summary: 'Enquiries, newest first, with how far their value came.',
    query: z.strictObject({
      ...pageOf,
      find: z
        .string()
        .trim()
        .max(100)
        .default('')
        .describe(
          'Company, name, whole email or telephone number, source, campaign, click ID, form, stage or CRM number.',
        ),
    }),
    answer: listOf(leadAnswerSchema),
    async run({ context: { db, config }, releases }, { caller: { business, role }, query }) {
      const release = await releases.live(business.id);
      const finding = await readLeadFinding(db, business.id, release, query.find, config.secretKey);
      return readPage(
        query,
        async (limit, after) => {
          const ids = await findEnquiries(db, business.id, order, finding, role.seesPeople, { limit, after });
          return readEnquiries(db, business.id, ids);
        },
        ({ sentAt, id }) => ({ at: sentAt, id }),
        (row) => ({
          id: row.id,
          strandId: row.strandId,
          form: row.form,
          stage: row.stage,
          crmDeal: row.crmDeal,
          name: role.seesPeople ? (row.name ?? '') : '',
          company: role.seesPeople ? (row.company ?? '') : '',
          sentAt: row.sentAt.toISOString(),
          clickId: row.clickId ?? '',
          source: row.source ?? '',
          medium: row.medium ?? '',
          lastHop: waysIn.form.hops[row.reached - 1] ?? null,
          state: row.state,
          reason: row.reason ? (JSON.parse(row.reason) as Reason).code : null,
        }),
      );
    },
  }),
  operation({
    id: 'getLead',
    method: 'get',
    path: '/leads/{lead}',
    summary: 'The trace of one enquiry: its values hop by hop, and what happened.',
    parameters: z.object({ lead: z.uuid() }),
    answer: traceAnswerSchema,
    async run({ traces }, { caller: { business, role }, parameters }) {
      return traceAnswer(await traces.ofEnquiry(business, role, parameters.lead));
    },
  }),
];
