import { Op, type Transaction } from 'sequelize';
import { pageOf, type FormOnPage } from '../../core/capture';
import type { Context } from '../context';
import { insertRows, plain, type FormSeenRow } from '../db';
import type { SpooledHit } from './spool/store';

/**
 * Keeps every form that pages told of as it stood there last. Which hit comes first makes no difference, and the same hit
 * again changes nothing.
 */
export async function storeForms({ tables }: Context, hits: SpooledHit[], transaction: Transaction): Promise<void> {
  const rows = new Map<string, FormSeenRow>();
  const add = (row: FormSeenRow) => {
    const before = rows.get(keyOf(row));
    rows.set(keyOf(row), before ? merge(before, row) : row);
  };
  for (const row of hits) if (row.hit.kind === 'forms_seen') for (const form of row.hit.forms) add(toRow(row, form));
  if (rows.size === 0) return;
  const known = await tables.formsSeen.findAll({
    where: { [Op.or]: [...rows.values()].map(({ businessId, form, page }) => ({ businessId, form, page })) },
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  plain(known).forEach(add);
  await insertRows(
    tables.formsSeen,
    [...rows.values()],
    ['fields', 'fills', 'releaseNumber', 'firstAt', 'lastAt'],
    transaction,
  );
}

const keyOf = ({ businessId, form, page }: FormSeenRow) => `${businessId} ${form}\n${page}`;

function toRow({ business, hit, at }: SpooledHit, { form, fields, fills }: FormOnPage): FormSeenRow {
  return {
    businessId: business,
    form,
    page: pageOf(hit.address),
    fields,
    fills,
    releaseNumber: hit.release,
    firstAt: new Date(at),
    lastAt: new Date(at),
  };
}

/** The newer of two sights of a form; of two at the same moment that of the newer release. */
function merge(a: FormSeenRow, b: FormSeenRow): FormSeenRow {
  const isNewer = b.lastAt.getTime() - a.lastAt.getTime() || b.releaseNumber - a.releaseNumber;
  return {
    ...(isNewer > 0 ? b : a),
    firstAt: new Date(Math.min(a.firstAt.getTime(), b.firstAt.getTime())),
  };
}
