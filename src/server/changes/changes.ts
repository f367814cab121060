import { Op, type Transaction, type WhereOptions } from 'sequelize';
import type { ChangeKind, ChangeLogRow, ChangeLogView } from '../../core/changes/view';
import type { ChangeLogQuery } from '../../core/changes/schema';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { likeText, plain, type ChangeRow } from '../db';
import { newId } from '../ids';
import { mostInFile, pageSize } from '../lists';
import type { Membership } from '../people/people';

/** Something that somebody changed; '' as what it was where it is new, as what it became where it was taken away. */
export interface Change {
  kind: ChangeKind;
  subject: string;
  was: string;
  became: string;
}
export type Changes = ReturnType<typeof makeChanges>;

/** Values may be long, such as a rule's sentence. */
const longest = 2000;

/** The change log: who changed which connection, person, rule and release of a business, from what to what. */
export function makeChanges({ tables }: Context) {
  const whereOf = (businessId: string, { find, kind }: ChangeLogQuery): WhereOptions<ChangeRow> => {
    const like = { [Op.like]: likeText(find) };
    return {
      businessId,
      ...(kind ? { kind } : {}),
      ...(find ? { [Op.or]: [{ subject: like }, { was: like }, { became: like }] } : {}),
    };
  };

  /** @param before only what was changed before that one */
  async function read(
    businessId: string,
    query: ChangeLogQuery,
    part: { limit: number; offset: number },
    before: string | null = null,
  ) {
    const rows = plain(
      await tables.changeLog.findAll({
        where: {
          ...whereOf(businessId, query),
          ...(before ? { id: { [Op.lt]: before } } : {}),
        } as WhereOptions<ChangeRow>,
        order: [['id', 'DESC']],
        ...part,
      }),
    );
    const ids = [...new Set(rows.flatMap(({ personId }) => personId ?? []))];
    const people = plain(await tables.people.findAll({ attributes: ['id', 'name'], where: { id: ids } }));
    const names = new Map(people.map(({ id, name }) => [id, name]));
    return rows.map(({ id, at, personId, kind, subject, was, became }): ChangeLogRow => ({
      id,
      at: at.toISOString(),
      by: personId ? (names.get(personId) ?? 'somebody who left') : 'the operator',
      kind,
      subject,
      was,
      became,
    }));
  }

  return {
    /** Notes what was changed, in the transaction that changes it. @param personId null for a command of the operator */
    async note(
      businessId: string,
      personId: string | null,
      changes: Change[],
      transaction: Transaction | null = null,
    ): Promise<void> {
      if (changes.length === 0) return;
      await tables.changeLog.bulkCreate(
        changes.map(({ kind, subject, was, became }) => ({
          businessId,
          id: newId(),
          at: now(),
          personId,
          kind,
          subject: subject.slice(0, 300),
          was: was.slice(0, longest),
          became: became.slice(0, longest),
        })),
        { transaction },
      );
    },

    async page({ business }: Membership, query: ChangeLogQuery): Promise<ChangeLogView> {
      const [rows, total] = await Promise.all([
        read(business.id, query, { limit: pageSize, offset: (query.page - 1) * pageSize }),
        tables.changeLog.count({ where: whereOf(business.id, query) }),
      ]);
      const narrowed = query.find !== '' || query.kind !== '';
      return {
        sentence:
          total === 0
            ? {
                title: narrowed ? 'No change matches.' : 'Nothing has been changed yet.',
                under: 'Changes of connections, people, rules and releases are kept here, with who made them.',
              }
            : {
                title: `${counted(total, 'change', 'changes')}${narrowed ? (total === 1 ? ' matches' : ' match') : ' so far'}.`,
                under: 'Each says who changed what, from what to what. Keys are never written down.',
              },
        rows,
        total,
        pageSize,
        timeZone: business.timeZone,
      };
    },

    /** Changes before one of them, newest first. */
    async before({ business }: Membership, id: string | null, limit: number): Promise<ChangeLogRow[]> {
      return read(business.id, { find: '', kind: '', descending: 'yes', page: 1 }, { limit, offset: 0 }, id);
    },

    /** All of them, part by part, for a file. */
    async *all({ business }: Membership, query: ChangeLogQuery): AsyncGenerator<ChangeLogRow[]> {
      for (let offset = 0; offset < mostInFile; offset += 2000) {
        // eslint-disable-next-line no-await-in-loop -- a part is read once the one before is taken
        const rows = await read(business.id, query, { limit: 2000, offset });
        if (rows.length > 0) yield rows;
        if (rows.length < 2000) return;
      }
    },
  };
}
