import { Op } from 'sequelize';
import { AvrixError } from '../../core/errors';
import type { DayNote, DayNoteGiven } from '../../core/results/day-note';
import { now } from '../clock';
import type { Context } from '../context';
import { plain, type DayNoteRow } from '../db';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';

/** Notes of one course at most: more of them would be read by nobody. */
const mostNotes = 100;

/** What a business notes of its days. */
export function makeDayNotes({ tables }: Pick<Context, 'tables'>) {
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
      await tables.dayNotes.create(row);
      return { id: row.id, day, text, by: byName };
    },

    /** Takes one out, or brings it back. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async retire(membership: Membership, id: string, retired: boolean): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id };
      if (!(await tables.dayNotes.findOne({ where }))) throw new AvrixError('AVX_NOT_FOUND', { what: 'note' });
      await tables.dayNotes.update({ retiredAt: retired ? now() : null }, { where });
    },
  };
}
export type DayNotes = ReturnType<typeof makeDayNotes>;
