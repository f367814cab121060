import { z } from 'zod';
import {
  businessAnswerSchema,
  changeAnswerSchema,
  connectionAnswerSchema,
  personAnswerSchema,
  tryAnswerSchema,
} from '../../../core/connections/answers';
import { accountStateSchema, changedAccountSchema, newAccountSchema } from '../../../core/connections/schema';
import { operation, pageOf, type Operation } from '../operation';

const ofAccount = z.object({ account: z.uuid() });
const empty = z.strictObject({});

export const connections: Operation[] = [
  operation({
    id: 'getBusiness',
    method: 'get',
    path: '/business',
    summary: 'The business that the token is of, with its websites.',
    answer: businessAnswerSchema,
    async run({ connections: station }, { caller }) {
      const { key, name, timeZone, currency } = caller.business;
      const { websites } = await station.view(caller);
      return { key, name, timeZone, currency, websites: websites.map(({ host, seenAt }) => ({ host, seenAt })) };
    },
  }),
  operation({
    id: 'listConnections',
    method: 'get',
    path: '/connections',
    summary: 'Connected platforms and CRMs, each with its last answer and what it did. Keys are never answered.',
    answer: z.object({ rows: z.array(connectionAnswerSchema) }),
    async run({ connections: station }, { caller }) {
      const { accounts } = await station.view(caller);
      return { rows: accounts.map(({ kindWords: _, since: __, hasToken: ___, ...account }) => account) };
    },
  }),
  operation({
    id: 'connectAccount',
    method: 'post',
    path: '/connections',
    summary: 'Connects an account. For a CRM that sends webhooks, send the secret they are sealed with.',
    right: 'change',
    body: newAccountSchema,
    answer: z.object({ id: z.uuid(), key: z.string() }),
    async run({ connections: station }, { caller, body }) {
      const { id, key } = await station.connect(caller, caller.role.personId, body);
      return { id, key };
    },
  }),
  operation({
    id: 'changeAccount',
    method: 'post',
    path: '/connections/{account}',
    summary: 'Changes an account; a key that is empty stays as it is.',
    right: 'change',
    parameters: ofAccount,
    body: changedAccountSchema,
    answer: empty,
    async run({ connections: station }, { caller, parameters, body }) {
      await station.change(caller, caller.role.personId, parameters.account, body);
      return {};
    },
  }),
  operation({
    id: 'setAccountState',
    method: 'post',
    path: '/connections/{account}/state',
    summary: 'Pauses an account, retires it, or lets it go on.',
    right: 'change',
    parameters: ofAccount,
    body: accountStateSchema,
    answer: empty,
    async run({ connections: station }, { caller, parameters, body }) {
      await station.setState(caller, caller.role.personId, parameters.account, body.state);
      return {};
    },
  }),
  operation({
    id: 'tryAccount',
    method: 'post',
    path: '/connections/{account}/try',
    summary: 'Sends a platform one pretend row, or asks a CRM one question; nothing of it is counted or kept.',
    right: 'change',
    parameters: ofAccount,
    body: z.strictObject({ clickId: z.string().max(300).default(''), outcome: z.string().max(60).default('') }),
    answer: tryAnswerSchema,
    run: ({ tryAccounts }, { caller, parameters, body }) => tryAccounts.tryOut(caller, parameters.account, body),
  }),
  operation({
    id: 'listPeople',
    method: 'get',
    path: '/people',
    summary: 'Who has a role in the business and what each may do.',
    answer: z.object({ rows: z.array(personAnswerSchema) }),
    async run({ members }, { caller }) {
      const { members: rows } = await members.view(caller);
      return { rows: rows.map(({ isYou: _, ...row }) => row) };
    },
  }),
  operation({
    id: 'listChanges',
    method: 'get',
    path: '/changes',
    summary: 'Who changed which connection, person, rule and release, newest first.',
    query: z.object({ ...pageOf, cursor: z.uuid().optional().describe('`next` of the answer before.') }),
    answer: z.object({ rows: z.array(changeAnswerSchema), next: z.string().nullable() }),
    async run({ changes }, { caller, query: { limit, cursor } }) {
      const rows = await changes.before(caller, cursor ?? null, limit);
      return { rows, next: rows.length === limit ? rows.at(-1)!.id : null };
    },
  }),
];
