import type { Transaction } from 'sequelize';
import { AvrixError } from '../../core/errors';
import type { SavedKind, SavedView, SavedViewGiven } from '../../core/results/kept';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type FigureViewRow } from '../db';
import { newId } from '../ids';
import { refuseTakenName } from '../taken-name';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';

/** Figures and funnels that a business keeps under names. */
export function makeSavedViews({ db, tables }: Pick<Context, 'db' | 'tables'>, changes: Changes) {
  const note = ({ business, role }: Membership, name: string, was: string, became: string, transaction: Transaction) =>
    changes.note(business.id, role.personId, [{ kind: 'result', subject: `View “${name}”`, was, became }], transaction);

  const readAll = async (businessId: string): Promise<FigureViewRow[]> =>
    plain(await tables.figureViews.findAll({ where: { businessId }, order: [['name', 'ASC']] }));

  const list = async (businessId: string, kind: SavedKind): Promise<SavedView[]> =>
    (await readAll(businessId))
      .filter((row) => row.kind === kind && row.retiredAt === null)
      .map(({ id, name, query, madeBy }) => ({ id, name, query, by: madeBy }));

  return {
    list,

    /** Keeps what is asked for; another one of the name is never written over. @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG where the name is taken */
    async save(membership: Membership, byName: string, { kind, name, query }: SavedViewGiven): Promise<SavedView[]> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      refuseTakenName(await list(businessId, kind), { id: '', name }, 'a saved view');
      const row: FigureViewRow = {
        businessId,
        id: newId(),
        kind,
        name,
        query,
        madeBy: byName,
        madeAt: now(),
        retiredAt: null,
      };
      await inTransaction(db, async (transaction) => {
        await tables.figureViews.create(row, { transaction });
        await note(membership, name, '', 'saved', transaction);
      });
      return list(businessId, kind);
    },

    /** Takes one out, or brings it back. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where another one has the name by now */
    async retire(membership: Membership, id: string, retired: boolean): Promise<SavedView[]> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const row = (await readAll(businessId)).find((one) => one.id === id);
      if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'saved view' });
      if (!retired) refuseTakenName(await list(businessId, row.kind), row, 'a saved view');
      await inTransaction(db, async (transaction) => {
        const where = { businessId, id };
        await tables.figureViews.update({ retiredAt: retired ? now() : null }, { where, transaction });
        await note(membership, row.name, retired ? 'saved' : '', retired ? '' : 'saved', transaction);
      });
      return list(businessId, row.kind);
    },
  };
}
export type SavedViews = ReturnType<typeof makeSavedViews>;
