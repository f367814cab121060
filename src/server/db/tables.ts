import type { Model, ModelAttributes, ModelStatic, Sequelize } from 'sequelize';
import * as filed from '../outcomes/filed/table';
import * as conversions from '../conversions/table';
import * as businesses from '../businesses/table';
import * as changes from '../changes/table';
import * as capture from '../capture/table';
import * as events from '../events/table';
import * as calls from '../leads/calls/table';
import * as leads from '../leads/table';
import * as erasing from '../leads/erasing/table';
import * as routines from '../leads/routines/table';
import * as mail from '../mail/table';
import * as segments from '../leads/segments/table';
import * as links from '../links/table';
import * as orders from '../orders/table';
import * as notices from '../outcomes/notices/table';
import * as outcomes from '../outcomes/table';
import * as people from '../people/table';
import * as plan from '../plan/table';
import * as platforms from '../platforms/table';
import * as rehearsals from '../rehearsals/table';
import * as releases from '../releases/table';
import * as reportbacks from '../reportbacks/table';
import * as results from '../results/table';
import * as rollups from '../rollups/table';
import * as strands from '../strands/table';
import * as subscriptions from '../subscriptions/table';
import type { RowOf, Shape, TableDefinition } from './columns';
import * as own from './table';

/** Every table, by the name that the code calls it; each domain writes its own. */
export const definitions = {
  ...own,
  ...businesses,
  ...changes,
  ...people,
  ...releases,
  ...plan,
  ...links,
  ...platforms,
  ...capture,
  ...strands,
  ...leads,
  ...calls,
  ...erasing,
  ...routines,
  ...mail,
  ...segments,
  ...orders,
  ...subscriptions,
  ...conversions,
  ...filed,
  ...events,
  ...outcomes,
  ...notices,
  ...reportbacks,
  ...results,
  ...rollups,
  ...rehearsals,
};

export type Table<Row extends object> = ModelStatic<Model<Row, Partial<Row>>>;
export type Tables = { [K in keyof typeof definitions]: Table<RowOf<(typeof definitions)[K]>> };

/** One model for each table; the migrations make the tables, their models only name their columns. */
export function defineTables(db: Sequelize): Tables {
  const model = ({ name, keys, columns }: TableDefinition<Shape>) =>
    db.define(
      name,
      Object.fromEntries(
        Object.entries(columns).map(([column, { type }]) => [column, { type, primaryKey: keys.includes(column) }]),
      ) as ModelAttributes,
      { tableName: name },
    );
  return Object.fromEntries(
    Object.entries<TableDefinition<Shape>>(definitions).map(([name, definition]) => [name, model(definition)]),
  ) as unknown as Tables;
}

/** Rows of a model as plain objects with the types their interface promises. */
export function plain<Row extends object>(models: Model<Row, Partial<Row>>[]): Row[] {
  return models.map((model) => model.get({ plain: true }) as Row);
}
