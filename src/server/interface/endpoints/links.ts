import {
  checkPagesSchema,
  linkIdsSchema,
  linkListSchema,
  linkUseSchema,
  replaceSchema,
  retireSchema,
} from '../../../core/links/list-schema';
import { columnOrderSchema, newLinksSchema, tagSetSchema, writeLinksSchema } from '../../../core/links/schema';
import { shortenSchema, shortLinkSchema } from '../../../core/links/short-link';
import { does, reads, readsBy, takes, type Endpoint } from '../endpoint';

const mostInCsv = 50_000;

const made: Endpoint[] = [
  readsBy('/links', linkListSchema, ({ links }, { membership, query }) => links.list(membership, query)),
  readsBy('/links.csv', linkListSchema, async ({ files, links }, { membership, query }) => {
    const { rows } = await links.list(membership, { ...query, page: 1 }, mostInCsv);
    const shown = rows.map(({ tags, problems, check, ...row }) => ({
      ...row,
      ...tags,
      problems: problems.join(' '),
      page: check ? check.words.join(' ') || check.state : '',
    }));
    const tags = new Set(rows.flatMap((row) => Object.keys(row.tags)));
    return files.writeList('links', [shown], {
      url: 'link',
      landing: 'landing',
      ...Object.fromEntries([...tags].map((tag) => [tag, tag])),
      usedIn: 'used in',
      place: 'place',
      owner: 'owner',
      madeAt: 'made',
      arrivals: 'arrivals',
      firstAt: 'first',
      lastAt: 'last',
      problems: 'problems',
      page: 'page',
    });
  }),
  takes('/links', newLinksSchema, ({ links }, { membership, body }) => links.add(membership, body.links), 201),
  takes('/links/use', linkUseSchema, ({ links }, { membership, body }) => links.use(membership, body)),
  takes('/links/retire', linkIdsSchema.extend(retireSchema.shape), ({ links }, { membership, body }) =>
    links.retire(membership, body.links, body.retired),
  ),
  // What a find and replace would do; doing it; taking it back.
  takes('/links/replace/preview', replaceSchema, async ({ links }, { membership, body }) => ({
    links: await links.previewReplace(membership, body),
  })),
  takes('/links/replace', replaceSchema, ({ links }, { membership, person, body }) =>
    links.replace(membership, person.id, body),
  ),
  does('/links/replace/{id}/undo', async ({ links }, { membership, params }) => ({
    moved: await links.undoReplace(membership, params.id!),
  })),
];

const making: Endpoint[] = [
  reads('/links/making', ({ making: builder }, { membership }) => builder.view(membership)),
  // The grid's rows from a file, with an answer for each that cannot be read, and as a file; nothing is stored.
  does('/links/file', async ({ files, linkPlanOf }, { membership, request }) =>
    files.readLinks(request, await linkPlanOf(membership.business.id)),
  ),
  takes('/links/write', writeLinksSchema, async ({ files, linkPlanOf }, { membership, body }) =>
    files.writeLinks(body.format, await linkPlanOf(membership.business.id), body.rows, body.columns),
  ),
  takes('/column-orders', columnOrderSchema, ({ making: builder }, { membership, body }) =>
    builder.saveColumnOrder(membership, body),
  ),
  takes('/tag-sets', tagSetSchema, ({ making: builder }, { membership, body }) => builder.saveTagSet(membership, body)),
  does('/tag-sets/{id}/retire', ({ making: builder }, { membership, params }) =>
    builder.retireTagSet(membership, params.id!),
  ),
];

const picture = (bytes: unknown, type: string) =>
  new Response(bytes as BodyInit, { headers: { 'content-type': type } });

const short: Endpoint[] = [
  reads('/short-links', ({ shortLinks }, { membership }) => shortLinks.view(membership)),
  takes('/short-links', shortLinkSchema, ({ shortLinks }, { membership, person, body }) =>
    shortLinks.save(membership, person.id, null, body),
  ),
  // The short link of a finished link, made where there is none.
  takes('/short-links/of-link', shortenSchema, ({ shortLinks }, { membership, person, body }) =>
    shortLinks.shorten(membership, person.id, body.link),
  ),
  takes('/short-links/{id}', shortLinkSchema, ({ shortLinks }, { membership, person, params, body }) =>
    shortLinks.save(membership, person.id, params.id!, body),
  ),
  takes('/short-links/{id}/retire', retireSchema, ({ shortLinks }, { membership, params, body: { retired } }) =>
    shortLinks.retire(membership, params.id!, retired),
  ),
  reads('/short-links/{id}/clicks', ({ shortLinks }, { membership, params }) =>
    shortLinks.clicks(membership, params.id!),
  ),
  reads('/short-links/{id}/qr.png', async ({ shortLinks }, { membership, params }) =>
    picture(await shortLinks.qrPng(membership, params.id!), 'image/png'),
  ),
  reads('/short-links/{id}/qr.svg', async ({ shortLinks }, { membership, params }) =>
    picture(await shortLinks.qrSvg(membership, params.id!), 'image/svg+xml'),
  ),
  // The open ones as a web server's redirect list.
  reads(
    '/short-links.conf',
    async ({ shortLinks }, { membership }) =>
      new Response(await shortLinks.redirectList(membership), {
        headers: {
          'content-type': 'text/plain; charset=utf-8',
          'content-disposition': 'attachment; filename="short-links.conf"',
        },
      }),
  ),
];

const checks: Endpoint[] = [
  reads('/page-checks', ({ pageChecks }, { membership }) => pageChecks.view(membership)),
  takes(
    '/page-checks',
    checkPagesSchema,
    async ({ pageChecks }, { membership, body: { urls } }) => ({ checks: await pageChecks.ask(membership, urls) }),
    202,
  ),
];

export const links: Endpoint[] = [...made, ...making, ...short, ...checks];
