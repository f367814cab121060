import { fieldsWrong } from '../../../core/errors';
import { importParts, readImport, readImportColumns } from '../../../core/leads/imports';
import type { ImportedFile, ImportGiven, ImportHow, ImportsView } from '../../../core/leads/imports-view';
import { listed } from '../../../core/listed';
import { mayChange } from '../../../core/people/rights';
import { contractOf } from '../../../core/platforms';
import { counted, nilId, type Sentence } from '../../../core/strands';
import type { Changes } from '../../changes/changes';
import { nowMs } from '../../clock';
import type { Context } from '../../context';
import type { Crms } from '../../crms/crm';
import { instantIn } from '../../days';
import { inTransaction, selectRows, text, time, whole } from '../../db';
import { readFileBody, readTable } from '../../files/read-table';
import type { Membership } from '../../people/people';
import { requireEditor } from '../../releases/draft';
import type { Releases } from '../../releases/releases';
import type { makeTakeImport } from './take';

const mostLists = 100;
/** A day without its time counts as its noon. */
const timeIn = (timeZone: string) => (text: string) =>
  instantIn(timeZone, text) ?? instantIn(timeZone, `${text} 12:00`);

/** Leads that somebody brings in: from a file, or one typed in. */
export function makeImportsStation(
  context: Context,
  releases: Releases,
  crms: Crms,
  changes: Changes,
  takeImport: ReturnType<typeof makeTakeImport>,
) {
  const { db } = context;

  async function view({ business, role }: Membership): Promise<ImportsView> {
    const [lists, crm, { content }] = await Promise.all([
      selectRows(
        db,
        {
          name: text().of('form'),
          leads: whole().of('COUNT(*)'),
          inCrm: whole().of("COALESCE(SUM(deal <> ''), 0)"),
          waiting: whole().of("COALESCE(SUM(handed IN ('waiting', 'asked') AND deal = ''), 0)"),
          refused: whole().of("COALESCE(SUM(handed = 'refused' AND deal = ''), 0)"),
          lastAt: time().of('MAX(fetched_at)'),
        },
        `FROM platform_leads WHERE business_id = ? AND account_id = ? GROUP BY form
         ORDER BY MAX(fetched_at) DESC LIMIT ${mostLists}`,
        [business.id, nilId],
      ),
      crms.of(business.id),
      releases.live(business.id),
    ]);
    return {
      sentence: sentenceOf(lists),
      lists: lists.map((list) => ({ ...list, lastAt: list.lastAt.toISOString() })),
      platforms: content.capture.keep.clickIds.map(({ platform }) => ({
        key: platform,
        words: contractOf(platform, content.platforms)?.words ?? platform,
      })),
      crm: crm?.contract.make ? crm.account.name : '',
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  /** @throws AVX_FIELD_WRONG where no click ID of the platform is kept */
  async function refuseUnknownPlatform(businessId: string, platform: string): Promise<void> {
    const { clickIds } = (await releases.live(businessId)).content.capture.keep;
    if (platform !== '' && !clickIds.some((one) => one.platform === platform))
      throw fieldsWrong([
        {
          field: 'platform',
          was: `no click ID of “${platform}” is kept`,
          fix: `Use one of ${listed(clickIds.map((one) => one.platform)) || 'those that Kept has'}.`,
        },
      ]);
  }

  const note = ({ business, role }: Membership, list: string, taken: number) =>
    inTransaction(db, (transaction) =>
      changes.note(
        business.id,
        role.personId,
        [{ kind: 'lead', subject: `List “${list}”`, was: '', became: `${counted(taken, 'lead', 'leads')} brought in` }],
        transaction,
      ),
    );

  return {
    view,

    /** Takes one lead that somebody types in. @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG */
    async add(membership: Membership, given: ImportGiven): Promise<ImportsView> {
      requireEditor(membership);
      const { business } = membership;
      const columns = Object.fromEntries(importParts.map((part) => [part, part])) as Record<
        (typeof importParts)[number],
        string
      >;
      const cells = { ...given, id: '', term: '', clickedAt: '' };
      const read = readImport(columns, cells, timeIn(business.timeZone), nowMs());
      if (!read.ok) throw fieldsWrong([{ field: read.field, was: read.was, fix: read.fix }]);
      const { list, handsOver, agreed, platform } = given;
      await refuseUnknownPlatform(business.id, platform);
      if (given.clickId !== '' && platform === '')
        throw fieldsWrong([
          { field: 'platform', was: 'it does not say whose click ID it is', fix: 'Choose the platform.' },
        ]);
      const { taken } = await takeImport(business.id, { list, handsOver, agreed, platform }, [read.lead]);
      if (taken === 0)
        throw fieldsWrong([
          {
            field: 'mail',
            was: `they are in “${list}” already`,
            fix: 'Say when they enquired this time, or use another list.',
          },
        ]);
      await note(membership, list, taken);
      return view(membership);
    },

    /**
     * Takes the leads of a file, by the names of its columns. Rows that cannot be read are named; the others are taken.
     * @throws AVX_ROLE_TOO_SMALL, AVX_FILE_WRONG, AVX_FIELD_WRONG where no column says who somebody is
     */
    async readFile(membership: Membership, how: ImportHow, request: Request): Promise<ImportedFile> {
      requireEditor(membership);
      const { business } = membership;
      const { rows, problems } = await readTable(await readFileBody(request), []);
      const names = Object.keys(rows[0]?.cells ?? {});
      const { columns, notRead } = readImportColumns(names);
      await refuseUnknownPlatform(business.id, how.platform);
      // Without its platform a click ID is nobody's.
      if (columns.clickId !== '' && how.platform === '') notRead.push(columns.clickId);
      if (columns.mail === '' && columns.telephone === '' && (columns.name === '' || columns.company === ''))
        throw fieldsWrong([
          {
            field: 'mail',
            was: `no column says who somebody is; there are ${listed(names.slice(0, 20))}`,
            fix: 'Call one email or telephone, or two of them name and company.',
          },
        ]);
      const refused: ImportedFile['refused'] = problems.map(({ row, was, fix }) => ({ row: `row ${row}`, was, fix }));
      const now = nowMs();
      const leads = rows.flatMap(({ row, cells }) => {
        const read = readImport(columns, cells, timeIn(business.timeZone), now);
        if (read.ok) return [read.lead];
        refused.push({ row: `row ${row}`, was: read.was, fix: read.fix });
        return [];
      });
      const done = await takeImport(business.id, how, leads);
      if (done.taken > 0) await note(membership, how.list, done.taken);
      return { ...done, notRead, refused };
    },
  };
}

function sentenceOf(lists: { leads: number }[]): Sentence {
  const all = lists.reduce((sum, { leads }) => sum + leads, 0);
  if (all === 0)
    return {
      title: 'No lead was brought in yet.',
      under: 'Import a list of a fair, a partner or an older system, or add one lead by hand.',
    };
  return {
    title: `${counted(all, 'lead', 'leads')} brought in, from ${counted(lists.length, 'list', 'lists')}.`,
    under: 'A row that is brought in again is known, and nothing of it is changed.',
  };
}
