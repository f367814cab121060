import type { CellColumn, Cells } from '../grid/cells';
import type { Plan } from '../plan';
import type { GridRow } from './combine';

/** The landing page stands first in a grid of links, then the plan's tags. */
export const landingColumn = 'landing';

export const linkColumns = ({ tags }: Pick<Plan, 'tags'>): CellColumn[] => [
  { key: landingColumn, heading: 'Landing page' },
  ...tags.map(({ tag, name }) => ({ key: tag, heading: name })),
];

export const cellsOf = ({ landing, tags }: GridRow): Cells => ({ ...tags, [landingColumn]: landing });

export function rowOfCells(cells: Cells): GridRow {
  const { [landingColumn]: landing = '', ...tags } = cells;
  return { landing, tags };
}
