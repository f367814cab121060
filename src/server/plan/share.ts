import {
  comparePlanJson,
  comparePlanRows,
  planColumns,
  writePlanJson,
  writePlanRows,
  type PlanDifference,
} from '../../core/plan/plan-rows';
import { countByMeaning } from '../../core/plan';
import { peoplePages } from '../../core/plan/people-pages';
import type { ShareView } from '../../core/plan/view';
import { AvrixError } from '../../core/errors';
import { captureRules, type ReleaseContent } from '../../core/releases';
import { readRule, ruleSentence } from '../../core/rules';
import { counted } from '../../core/strands';
import type { Context } from '../context';
import { plain } from '../db';
import { readFileBody, readTable } from '../files/read-table';
import { pagesResponse, tableResponse, type TableFormat } from '../files/write-table';
import type { Membership } from '../people/people';
import type { Releases } from '../releases/releases';
import { toCampaign } from './campaigns';
import { weeks, type PlanService } from './plan';
import { mostCampaigns } from './queries';

/** What a value is called in links and in readings, in the order in which people follow it. */
const followed = [
  ['click ID', '', 'click_id'],
  ['source', 'utm_source', 'last_source'],
  ['medium', 'utm_medium', 'last_medium'],
  ['campaign', 'utm_campaign', 'last_campaign'],
  ['content', 'utm_content', 'last_content'],
] as const;

/** Links that the workbook shows as examples. */
const mostExamples = 40;

/** The plan as it is shared: a page to print, files, and files read back in. */
export function makePlanShare({ tables }: Context, releases: Releases, plan: PlanService) {
  /** Reads a plan back: JSON by its first character, else a table. */
  async function read(request: Request, content: ReleaseContent): Promise<PlanDifference> {
    const bytes = await readFileBody(request);
    const text = bytes.subarray(0, 64).toString('utf8').trim();
    if (!text.startsWith('{')) {
      const { rows, problems } = await readTable(bytes, ['rule', 'name', 'field', 'value']);
      const difference = comparePlanRows(content, rows);
      const unread = problems.map(({ row, ...rest }) => ({ row: `row ${row}`, ...rest }));
      return { ...difference, problems: [...unread, ...difference.problems] };
    }
    try {
      return comparePlanJson(content, JSON.parse(bytes.toString('utf8')));
    } catch {
      throw new AvrixError('AVX_BODY_NOT_JSON');
    }
  }

  return {
    async view(membership: Membership): Promise<ShareView> {
      const { business } = membership;
      const [release, state, sets] = await Promise.all([
        releases.live(business.id),
        plan.stateOf(business.id),
        tables.tagSets.findAll({
          where: { businessId: business.id, retiredAt: null },
          order: [['name', 'ASC']],
          limit: 500,
        }),
      ]);
      const live = release.content.plan;
      const values = live.tags.reduce((sum, rule) => sum + rule.values.length, 0);
      const sentence = {
        title: `The naming plan of ${business.name}.`,
        under: `Release ${release.number}: ${counted(live.tags.length, 'tag', 'tags')}, ${counted(values, 'planned value', 'planned values')}, ${counted(live.channels.length, 'medium', 'media')} with a channel.`,
      };
      return {
        ...plan.base(membership, sentence, state),
        live,
        release: { number: release.number, name: release.name, madeAt: new Date(release.madeAt).toISOString() },
        tagSets: plain(sets).map(({ name, tags }) => ({ name, tags })),
        flow: flowOf(release.content),
      };
    },

    /** The live plan as a workbook for people: a page for each tag, the campaigns, examples. */
    async peopleSheet({ business }: Membership): Promise<Response> {
      const where = { businessId: business.id, retiredAt: null };
      const [{ content }, { arrived }, campaigns, links] = await Promise.all([
        releases.live(business.id),
        plan.stateOf(business.id),
        tables.campaigns.findAll({ where, order: [['startsOn', 'DESC']], limit: mostCampaigns }),
        tables.links.findAll({ where, order: [['madeAt', 'DESC']], limit: mostExamples }),
      ]);
      const counts = new Map(
        content.plan.tags.map(({ tag }) => [tag, countByMeaning(content.plan, tag, arrived)] as const),
      );
      const pages = peoplePages(content.plan, plain(campaigns).map(toCampaign), plain(links), { counts, weeks });
      return pagesResponse('naming-plan', pages);
    },

    /** The live plan as a file. */
    async file({ business }: Membership, format: TableFormat | 'json'): Promise<Response> {
      const { content } = await releases.live(business.id);
      if (format !== 'json') return tableResponse('plan', format, [planColumns, ...writePlanRows(content)]);
      return new Response(JSON.stringify(writePlanJson(content), null, 2), {
        headers: {
          'content-type': 'application/json',
          'content-disposition': 'attachment; filename="plan.json"',
        },
      });
    },

    /** What a file's plan would change in the draft, as sentences; nothing is changed. */
    async compare({ business }: Membership, request: Request) {
      const { draft } = await plan.stateOf(business.id);
      const { changes, problems } = await read(request, draft);
      return {
        problems,
        changes: changes.map((change) => ({
          change,
          was: ruleSentence(change.kind, readRule(draft, change)),
          will: ruleSentence(change.kind, change.value),
        })),
      };
    },
  };
}

/** Where each value goes: from the link over the page's memory and the form's hidden field into the CRM. */
function flowOf(content: ReleaseContent): ShareView['flow'] {
  const { keep, fill } = captureRules({ content } as Parameters<typeof captureRules>[0]);
  return followed.map(([words, tag, reading]) => {
    const crm = content.crm?.fields[words === 'click ID' ? 'click_id' : words] ?? '';
    const fields = [...new Set(fill.filter((rule) => rule.reading === reading).map((rule) => rule.field))];
    // A form hands its fields on under their own names; the CRM reads one of them.
    const read = crm === '' ? fields : fields.filter((field) => field === crm);
    return {
      words,
      link: tag || keep.clickIds.map(({ parameter }) => parameter).join(', '),
      kept: tag ? `${keep.touchDays} days` : keep.clickIds.map(({ days }) => `${days} days`).join(', '),
      field: read.join(', '),
      unread: fields.filter((field) => !read.includes(field)).join(', '),
      crm: read.length > 0 ? crm : '',
    };
  });
}
