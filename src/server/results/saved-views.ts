import { AvrixError } from '../../core/errors';
import type { SavedView, SavedViewGiven } from '../../core/results/saved-view';
import { now } from '../clock';
import type { Context } from '../context';
import { plain, type FigureViewRow } from '../db';
import { newId } from '../ids';
import { refuseTakenName } from '../leads/taken-name';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';

/** Figures that a business keeps under names. */
export function makeSavedViews({ tables }: Pick<Context, 'tables'>) {
  const readAll = async (businessId: string): Promise<FigureViewRow[]> =>
    plain(await tables.figureViews.findAll({ where: { businessId }, order: [['name', 'ASC']] }));

  const list = async (businessId: string): Promise<SavedView[]> =>
    (await readAll(businessId))
      .filter(({ retiredAt }) => retiredAt === null)
      .map(({ id, name, query, madeBy }) => ({ id, name, query, by: madeBy }));

  return {
    list,

    /** Keeps what is asked for; another one of the name is never written over. @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG where the name is taken */
    async save(membership: Membership, byName: string, { name, query }: SavedViewGiven): Promise<SavedView[]> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      refuseTakenName(await list(businessId), { id: '', name }, 'a saved view');
      const row: FigureViewRow = {
        businessId,
        id: newId(),
        name,
        query,
        madeBy: byName,
        madeAt: now(),
        retiredAt: null,
      };
      await tables.figureViews.create(row);
      return list(businessId);
    },

    /** Takes one out, or brings it back. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where another one has the name by now */
    async retire(membership: Membership, id: string, retired: boolean): Promise<SavedView[]> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const row = (await readAll(businessId)).find((one) => one.id === id);
      if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'saved view' });
      if (!retired) refuseTakenName(await list(businessId), row, 'a saved view');
      await tables.figureViews.update({ retiredAt: retired ? now() : null }, { where: { businessId, id } });
      return list(businessId);
    },
  };
}
export type SavedViews = ReturnType<typeof makeSavedViews>;
