import { z } from 'zod';
import { accountAnswerSchema, releaseAnswerSchema, wholeReleaseAnswerSchema } from '../../../core/releases/answers';
import type { Release } from '../../../core/releases';
import { plain } from '../../db';
import { operation, type Operation } from '../operation';

const releaseAnswer = ({ number, name, note, madeAt }: Release) => ({
  number,
  name,
  note,
  madeAt: new Date(madeAt).toISOString(),
});

export const releases: Operation[] = [
  operation({
    id: 'listReleases',
    method: 'get',
    path: '/releases',
    summary: 'The releases of the rules, newest first; at most 200.',
    answer: z.object({ rows: z.array(releaseAnswerSchema) }),
    async run({ releases: stored }, { caller: { business } }) {
      return { rows: (await stored.list(business.id, 2 ** 31, 200)).map(releaseAnswer) };
    },
  }),
  operation({
    id: 'getRelease',
    method: 'get',
    path: '/releases/{number}',
    summary: 'One release with all its rules.',
    parameters: z.object({ number: z.coerce.number().int().min(1) }),
    answer: wholeReleaseAnswerSchema,
    async run({ releases: stored }, { caller: { business }, parameters }) {
      const release = await stored.numbered(business.id, parameters.number);
      return { ...releaseAnswer(release), content: release.content };
    },
  }),
  operation({
    id: 'listAccounts',
    method: 'get',
    path: '/accounts',
    summary: 'Connected accounts on outside services, without their secrets.',
    answer: z.object({ rows: z.array(accountAnswerSchema) }),
    async run({ context: { tables } }, { caller: { business } }) {
      const rows = plain(
        await tables.accounts.findAll({ where: { businessId: business.id }, order: [['key', 'ASC']], limit: 200 }),
      );
      return {
        rows: rows.map(({ key, kind, name, endpoint, settings }) => ({ key, kind, name, endpoint, settings })),
      };
    },
  }),
];
