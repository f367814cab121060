import { DataTypes, type DataType } from 'sequelize';

/** What the database calls the types a column can have; see tests/service/tables.test.ts. */
export type Family = 'uuid' | 'text' | 'whole' | 'bigint' | 'yes' | 'time' | 'day' | 'json' | 'bytes';

/**
 * A column of a table, or an expression that reads like one. A table's rows, its model and what a query reads of it all
 * come from its columns, so that they cannot differ.
 */
export interface Column<T> {
  readonly family: Family;
  /** What Sequelize makes of it. */
  readonly type: DataType;
  readonly isNullable: boolean;
  /** The SQL it is read by; null: the column of its own name. */
  readonly sql: string | null;
  /** The value as the driver gave it, or the error that it is not of this type. */
  read(value: unknown): T;
  nullable(): Column<T | null>;
  /** The same, read by an expression, such as `whole().of('SUM(arrivals)')`. */
  of(sql: string): Column<T>;
}

function column<T>(family: Family, type: DataType, read: (value: unknown) => T | undefined): Column<T> {
  const readStrictly = (value: unknown): T => {
    const given = value === null ? undefined : read(value);
    if (given === undefined) throw new TypeError(`${value === null ? 'NULL' : JSON.stringify(value)} is no ${family}`);
    return given;
  };
  const made = <U>(isNullable: boolean, sql: string | null, reading: (value: unknown) => U): Column<U> => ({
    family,
    type,
    isNullable,
    sql,
    read: reading,
    nullable: () => made<U | null>(true, sql, (value) => (value === null ? null : reading(value))),
    of: (expression) => made(isNullable, expression, reading),
  });
  return made(false, null, readStrictly);
}

const string = <T extends string>(value: unknown) => (typeof value === 'string' ? (value as T) : undefined);

/** Sums arrive as text, large numbers as BigInt. */
function number(value: unknown): number | undefined {
  const given = typeof value === 'string' || typeof value === 'bigint' ? Number(value) : value;
  return typeof given === 'number' && Number.isSafeInteger(given) ? given : undefined;
}

/** MariaDB's own type, which Sequelize's UUID is not. */
export const uuid = () => column<string>('uuid', 'UUID', string);
export const text = <T extends string = string>() => column<T>('text', DataTypes.STRING, string<T>);
export const whole = () => column<number>('whole', DataTypes.INTEGER, number);
/** Money in minor units, always a safe integer. */
export const bigint = () => column<number>('bigint', DataTypes.BIGINT, number);
export const yes = () =>
  column<boolean>('yes', DataTypes.BOOLEAN, (value) =>
    typeof value === 'boolean' ? value : value === 1 ? true : value === 0 ? false : undefined,
  );
/** A moment in UTC, with milliseconds. */
export const time = () =>
  column<Date>('time', DataTypes.DATE(3), (value) => (value instanceof Date ? value : undefined));
/** A day of the business or of an account's zone, YYYY-MM-DD. */
export const day = () => column<string>('day', DataTypes.DATEONLY, string);
/** A JSON column, which the driver has parsed. What was taken out of one by a function is text. */
export const json = <T>() => column<T>('json', DataTypes.JSON, (value) => value as T);
export const bytes = () =>
  column<Buffer>('bytes', DataTypes.BLOB, (value) => (Buffer.isBuffer(value) ? value : undefined));

/** A moment in ms, read by an expression: of a million rows, dates take longer to make than all the rest of them. */
export const msOf = (sql: string) => whole().of(`TIMESTAMPDIFF(MICROSECOND, '1970-01-01', ${sql}) DIV 1000`);

export type Shape = Record<string, Column<unknown>>;
/** What is read of a shape. */
export type Read<S extends Shape> = { -readonly [K in keyof S]: S[K] extends Column<infer T> ? T : never };

/** A table: its name, what its primary key is made of, and its columns by their names in the code. */
export interface TableDefinition<S extends Shape> {
  readonly name: string;
  readonly keys: readonly string[];
  readonly columns: S;
}
export type RowOf<T> = T extends TableDefinition<infer S> ? Read<S> : never;

export const defineTable = <S extends Shape>(
  name: string,
  keys: readonly (keyof S & string)[],
  columns: S,
): TableDefinition<S> => ({ name, keys, columns });

/** A column's name in the database. */
export const columnName = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** Some of a table's columns, under the alias that the query gives the table. */
export function pick<S extends Shape, const Names extends readonly (keyof S & string)[]>(
  { columns }: TableDefinition<S>,
  names: Names,
  alias = '',
): Pick<S, Names[number]> {
  const prefix = alias && `${alias}.`;
  return Object.fromEntries(
    names.map((name) => [name, columns[name]!.of(prefix + columnName(name))]),
  ) as unknown as Pick<S, Names[number]>;
}

/** Columns of a table that a row may have no row of (LEFT JOIN). */
export function orNull<S extends Shape>(shape: S): { [K in keyof S]: Column<Read<S>[K] | null> } {
  return Object.fromEntries(Object.entries(shape).map(([name, one]) => [name, one.nullable()])) as {
    [K in keyof S]: Column<Read<S>[K] | null>;
  };
}
