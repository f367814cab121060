import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { columnName, selectRows, text, time, whole, yes, type Family } from '../../src/server/db';
import { definitions } from '../../src/server/db/tables';
import { idAt, makePlace, noon, rowsOf } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
beforeAll(async () => void (place = await makePlace()));
afterAll(() => place.end());

/** What the database calls each type of column. */
const families: Record<string, Family> = {
  uuid: 'uuid',
  varchar: 'text',
  char: 'text',
  enum: 'text',
  longtext: 'text',
  int: 'whole',
  smallint: 'whole',
  tinyint: 'whole',
  bigint: 'bigint',
  datetime: 'time',
  date: 'day',
  varbinary: 'bytes',
  mediumblob: 'bytes',
};

interface Found {
  table: string;
  name: string;
  type: string;
  full: string;
  isNullable: string;
  key: string;
}

describe('the tables as the code names them', () => {
  it('have the columns, types and keys of the database, every table of it and every column that it does not work out itself', async () => {
    const found = await rowsOf<Found>(
      place.db,
      `SELECT c.table_name AS \`table\`, c.column_name AS name, c.data_type AS type, c.column_type AS full,
         c.is_nullable AS isNullable, c.column_key AS \`key\`
       FROM information_schema.columns c
       WHERE c.table_schema = DATABASE() AND c.table_name <> 'migrations' AND c.is_generated = 'NEVER' ORDER BY c.table_name, c.column_name`,
    );
    const checks = await rowsOf<{ table: string; clause: string }>(
      place.db,
      `SELECT table_name AS \`table\`, check_clause AS clause FROM information_schema.check_constraints
       WHERE constraint_schema = DATABASE()`,
    );
    const json = new Set(checks.map(({ table, clause }) => `${table} ${clause}`));
    const inDatabase = found.map(({ table, name, type, full, isNullable, key }) =>
      [
        ...[
          table,
          name,
          json.has(`${table} json_valid(\`${name}\`)`) ? 'json' : full === 'tinyint(1)' ? 'yes' : families[type],
        ],
        ...[isNullable === 'YES' ? 'or NULL' : '', key === 'PRI' ? 'key' : ''],
      ].join(' '),
    );
    const inCode = Object.values(definitions).flatMap(({ name: table, keys, columns }) =>
      Object.entries(columns).map(([name, { family, isNullable }]) =>
        [
          ...[table, columnName(name), family, isNullable ? 'or NULL' : ''],
          (keys as readonly string[]).includes(name) ? 'key' : '',
        ].join(' '),
      ),
    );
    expect(inCode.sort()).toEqual(inDatabase.sort());
  });
});

it('one row that is looked for is the only one read, whatever it is looked for by', async () => {
  const said: string[] = [];
  await place.services.context.tables.hits.findOne({
    where: { businessId: idAt(noon, 1) },
    logging: (sql) => void said.push(sql),
  });
  expect(said).toEqual([expect.stringMatching(/LIMIT 1;$/)]);
});

describe('what a query reads', () => {
  const read = (shape: Parameters<typeof selectRows>[1]) => selectRows(place.db, shape, '', []);

  it('comes as what it was said to be, sums and truths too', async () => {
    const shape = {
      sum: whole().of('(SELECT SUM(1) FROM (SELECT 1 UNION ALL SELECT 2) AS two)'),
      truth: yes().of('1 > 0'),
      nothing: text().nullable().of('NULL'),
      at: time().of("CAST('2027-02-15 09:42:00.123' AS DATETIME(3))"),
    };
    expect(await read(shape)).toEqual([
      { sum: 2, truth: true, nothing: null, at: new Date('2027-02-15T09:42:00.123Z') },
    ]);
  });

  it.each([
    ['NULL where none may be', text().of('NULL')],
    ['a word for a number', whole().of("'many'")],
    ['a number larger than can be told exactly', whole().of('9007199254740993')],
    ['text for a time', time().of("'2027-02-15'")],
  ])('is refused as %s, with the name of the column', async (_, column) => {
    await expect(read({ odd: column })).rejects.toThrow(/^Column odd/);
  });
});
