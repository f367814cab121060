/* eslint-disable no-await-in-loop -- statements are bounded by bytes, in one transaction */
import type { Connection } from 'mariadb';
import type { Transaction } from 'sequelize';
import type { Table } from './tables';

/** As the database writes a time. One that no calendar holds is given as it is, for the database to refuse. */
const timeText = (time: Date) =>
  Number.isNaN(time.getTime()) ? String(time) : time.toISOString().slice(0, 23).replace('T', ' ');

type Value = string | number | boolean | Buffer | null;

function valueText(value: unknown): Value {
  if (value instanceof Date) return timeText(value);
  if (Buffer.isBuffer(value)) return value;
  if (typeof value === 'object' && value !== null) return JSON.stringify(value);
  return (value ?? null) as Value;
}

/** The transaction's own connection. Sequelize writes values into the text by itself, several times slower. */
const connectionOf = (transaction: Transaction) =>
  (transaction as unknown as { connection: Pick<Connection, 'query'> }).connection;

/** Bytes of one statement, about: a server takes 16 MB unless it is told otherwise, and waits for nothing else meanwhile. */
const mostBytes = 4 * 2 ** 20;

const sizeOf = (value: Value): number => (typeof value === 'string' || Buffer.isBuffer(value) ? 2 * value.length : 10);

/** Values of rows in parts that one statement holds each. */
function inParts(rows: Value[][]): Value[][][] {
  const parts: Value[][][] = [[]];
  let bytes = 0;
  for (const row of rows) {
    const size = row.reduce<number>((sum, value) => sum + sizeOf(value), 0);
    if (bytes + size > mostBytes && parts.at(-1)!.length > 0) {
      parts.push([]);
      bytes = 0;
    }
    parts.at(-1)!.push(row);
    bytes += size;
  }
  return parts;
}

/**
 * Inserts rows by one statement, or by several where they are large. Where a row with the same key is there, only what
 * `update` names is set anew. For bulk paths; a model's `bulkCreate` builds an instance of every row.
 *
 * @param rows all with the same columns
 */
export async function insertRows<Row extends object>(
  table: Table<Row>,
  rows: Partial<Row>[],
  update: (keyof Row & string)[],
  transaction: Transaction,
): Promise<void> {
  if (rows.length === 0) return;
  const attributes = table.getAttributes();
  const columns = Object.keys(rows[0]!) as (keyof Row & string)[];
  const field = (column: keyof Row & string) => `\`${attributes[column].field}\``;
  const places = `(${columns.map(() => '?').join(',')})`;
  const set = update.length > 0 ? update : [columns[0]!];
  for (const part of inParts(rows.map((row) => columns.map((column) => valueText(row[column])))))
    await connectionOf(transaction).query(
      `INSERT INTO \`${table.tableName}\` (${columns.map(field).join(',')}) VALUES ${part.map(() => places).join(',')}
       ON DUPLICATE KEY UPDATE ${set.map((column) => `${field(column)} = VALUES(${field(column)})`).join(', ')}`,
      part.flat(),
    );
}
