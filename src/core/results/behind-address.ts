import { neededFor, type Counted } from './measures';

/**
 * Where the rows behind a figure are, below Results: enquiries and outcomes, or visits, or what ads cost.
 *
 * @param asked what figures are asked for, as it stands in an address
 * @param row the cells of its row, as JSON; null for all of them together
 */
export function behindAddress(asked: Record<string, string>, of: Counted, row: string | null): string {
  const { by, range, from, to } = asked;
  const ofCost = of === 'clicks' || neededFor([of])[0] === 'cost';
  if (of !== 'visits' && of !== 'visitors' && !ofCost)
    return `behind?${new URLSearchParams({ ...asked, of, ...(row === null ? {} : { row }) })}`;
  const query = new URLSearchParams({ range: range! });
  if (from && to) {
    query.set('from', from);
    query.set('to', to);
  }
  if (of === 'visitors') query.set('first', 'yes');
  if (row !== null) {
    query.set('by', by!);
    query.set('row', row);
  }
  return `${ofCost ? 'cost' : 'visits'}?${query}`;
}
