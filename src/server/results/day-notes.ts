import { Op, type Transaction } from 'sequelize';
import { AvrixError } from '../../core/errors';
import type { DayNote, DayNoteGiven } from '../../core/results/kept';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type DayNoteRow } from '../db';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';

/** Notes of one course at most: more of them would be read by nobody. */
const mostNotes = 100;

/** What a business notes of its days. */
export function makeDayNotes({ db, tables }: Pick<Context, 'db' | 'tables'>, changes: Changes) {
  const note = ({ business, role }: Membership, day: string, was: string, became: string, transaction: Transaction) =>
    changes.note(business.id, role.personId, [{ kind: 'result', subject: `Note of ${day}`, was, became }], transaction);

  /** Those of some days, the oldest first. */
  async function within(businessId: string, firstDay: string, lastDay: string): Promise<DayNote[]> {
    const rows = await tables.dayNotes.findAll({
      where: { businessId, retiredAt: null, day: { [Op.between]: [firstDay, lastDay] } },
      order: [
        ['day', 'DESC'],
        ['id', 'DESC'],
      ],
      limit: mostNotes,
    });
    return plain(rows)
      .reverse()
      .map(({ id, day, text, madeBy }) => ({ id, day, text, by: madeBy }));
  }

  return {
    within,

    /** @throws AVX_ROLE_TOO_SMALL */
    async add(membership: Membership, byName: string, { day, text }: DayNoteGiven): Promise<DayNote> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const row: DayNoteRow = { businessId, id: newId(), day, text, madeBy: byName, madeAt: now(), retiredAt: null };
      await inTransaction(db, async (transaction) => {
        await tables.dayNotes.create(row, { transaction });
        await note(membership, day, '', text, transaction);
      });
      return { id: row.id, day, text, by: byName };
    },

    /** Takes one out, or brings it back. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async retire(membership: Membership, id: string, retired: boolean): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id };
      const row = (await tables.dayNotes.findOne({ where }))?.get({ plain: true });
      if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'note' });
      await inTransaction(db, async (transaction) => {
        await tables.dayNotes.update({ retiredAt: retired ? now() : null }, { where, transaction });
        await note(membership, row.day, retired ? row.text : '', retired ? '' : row.text, transaction);
      });
    },
  };
}
export type DayNotes = ReturnType<typeof makeDayNotes>;
