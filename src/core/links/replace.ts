import { readLanding } from './landing';

export interface Replaced {
  id: string;
  before: string;
  after: string;
  /** What is wrong with the new address; '' where nothing is. */
  wrong: string;
}

/**
 * Finds a text in links and puts another in its place, everywhere it stands. Links without it are left out.
 * Nothing is changed yet: this is the before and after.
 */
export function replaceInLinks(links: { id: string; url: string }[], find: string, put: string): Replaced[] {
  if (find === '') return [];
  return links.flatMap(({ id, url }) => {
    if (!url.includes(find)) return [];
    const after = url.replaceAll(find, () => put);
    const read = readLanding(after);
    return [{ id, before: url, after, wrong: 'problem' in read ? `${read.problem.was}. ${read.problem.fix}` : '' }];
  });
}
