import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { columnName, type Read, type Shape } from './columns';

/**
 * Rows of a query that the models cannot say. The columns are written from what is wanted of each row, and what comes
 * back is checked to be that.
 *
 * @param shape what a row has, each a column or an expression
 * @param rest the statement from FROM on
 */
export async function selectRows<S extends Shape>(
  db: Sequelize,
  shape: S,
  rest: string,
  replacements: unknown[],
  transaction: Transaction | null = null,
): Promise<Read<S>[]> {
  const columns = Object.entries(shape);
  const list = columns.map(([name, column]) => `${column.sql ?? columnName(name)} AS \`${name}\``).join(', ');
  const rows = await db.query<Record<string, unknown>>(`SELECT ${list} ${rest}`, {
    replacements,
    type: QueryTypes.SELECT,
    transaction,
  });
  for (const [name, column] of columns)
    try {
      for (const row of rows) row[name] = column.read(row[name]);
    } catch (error) {
      throw new TypeError(`Column ${name} of “${rest.trim().slice(0, 60)}”: ${(error as Error).message}`);
    }
  return rows as Read<S>[];
}

/** The one row that an aggregate always answers. */
export async function selectOne<S extends Shape>(
  db: Sequelize,
  shape: S,
  rest: string,
  replacements: unknown[],
  transaction: Transaction | null = null,
): Promise<Read<S>> {
  const [row] = await selectRows(db, shape, rest, replacements, transaction);
  if (!row) throw new TypeError(`“${rest.trim().slice(0, 60)}” answered no row`);
  return row;
}
