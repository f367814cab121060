import type { GridRow } from './combine';
import { longestLink, readLanding } from './landing';
import { checkTags, type LinkPlan, type LinkProblem } from './check-tags';
import { queryOf, tagLink } from './link';

export interface MadeRow {
  /** '' where the landing page cannot be read. */
  link: string;
  problems: LinkProblem[];
  /** Index of the first row with the same link, or null. */
  sameAs: number | null;
}

/** The links of a grid's rows with what is wrong in each; links that stand there twice name the first. */
export function makeRows(plan: LinkPlan, rows: GridRow[]): MadeRow[] {
  const first = new Map<string, number>();
  return rows.map(({ landing, tags }, index) => {
    const read = readLanding(landing);
    const values = Object.entries(tags);
    const others = 'url' in read ? queryOf(read.url.href) : [];
    const problems = checkTags(plan, values, others);
    if ('problem' in read)
      return {
        link: '',
        problems: [
          { tag: '', code: 'value', words: `Landing page: ${read.problem.was}. ${read.problem.fix}`, repaired: null },
          ...problems,
        ],
        sameAs: null,
      };
    const order = plan.tags.map(({ tag }) => tag);
    const sorted = values.sort(([a], [b]) => order.indexOf(a) - order.indexOf(b));
    const link = tagLink(read.url, sorted, plan.names);
    if (link.length > longestLink)
      problems.push({ tag: '', code: 'long', words: `It has ${link.length} characters.`, repaired: null });
    const sameAs = first.get(link) ?? null;
    if (sameAs === null) first.set(link, index);
    return { link, problems, sameAs };
  });
}

/** Rows with every value that has a repair repaired; the others as they are. */
export function repairRows(rows: GridRow[], made: MadeRow[]): { rows: GridRow[]; repaired: number } {
  let repaired = 0;
  const next = rows.map((row, index) => {
    const repairs = (made[index]?.problems ?? []).flatMap(({ tag, repaired: value }) =>
      tag && value !== null ? [[tag, value] as const] : [],
    );
    repaired += repairs.length;
    return repairs.length === 0 ? row : { ...row, tags: { ...row.tags, ...Object.fromEntries(repairs) } };
  });
  return { rows: next, repaired };
}
