import type { ArrivalsView } from '../../core/connections/view';
import { pointerName } from '../../core/capture/pointer';
import { readParts } from '../../core/crms/own/record';
import type { RecordReading } from '../../core/crms/schema';
import { AvrixError, fieldsWrong } from '../../core/errors';
import type { Context } from '../context';
import { readFileBody, readTable } from '../files/read-table';
import type { CrmArrivals } from '../leads/arrivals';
import type { Membership } from '../people/people';
import { requireEditor, type Draft } from '../releases/draft';
import type { Connections } from './connections';

/** What one file of a CRM's records came to. */
export interface CrmFile {
  taken: number;
  refused: { row: string; was: string; fix: string }[];
}

/** What arrives from CRMs that a business describes itself: shown as it came, read again, and taken from files. */
export function makeOwnCrmArrivals({ config }: Context, arrivals: CrmArrivals, connections: Connections, draft: Draft) {
  async function ruleOf(membership: Membership, kind: string) {
    const { live, draft: edited } = await draft.content(membership.business.id);
    const of = (crms: typeof live.crms) => crms.find((crm) => crm.kind === kind) ?? null;
    return { live: of(live.crms), edited: of(edited.crms) };
  }

  return {
    /** The newest arrivals of an account, with what the rule as the draft has it reads of each. */
    async view(membership: Membership, id: string): Promise<ArrivalsView> {
      const { business, role } = membership;
      const account = await connections.accountOf(membership, id);
      const { edited } = await ruleOf(membership, account.kind);
      const rows = await arrivals.newest(account);
      return {
        hook: `${config.edgeOrigin}/hook/${business.key}/${account.key}`,
        timeZone: business.timeZone,
        arrivals: rows.map((row) => {
          const record = arrivals.recordOf(row);
          const reading: RecordReading | null = (row.cameBy === 'file' ? edited?.columns : edited?.reads) ?? null;
          return {
            id: row.id,
            receivedAt: row.receivedAt.toISOString(),
            cameBy: row.cameBy,
            problem: row.problem,
            parts: reading && role.seesPeople ? readParts(reading, record) : [],
            record: role.seesPeople ? record : null,
          };
        }),
      };
    },

    /** Reads again what arrived and was not read. @returns how many were read */
    async again(membership: Membership, id: string): Promise<{ taken: number }> {
      requireEditor(membership);
      return { taken: await arrivals.again(await connections.accountOf(membership, id)) };
    },

    /**
     * Takes the records of a file, by the columns that the live rule remembers.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where its columns are not said yet
     */
    async readFile(membership: Membership, id: string, request: Request): Promise<CrmFile> {
      requireEditor(membership);
      const account = await connections.accountOf(membership, id);
      const { live } = await ruleOf(membership, account.kind);
      if (!live) throw new AvrixError('AVX_NOT_FOUND', { what: 'live CRM of that kind' });
      if (!live.columns)
        throw fieldsWrong([
          {
            field: 'columns',
            was: 'it is not said what its columns hold',
            fix: 'Say it on the CRM’s own page, and make it live.',
          },
        ]);
      const wanted = [pointerName(live.columns.number)];
      const { rows, problems } = await readTable(await readFileBody(request), wanted);
      const { taken, problems: unread } = await arrivals.takeRecords(
        account,
        live.columns,
        rows.map(({ cells }) => cells),
        'file',
      );
      return {
        taken,
        refused: [
          ...problems.map(({ row, was, fix }) => ({ row: `row ${row}`, was, fix })),
          ...unread.map(({ at, was, fix }) => ({ row: `row ${rows[at]!.row}`, was, fix })),
        ],
      };
    },
  };
}
