import type { TouchValues } from '../../core/results/dimensions';
import type { OriginColumn } from './queries';

type ValueColumn = Exclude<OriginColumn, 'day'>;

/** What a touch came with as a JSON list: one text, the same for all that are alike. @param alias of the table */
export const valuesSql = (columns: readonly ValueColumn[], alias = ''): string => {
  const own = alias && `${alias}.`;
  const sql = (name: ValueColumn) =>
    name === 'referrer_host' ? `SUBSTRING_INDEX(${own}referrer, '/', 1)` : `${own}${name}`;
  return `JSON_ARRAY(${columns.map(sql).join(', ')})`;
};

export const noValues: TouchValues = {
  source: '',
  medium: '',
  campaign: '',
  content: '',
  term: '',
  platform: '',
  referrerHost: '',
  landing: '',
};

/**
 * What touches came with, one object for all that are alike.
 *
 * @param columns in the order of the lists that the texts are, see `valuesSql`
 */
export function makeValues(columns: readonly ValueColumn[]) {
  const known = new Map<string, TouchValues>();
  return (text: string): TouchValues => {
    let values = known.get(text);
    if (!values) {
      values = { ...noValues };
      const list = JSON.parse(text) as string[];
      for (const [i, name] of columns.entries()) values[name === 'referrer_host' ? 'referrerHost' : name] = list[i]!;
      known.set(text, values);
    }
    return values;
  };
}
