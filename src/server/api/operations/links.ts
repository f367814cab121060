import { z } from 'zod';
import { linkAnswerSchema, madeLinkAnswerSchema } from '../../../core/links/answers';
import { newLinkSchema } from '../../../core/links/schema';
import { findLinks } from '../../links/queries';
import { listOf, operation, pageOf, readPage, type Operation } from '../operation';

export const links: Operation[] = [
  operation({
    id: 'listLinks',
    method: 'get',
    path: '/links',
    summary: 'Links in use, the newest first; those of one campaign where it is named.',
    query: z.strictObject({ ...pageOf, campaign: z.string().max(200).optional() }),
    answer: listOf(linkAnswerSchema),
    async run({ context: { db } }, { caller: { business }, query }) {
      return readPage(
        query,
        (limit, after) => findLinks(db, business.id, query.campaign, limit, after),
        ({ madeAt, id }) => ({ at: madeAt, id }),
        ({ madeAt, ...link }) => ({ ...link, madeAt: madeAt.toISOString() }),
      );
    },
  }),
  operation({
    id: 'makeLink',
    method: 'post',
    path: '/links',
    summary:
      'Makes a link from a page and tags, puts it into the register, and says what is wrong with it by the plan.',
    right: 'change',
    body: newLinkSchema,
    answer: madeLinkAnswerSchema,
    async run(services, { caller, body }) {
      const { made, added } = await services.links.make(caller, body);
      const problems = made.problems.map(({ tag, words, repaired }) => ({ tag, words, repaired }));
      return { url: made.link, known: added === 0, problems };
    },
  }),
];
