import { z } from 'zod';
import { leadAnswerSchema } from '../../../core/leads/answers';
import type { Reason } from '../../../core/reasons/codes';
import { hops } from '../../../core/strands';
import { traceAnswerSchema } from '../../../core/strands/answers';
import { findEnquiries, readEnquiries } from '../../leads/queries';
import { listOf, operation, pageOf, readPage, type Operation } from '../operation';
import { traceAnswer } from './strands';

const order = { sort: 'sentAt', descending: 'yes', page: 1 } as const;

export const leads: Operation[] = [
  operation({
    ...{ id: 'listLeads', method: 'get', path: '/leads' },
    summary: 'Enquiries, newest first, with how far their value came.',
    query: z.strictObject({
      ...pageOf,
      find: z.string().trim().max(100).default('').describe('Company, name, click ID, campaign or CRM number.'),
    }),
    answer: listOf(leadAnswerSchema),
    async run({ context: { db } }, { caller: { business, role }, query }) {
      return readPage(
        query,
        async (limit, after) => {
          const asked = { ...order, find: query.find };
          const ids = await findEnquiries(db, business.id, asked, role.seesPeople, { limit, after });
          return readEnquiries(db, business.id, ids);
        },
        ({ sentAt, id }) => ({ at: sentAt, id }),
        (row) => ({
          ...{ id: row.id, strandId: row.strandId, form: row.form, stage: row.stage, crmDeal: row.crmDeal },
          name: role.seesPeople ? (row.name ?? '') : '',
          company: role.seesPeople ? (row.company ?? '') : '',
          sentAt: row.sentAt.toISOString(),
          ...{ clickId: row.clickId ?? '', source: row.source ?? '', medium: row.medium ?? '' },
          lastHop: hops[Math.min(row.reached ?? 0, hops.length) - 1] ?? null,
          state: row.state,
          reason: row.reason ? (JSON.parse(row.reason) as Reason).code : null,
        }),
      );
    },
  }),
  operation({
    ...{ id: 'getLead', method: 'get', path: '/leads/{lead}' },
    summary: 'The trace of one enquiry: its values hop by hop, and what happened.',
    parameters: z.object({ lead: z.uuid() }),
    answer: traceAnswerSchema,
    async run({ traces }, { caller: { business, role }, parameters }) {
      return traceAnswer(await traces.ofEnquiry(business, role, parameters.lead));
    },
  }),
];
